import { memo, type RefObject } from "react";

import { keysOf } from "../ui/keys";
import { GridCell } from "./GridCell";
import { OffBar } from "./OffBar";
import type { GridControl } from "./useGrid";

export const ROW_HEIGHT = 26;

export interface RowProps {
  row: number;
  top: number;
  template: string;
  texts: string[];
  labels: string[];
  /** The keyboard that each column asks for, with spaces between them. */
  modes: string;
  xColumn: number;
  problemColumn: number;
  problem: string;
  aside: string | undefined;
  assumed: string | undefined;
  /** A 1 for every column that is calculated. */
  calculated: string;
  unknown: string;
  /** Why each calculated cell has no value, with NUL between them. */
  noValue: string;
  share: number | null;
  lit: boolean;
  /** Whether what is pointed at in a working comes from it. */
  source: boolean;
  litFrom: number;
  litTo: number;
  /** Which corners of the selected block lie in this row: top, bottom or both. */
  corners: string;
  activeCol: number;
  editing: string | null;
  caret: boolean;
  input: RefObject<HTMLInputElement | null>;
  latest: RefObject<GridControl>;
}

function sameRow(before: RowProps, after: RowProps) {
  return keysOf(after).every((name) =>
    name === "texts" || name === "labels" ? after[name].join("\0") === before[name].join("\0") : after[name] === before[name],
  );
}

export const GridRow = memo(function GridRow(props: RowProps) {
  const { row, lit } = props;
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      aria-selected={lit}
      className={`absolute inset-x-0 grid border-b border-rule/70 ${props.source ? "bg-lichen/40" : lit ? "bg-tint" : ""} ${props.corners ? "z-[1]" : ""}`}
      style={{ gridTemplateColumns: props.template, height: ROW_HEIGHT, transform: `translateY(${props.top}px)` }}
    >
      <RowHead {...props} />
      {props.texts.map((text, col) => (
        <GridCell key={col} {...props} text={text} col={col} />
      ))}
      <span role="gridcell" aria-colindex={props.texts.length + 2} className="border-l border-rule/70">
        <OffBar share={props.share} hollow={props.aside !== undefined} />
      </span>
    </div>
  );
}, sameRow);

/** The number of the row with its marks; pressing it chooses the row. */
function RowHead({ row, lit, aside, assumed, problem, latest }: RowProps) {
  const because = (word: string, reason: string) => `${word}${reason ? `: ${reason}` : ""}`;
  const said =
    aside !== undefined ? because("Set aside", aside) : problem || (assumed !== undefined ? because("Assumed", assumed) : undefined);
  return (
    <span
      role="rowheader"
      title={said}
      onPointerDown={(event) => {
        event.preventDefault();
        latest.current.finish(true);
        latest.current.goRow(row, event.shiftKey);
      }}
      className={`flex cursor-default items-center justify-end gap-1 pr-1.5 text-note text-mute ${lit ? "" : "bg-well"}`}
    >
      {aside !== undefined && <span aria-label="set aside" role="img" className="size-2 rounded-full border border-ink bg-sheet" />}
      {assumed !== undefined && (
        <span aria-label="assumed" role="img" className="font-semibold">
          +
        </span>
      )}
      {problem && (
        <span aria-label="unusable" role="img" className="font-semibold text-amber">
          !
        </span>
      )}
      {row + 1}
    </span>
  );
}
