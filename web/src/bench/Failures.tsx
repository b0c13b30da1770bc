import { useAnalysisPart } from "../study/context";

/** Parts that Ridge itself failed on, named above the bench; all the rest is there. */
export function Failures() {
  const failures = useAnalysisPart((analysis) => analysis.failures);
  if (!failures.length) return null;
  const named = failures.length > 1 ? `${failures.slice(0, -1).join(", ")} and ${failures.at(-1)}` : failures[0];
  return (
    <div role="status" className="no-print bg-amber-well px-4 py-2 text-plain text-amber">
      Ridge could not compute {named}. Your readings are safe, everything else stands, and it is tried again when the study is next opened
      or changed.
    </div>
  );
}
