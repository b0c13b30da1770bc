import { Typeset } from "../ui/Typeset";

/** The text of a step: between dollar signs LaTeX, between asterisks stressed, the rest as it was typed. */
export function StepWords({ text }: { text: string }) {
  return (
    <p className="[overflow-wrap:anywhere] whitespace-pre-line">
      {text.split(/(\$[^$\n]+\$|\*[^*\n]+\*)/).map((part, place) => {
        const inner = part.slice(1, -1);
        if (place % 2 === 0) return part;
        return part.startsWith("$") ? <Typeset key={place} latex={inner} text={inner} /> : <em key={place}>{inner}</em>;
      })}
    </p>
  );
}
