import { Typeset } from "../ui/Typeset";

/** The text of a step: between dollar signs LaTeX, the rest as it was typed. */
export function StepWords({ text }: { text: string }) {
  return (
    <p className="[overflow-wrap:anywhere] whitespace-pre-line">
      {text.split(/\$([^$\n]+)\$/).map((part, place) => (place % 2 ? <Typeset key={place} latex={part} text={part} /> : part))}
    </p>
  );
}
