import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";

import { useAnalysisPart, useLooking, useStudy } from "../study/context";
import type { HeldColumn } from "../study/changes";
import { isLit, litColumns, litRows, useView } from "../study/view";
import { ColumnHeader } from "./ColumnHeader";
import { GridMenu } from "./GridMenu";
import { GridRow, ROW_HEIGHT } from "./GridRow";
import type { GridControl } from "./useGrid";
import { useRowNotes } from "./useRowNotes";

const BAR_WIDTH = 56;
const HOW_TO_TYPE = "Arrows move, typing replaces, F2 edits. Escape, then Tab, leaves the table.";

/** The table of readings; only the rows in sight are there, and each is drawn again only when it changes. */
export function Grid({ grid }: { grid: GridControl }) {
  const { columns } = useStudy();
  const looking = useLooking();
  const scroller = useRef<HTMLDivElement>(null);
  // Rows are drawn only when they change; their handlers always reach the newest state through this.
  const latest = useRef(grid);
  useLayoutEffect(() => {
    latest.current = grid;
    grid.settleFocus();
  });
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualiser is meant to be read on every render
  const virtual = useVirtualizer({
    count: grid.rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 10,
  });
  const { row: activeRow } = grid.active;
  const chosen = grid.selection !== null;
  useEffect(() => {
    if (chosen) virtual.scrollToIndex(activeRow);
  }, [activeRow, chosen, virtual]);
  useFocusInSight(scroller);
  const notes = useRowNotes(activeRow);
  const numberWidth = 24 + 7 * String(grid.rows).length;
  const template = `${numberWidth}px ${columns.map((column) => `minmax(${widthOf(column)}px, 1fr)`).join(" ")} ${BAR_WIDTH}px`;
  const rowProps = rowPropsOf(grid, columns, notes);
  const source = useView((view) => view.source);
  return (
    <GridMenu grid={grid}>
      <div
        ref={scroller}
        role="grid"
        onFocus={() => notes.setInside(true)}
        onBlur={(event) => notes.setInside(event.currentTarget.contains(event.relatedTarget))}
        aria-label="Readings"
        aria-description={looking ? "Arrows move. Escape, then Tab, leaves the table." : HOW_TO_TYPE}
        aria-rowcount={grid.rows + 1}
        aria-colcount={columns.length + 2}
        aria-multiselectable="true"
        aria-readonly={looking || undefined}
        className="numerals min-h-0 grow overflow-auto border border-rule bg-sheet text-plain"
      >
        <Head template={template} columns={columns} />
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: row, start }) => (
            <GridRow
              key={row}
              {...rowProps(row)}
              source={row === source}
              top={start}
              template={template}
              input={grid.input}
              latest={latest}
            />
          ))}
        </div>
      </div>
    </GridMenu>
  );
}

/** What a row shows, all of it in values that can be compared. */
function rowPropsOf(grid: GridControl, columns: HeldColumn[], notes: ReturnType<typeof useRowNotes>) {
  const lit = litRows(grid.selection);
  const [left, right] = grid.selection ? litColumns(grid.selection) : [-1, -2];
  const labels = columns.map((column) => column.name || column.symbol || column.role);
  const modes = columns.map((column) => (takesNumbers(column) ? "decimal" : "text")).join(" ");
  const calculated = columns.map((column) => (column.formula ? "1" : "0")).join("");
  const xColumn = columns.findIndex((column) => column.role === "x");
  return (row: number) => {
    const problem = notes.problemOf(row);
    const active = row === grid.active.row;
    const writing = active && grid.mode !== "ready";
    const chosen = isLit(lit, row);
    return {
      ...{ row, labels, modes, calculated, xColumn, lit: chosen },
      texts: columns.map((column) => column.cells[row] ?? ""),
      problem: problem?.message ?? "",
      problemColumn: columns.findIndex((column) => column.key === problem?.column),
      aside: notes.aside(row),
      assumed: notes.assumed(row),
      unknown: notes.unknown(row),
      noValue: notes.noValue(row),
      share: notes.share(row),
      litFrom: chosen ? left : -1,
      litTo: chosen ? right : -2,
      corners: `${lit?.[0] === row ? "top" : ""}${lit?.[1] === row ? "bottom" : ""}`,
      activeCol: active ? grid.active.col : -1,
      editing: writing ? grid.draft : null,
      caret: writing,
    };
  };
}

function Head({ template, columns }: { template: string; columns: HeldColumn[] }) {
  const letter = useAnalysisPart((analysis) => analysis.fits[0]?.letter ?? "");
  return (
    <div role="rowgroup" className="sticky top-0 z-10 bg-sheet">
      <div role="row" aria-rowindex={1} className="grid border-b border-ink" style={{ gridTemplateColumns: template }}>
        <span role="columnheader" className="bg-well">
          <span className="sr-only">Row</span>
        </span>
        {columns.map((column) => (
          <ColumnHeader key={column.key} column={column} />
        ))}
        <span
          role="columnheader"
          title={letter ? `Residual of fit ${letter}` : "Residual"}
          className="px-1.5 py-1 text-right text-note leading-tight text-mute"
        >
          resid. {letter}
        </span>
      </div>
    </div>
  );
}

/** The cell that has the focus stays in sight when the table shrinks: a message below it, a keyboard on the screen. */
function useFocusInSight(scroller: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const watch = new ResizeObserver(() => {
      const focused = document.activeElement;
      if (focused && box.contains(focused)) focused.scrollIntoView({ block: "nearest" });
    });
    watch.observe(box);
    return () => watch.disconnect();
  }, [scroller]);
}

/** Room for the longest of the first calculated cells, which are not cut off; typed ones can be looked at where they stand. */
function widthOf({ formula, cells }: HeldColumn): number {
  const longest = formula ? cells.slice(0, 2000).reduce((most, cell) => Math.max(most, cell.length), 0) : 0;
  return Math.min(120, Math.max(58, 18 + 7.4 * longest));
}

/** Whether a column takes numbers alone, so that a number keyboard will do: a clock reading needs a colon. */
function takesNumbers(column: HeldColumn): boolean {
  return column.role !== "other" && column.role !== "series";
}
