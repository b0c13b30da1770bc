/** A symbol in italics of the book face; what follows an underscore stands lower. */
export function Symbol({ text }: { text: string }) {
  const [head, ...tail] = text.split("_");
  return (
    <span className="font-book italic">
      {head}
      {tail.length > 0 && <sub className="text-[0.75em]">{tail.join("_")}</sub>}
    </span>
  );
}
