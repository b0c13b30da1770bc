import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";

import { STATUS, useCalmAnalysis, useStudy } from "../study/context";
import type { HeldColumn } from "../study/changes";
import { isLit, litColumns, litRows, setView } from "../study/view";
import { ColumnHeader } from "./ColumnHeader";
import { CornerHandle } from "./CornerHandle";
import { GridMenu } from "./GridMenu";
import { OffBar } from "./OffBar";
import type { GridControl } from "./useGrid";
import { computed } from "../fits/kinds";

const ROW_HEIGHT = 26;
const BAR_WIDTH = 56;

export function Grid({ grid }: { grid: GridControl }) {
  const study = useStudy();
  const analysis = useCalmAnalysis();
  const scroller = useRef<HTMLDivElement>(null);
  // Rows are drawn only when they change; their handlers always reach the newest state through this.
  const latest = useRef(grid);
  useLayoutEffect(() => {
    latest.current = grid;
    grid.settleFocus();
  });
  const columns = study.columns;
  const numberWidth = 24 + 7 * String(grid.rows).length;
  const template = `${numberWidth}px ${columns.map((column) => `minmax(${widthOf(column)}px, 1fr)`).join(" ")} ${BAR_WIDTH}px`;

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
  // The cell that has the focus stays in sight when the table shrinks: a message below it, a keyboard on the screen.
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const watch = new ResizeObserver(() => {
      const focused = document.activeElement;
      if (focused && box.contains(focused)) focused.scrollIntoView({ block: "nearest" });
    });
    watch.observe(box);
    return () => watch.disconnect();
  }, []);

  const reasons = useMemo(() => new Map(study.aside.map(({ row, reason }) => [row, reason])), [study.aside]);
  const assumed = useMemo(() => new Map(study.assumed.map(({ row, reason }) => [row, reason])), [study.assumed]);
  const problems = useMemo(() => new Map(analysis.problems.map((problem) => [problem.row, problem])), [analysis.problems]);
  // What was already wrong with a row when it was entered is said all the time.
  const [entered, setEntered] = useState({ row: -1, known: false });
  if (entered.row !== activeRow) setEntered({ row: activeRow, known: problems.has(activeRow) });
  const [inside, setInside] = useState(false);
  const filling = inside && entered.row === activeRow && !entered.known ? activeRow : null;
  useEffect(() => setView({ filling }), [filling]);
  const unknowns = useMemo(
    () => new Map(analysis.unknowns.flatMap((unknown) => unknown.rows.map((row) => [row, unknown.short] as const))),
    [analysis.unknowns],
  );
  const noValue = useMemo(
    () => new Map(columns.map((column) => [column.key, new Map(column.no_value.map(({ row, why }) => [row, why]))])),
    [columns],
  );
  const fit = analysis.fits[0];
  const residuals = computed(fit)?.residuals;
  const largest = useMemo(
    () =>
      residuals?.reduce<number>(
        (most, value, row) => (value !== null && analysis.status[row] === STATUS.used ? Math.max(most, Math.abs(value)) : most),
        0,
      ) ?? 0,
    [residuals, analysis.status],
  );
  const modes = columns.map((column) => (takesNumbers(column) ? "decimal" : "text")).join(" ");
  const lit = litRows(grid.selection);
  const litCols = grid.selection ? litColumns(grid.selection) : null;

  const problemOf = (row: number) => {
    const problem = problems.get(row);
    return problem && !(problem.incomplete && row === filling) ? problem : undefined;
  };
  return (
    <GridMenu grid={grid}>
      <div
        ref={scroller}
        role="grid"
        onFocus={() => setInside(true)}
        onBlur={(event) => setInside(event.currentTarget.contains(event.relatedTarget))}
        aria-label="Readings"
        aria-description="Arrows move, typing replaces, F2 edits. Escape, then Tab, leaves the table."
        aria-rowcount={grid.rows + 1}
        aria-colcount={columns.length + 2}
        aria-multiselectable="true"
        className="numerals min-h-0 grow overflow-auto border border-rule bg-sheet text-[13px]"
      >
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
              title={fit ? `Residual of fit ${fit.letter}` : "Residual"}
              className="px-1.5 py-1 text-right text-[11px] leading-tight text-mute"
            >
              resid. {fit?.letter ?? ""}
            </span>
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index: row, start }) => (
            <GridRow
              key={row}
              row={row}
              top={start}
              template={template}
              texts={columns.map((column) => column.cells[row] ?? "")}
              labels={columns.map((column) => column.name || column.symbol || column.role)}
              xColumn={columns.findIndex((column) => column.role === "x")}
              problemColumn={columns.findIndex((column) => column.key === problemOf(row)?.column)}
              problem={problemOf(row)?.message ?? ""}
              modes={modes}
              aside={reasons.get(row)}
              assumed={assumed.get(row)}
              calculated={columns.map((column) => (column.formula ? "1" : "0")).join("")}
              unknown={unknowns.get(row) ?? ""}
              noValue={columns.map((column) => noValue.get(column.key)?.get(row) ?? "").join("\0")}
              share={residualShare(residuals?.[row], largest)}
              lit={isLit(lit, row)}
              litFrom={isLit(lit, row) && litCols ? litCols[0] : -1}
              litTo={isLit(lit, row) && litCols ? litCols[1] : -2}
              corners={`${lit?.[0] === row ? "top" : ""}${lit?.[1] === row ? "bottom" : ""}`}
              activeCol={row === activeRow ? grid.active.col : -1}
              editing={row === activeRow && grid.mode !== "ready" ? grid.draft : null}
              caret={row === activeRow && grid.mode !== "ready"}
              input={grid.input}
              latest={latest}
            />
          ))}
        </div>
      </div>
    </GridMenu>
  );
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

/** Residual as a share of the largest in use; more than one where a reading that is set aside lies farther off. */
function residualShare(residual: number | null | undefined, largest: number): number | null {
  if (residual === null || residual === undefined) return null;
  return largest > 0 ? residual / largest : 0;
}

interface RowProps {
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
  return (Object.keys(after) as (keyof RowProps)[]).every((name) =>
    name === "texts" || name === "labels" ? after[name].join("\0") === before[name].join("\0") : after[name] === before[name],
  );
}

const GridRow = memo(function GridRow(props: RowProps) {
  const { row, latest, aside, lit } = props;
  const set = aside !== undefined;
  return (
    <div
      role="row"
      aria-rowindex={row + 2}
      aria-selected={lit}
      className={`absolute inset-x-0 grid border-b border-rule/70 ${lit ? "bg-tint" : ""} ${props.corners ? "z-[1]" : ""}`}
      style={{ gridTemplateColumns: props.template, height: ROW_HEIGHT, transform: `translateY(${props.top}px)` }}
    >
      <span
        role="rowheader"
        title={
          set
            ? `Set aside${aside ? `: ${aside}` : ""}`
            : props.problem || (props.assumed !== undefined ? `Assumed${props.assumed ? `: ${props.assumed}` : ""}` : undefined)
        }
        onPointerDown={(event) => {
          event.preventDefault();
          latest.current.finish(true);
          latest.current.goRow(row, event.shiftKey);
        }}
        className={`flex cursor-default items-center justify-end gap-1 pr-1.5 text-[11px] text-mute ${lit ? "" : "bg-well"}`}
      >
        {set && <span aria-label="set aside" role="img" className="size-2 rounded-full border border-ink bg-sheet" />}
        {props.assumed !== undefined && (
          <span aria-label="assumed" role="img" className="font-semibold">
            +
          </span>
        )}
        {props.problem && (
          <span aria-label="unusable" role="img" className="font-semibold text-amber">
            !
          </span>
        )}
        {row + 1}
      </span>
      {props.texts.map((text, col) => {
        const active = col === props.activeCol;
        const wrong = col === props.problemColumn;
        const missing = props.noValue.split("\0")[col];
        const inBlock = col >= props.litFrom && col <= props.litTo;
        const corner =
          (props.corners.includes("top") && col === props.litFrom ? "top" : "") +
          (props.corners.includes("bottom") && col === props.litTo ? "bottom" : "");
        const shown =
          col === props.xColumn && props.unknown && !text ? `→ ${props.unknown}` : missing ? "no value" : text.replace(/^-(?=[\d.,])/, "−");
        const tone =
          wrong || missing
            ? "text-amber underline decoration-wavy decoration-1 underline-offset-2"
            : set
              ? "text-mute"
              : props.calculated[col] === "1"
                ? "italic"
                : "";
        return (
          <span
            key={col}
            role="gridcell"
            aria-colindex={col + 2}
            data-cell={`${row} ${col}`}
            title={missing ? `Row ${row + 1}: ${missing}` : undefined}
            aria-selected={inBlock}
            aria-invalid={wrong || undefined}
            onPointerDown={(event) => {
              // A finger may be about to scroll: it chooses with the click instead.
              if ((props.caret && active) || event.pointerType !== "mouse") return;
              event.preventDefault();
              latest.current.finish(true);
              latest.current.go({ row, col }, event.shiftKey);
            }}
            onClick={(event) => {
              if (active || (event.nativeEvent as PointerEvent).pointerType === "mouse") return;
              latest.current.finish(true);
              latest.current.go({ row, col });
            }}
            onPointerEnter={(event) => event.buttons === 1 && event.pointerType === "mouse" && latest.current.go({ row, col }, true)}
            onDoubleClick={() => active && latest.current.edit()}
            className={`relative flex items-center border-l border-rule/70 ${inBlock && !active ? "bg-block" : ""} ${corner ? "z-[1]" : "overflow-hidden"}`}
          >
            {active ? (
              <input
                ref={props.input}
                aria-label={`${props.labels[col]}, row ${row + 1}`}
                data-editing={props.caret}
                value={props.editing ?? text}
                placeholder={shown === text ? undefined : shown}
                inputMode={props.modes.split(" ")[col] as "decimal" | "text"}
                autoComplete="off"
                spellCheck={false}
                maxLength={200}
                readOnly={props.calculated[col] === "1"}
                onChange={(event) => latest.current.type(event.target.value)}
                onKeyDown={(event) => latest.current.onKeyDown(event)}
                onBlur={() => latest.current.finish(true)}
                onCopy={(event) => latest.current.onCopy(event, false)}
                onCut={(event) => latest.current.onCopy(event, true)}
                onPaste={(event) => latest.current.onPaste(event)}
                className={`size-full scroll-mt-12 bg-sheet px-2 text-right outline-2 -outline-offset-2 outline-pine placeholder:text-pine placeholder:italic ${tone}`}
              />
            ) : (
              <span className={`w-full truncate px-2 text-right ${tone} ${shown !== text ? "text-pine italic" : ""}`}>{shown}</span>
            )}
            {corner.includes("top") && <CornerHandle end="top" latest={latest} />}
            {corner.includes("bottom") && <CornerHandle end="bottom" latest={latest} />}
          </span>
        );
      })}
      <span role="gridcell" aria-colindex={props.texts.length + 2} className="border-l border-rule/70">
        <OffBar share={props.share} hollow={set} />
      </span>
    </div>
  );
}, sameRow);
