import { useAnalysisPart, useStudy } from "../study/context";
import { select, useView } from "../study/view";

const SHOWN = 4;

/** Rows that cannot be used, each with its reason and a way to its cell. */
export function Problems() {
  const study = useStudy();
  const all = useAnalysisPart((analysis) => analysis.problems);
  const filling = useView((view) => view.filling);
  // A row between its x and its y is not wrong: that is said when it is left without one.
  const problems = all.filter((problem) => !(problem.incomplete && problem.row === filling));
  const more = useAnalysisPart((analysis) => analysis.problems_more);
  if (!problems.length) return null;
  const rest = Math.max(0, problems.length - SHOWN) + more;
  return (
    <div className="rounded-(--radius) bg-amber-well px-3 py-2 text-plain text-amber" role="status">
      <span className="font-semibold">{problems.every((problem) => problem.incomplete) ? "Incomplete" : "Unusable"}</span>
      <ul>
        {problems.slice(0, SHOWN).map((problem) => (
          <li key={problem.row}>
            <button
              className="min-h-6 rounded-sm text-left underline-offset-2 hover:underline"
              onClick={() =>
                select({
                  row: problem.row,
                  col: Math.max(
                    0,
                    study.columns.findIndex((column) => column.key === problem.column),
                  ),
                })
              }
            >
              {problem.message}
            </button>
          </li>
        ))}
      </ul>
      {rest > 0 && <p>and {rest} more</p>}
    </div>
  );
}
