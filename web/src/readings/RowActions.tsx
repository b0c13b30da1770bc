import { useStudy } from "../study/context";
import { litRows, useView } from "../study/view";
import { ReasonButton } from "./ReasonButton";
import type { GridControl } from "./useGrid";

/** What can be done with the selected rows, in one line that is there whether any are selected or not. */
export function RowActions({ grid }: { grid: GridControl }) {
  const study = useStudy();
  const lit = litRows(useView((view) => view.selection));
  if (!lit || lit[0] >= study.row_count) {
    return <p className="flex min-h-[28px] items-center text-note text-mute">Select a reading to highlight it in every view.</p>;
  }
  const inside = ({ row }: { row: number }) => row >= lit[0] && row <= lit[1];
  const aside = study.aside.filter(inside);
  const assumed = study.assumed.filter(inside);
  const count = Math.min(lit[1], study.row_count - 1) - lit[0] + 1;
  const name = count === 1 ? `Row ${lit[0] + 1}` : `Rows ${lit[0] + 1} to ${lit[0] + count}`;
  const mixed = aside.length > 0 && aside.length < count;
  return (
    <div
      role="group"
      aria-label={`${name}: what to do`}
      className="flex min-h-[28px] flex-wrap items-center gap-1 [&_.button]:gap-1 [&_.button]:px-[7px]"
    >
      {aside.length < count && (
        <ReasonButton
          word="Set aside"
          question={count === 1 ? "Reason for setting it aside?" : "Reason for setting them aside?"}
          example="the line slipped"
          note="It stays in the table, drawn hollow, and no fit uses it."
          onKeep={(reason) => grid.mark("mark_rows", reason)}
        />
      )}
      {aside.length > 0 && (
        <button className="button" onClick={() => grid.mark("mark_rows", null)}>
          Use again
        </button>
      )}
      <button className="button" onClick={grid.insertRows}>
        Insert
      </button>
      <button className="button" onClick={grid.deleteRows}>
        Delete
      </button>
      {!mixed && assumed.length < count && (
        <ReasonButton
          word="Mark as assumed"
          short="Assume"
          question="Reason for assuming it?"
          example="no load, so no stretch"
          note="For a reading that was not measured but supposed: fits use it, it is drawn dashed, and a caution says so."
          onKeep={(reason) => grid.mark("assume_rows", reason)}
        />
      )}
      {!mixed && assumed.length === count && (
        <button className="button" aria-label="Mark as measured" title="Mark as measured" onClick={() => grid.mark("assume_rows", null)}>
          Measured
        </button>
      )}
    </div>
  );
}
