import { useAnalysisPart } from "../study/context";
import { Term } from "../ui/Hint";

/** How closely x and y go together, whatever model is chosen; nothing where that cannot be said. */
export function Correlation() {
  const said = useAnalysisPart((analysis) => analysis.before_fit);
  if (!said) return null;
  return (
    <p className="mt-1 text-note text-mute">
      <Term
        word="Correlation"
        meaning="How closely x and y go together, before any model is chosen. It does not say that a line is right."
      />{" "}
      {said}
    </p>
  );
}
