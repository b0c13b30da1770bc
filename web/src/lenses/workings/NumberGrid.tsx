import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef } from "react";

import type { WorkingStep } from "../../api/client";
import { byMouse } from "../../ui/byMouse";
import { Typeset } from "../../ui/Typeset";
import { NumberCell } from "./NumberCell";
import type { Lights } from "./lights";
import { isIn, type Spot } from "./origins";

type Grid = NonNullable<WorkingStep["grid"]>;

interface Props {
  grid: Grid;
  step: number;
  name: string;
  lights: Lights;
  onPoint: (spot: Spot | null) => void;
  /** A reading of a row is chosen everywhere. */
  onReading: (row: number) => void;
  /** A button at the end of a row, by its place. */
  after?: (row: number) => ReactNode;
}

/** A table or a matrix of numbers: what is pointed at lights up where it came from and where it goes. */
export function NumberGrid({ grid, step, name, lights, onPoint, onReading, after }: Props) {
  const matrix = grid.look === "matrix";
  const place = useRef({ row: 0, column: 0 });
  const point = (row: number, column: number) => {
    place.current = { row, column };
    // The foot is the row after the last.
    onPoint({ step, row: grid.rows[row] ?? grid.count, column: grid.columns[column]! });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    const clamp = (value: number, most: number) => Math.max(0, Math.min(most - 1, value));
    point(
      clamp(place.current.row + step[0]!, grid.cells.length + (grid.sums.length > 0 ? 1 : 0)),
      clamp(place.current.column + step[1]!, grid.columns.length),
    );
  };
  return (
    <div className="flex max-w-full items-center gap-2">
      {grid.symbol.text && (
        <span className="shrink-0">
          <Typeset latex={`${grid.symbol.latex} =`} text={`${grid.symbol.text} =`} />
        </span>
      )}
      <div
        className="relative max-w-full overflow-x-auto py-1"
        tabIndex={0}
        role="region"
        aria-label={name}
        onKeyDown={onKeyDown}
        onFocus={(event) => event.target === event.currentTarget && point(place.current.row, place.current.column)}
        onBlur={() => onPoint(null)}
      >
        <table className={`numerals text-plain ${matrix ? "" : "border-y border-rule"}`}>
          <caption className="sr-only">{name}</caption>
          {grid.heads.length > 0 && <Heads grid={grid} more={after !== undefined} />}
          <tbody>
            {grid.cells.map((_, row) => (
              <Row
                key={grid.rows[row]}
                grid={grid}
                row={row}
                lights={lights}
                onPoint={(column) => (column === null ? onPoint(null) : point(row, column))}
                onReading={onReading}
                after={after}
              />
            ))}
          </tbody>
          {grid.sums.length > 0 && (
            <Sums grid={grid} lights={lights} onPoint={(column) => (column === null ? onPoint(null) : point(grid.cells.length, column))} />
          )}
        </table>
        {grid.zero_rows > 0 && <p className="text-note text-mute">and {grid.zero_rows} rows of zeros</p>}
      </div>
    </div>
  );
}

/** A symbol that heads a row or a column, said in its plain letters. */
function HeadSymbol({ symbol }: { symbol: Grid["heads"][number] }) {
  return (
    <>
      <span className="sr-only">{symbol.text}</span>
      <span aria-hidden="true">
        <Typeset latex={symbol.latex} text={symbol.text} />
      </span>
    </>
  );
}

const labelled = (grid: Grid) => grid.labels.some((label) => label.text);
const gapBefore = (shown: number[], place: number) => place > 0 && shown[place] !== shown[place - 1]! + 1;
const barBefore = (grid: Grid, column: number) => grid.bar > 0 && column === grid.columns.length - grid.bar;

function Heads({ grid, more }: { grid: Grid; more: boolean }) {
  return (
    <thead>
      <tr className="text-note text-mute">
        {labelled(grid) && <td className="px-1.5" />}
        {grid.look === "matrix" && <td />}
        {grid.heads.map((head, column) => (
          <th
            key={grid.columns[column]}
            scope="col"
            className={`px-2 py-0.5 font-normal whitespace-nowrap ${grid.look === "table" ? "border-b border-rule" : ""} ${barBefore(grid, column) ? "border-l border-rule" : ""}`}
          >
            {gapBefore(grid.columns, column) && "… "}
            <HeadSymbol symbol={head} />
          </th>
        ))}
        {grid.look === "matrix" && <td />}
        {more && <td />}
      </tr>
    </thead>
  );
}

interface RowProps {
  grid: Grid;
  row: number;
  lights: Lights;
  onPoint: (column: number | null) => void;
  onReading: (row: number) => void;
  after: Props["after"];
}

function Row({ grid, row, lights, onPoint, onReading, after }: RowProps) {
  const own = grid.rows[row]!;
  const reading = grid.readings[row];
  const label = grid.labels[row]!;
  const shade = (column: number) => {
    const there = grid.columns[column]!;
    return shadeOf(lights, own, there) || (grid.marked.some(([r, c]) => r === own && c === there) ? "font-semibold text-pine" : "");
  };
  return (
    <>
      {gapBefore(grid.rows, row) && (
        <tr>
          <td colSpan={grid.columns.length + 2} className="px-2 text-center text-note text-mute">
            … {grid.count - grid.rows.length} more rows
          </td>
        </tr>
      )}
      <tr className={grid.marked_row === own ? "bg-tint/70" : ""}>
        {labelled(grid) && (
          <th scope="row" className="px-1.5 text-right text-note font-normal text-mute">
            {reading === undefined ? (
              <HeadSymbol symbol={label} />
            ) : (
              <button className="rounded-sm px-1" aria-label={`Select reading ${reading + 1}`} onClick={() => onReading(reading)}>
                {label.text}
              </button>
            )}
          </th>
        )}
        {row === 0 && <Bracket grid={grid} side="border-l" />}
        {grid.cells[row]!.map((cell, column) => (
          <td
            key={grid.columns[column]}
            className={`px-2 py-0.5 text-right whitespace-nowrap ${barBefore(grid, column) ? "border-l border-rule" : ""} ${shade(column)}`}
            {...pointing(onPoint, column)}
          >
            {gapBefore(grid.columns, column) && <span className="pr-2 text-mute">…</span>}
            {cell && <NumberCell cell={cell} />}
          </td>
        ))}
        {row === 0 && <Bracket grid={grid} side="border-r" />}
        {after && <td className="pl-2">{after(own)}</td>}
      </tr>
    </>
  );
}

/** One of the square brackets about a matrix, as high as all of its rows. */
function Bracket({ grid, side }: { grid: Grid; side: "border-l" | "border-r" }) {
  if (grid.look !== "matrix") return null;
  const gaps = grid.rows.filter((_, place) => gapBefore(grid.rows, place)).length;
  return (
    <td aria-hidden="true" rowSpan={grid.rows.length + gaps} className={`border-y border-ink p-0 ${side}`}>
      <span className="block w-1.5" />
    </td>
  );
}

/** What lights a cell. */
function shadeOf(lights: Lights, row: number, column: number): string {
  if (lights.at?.row === row && lights.at.column === column) return "outline-2 outline-pine";
  if (isIn(lights.from, row, column)) return "bg-tint";
  return isIn(lights.to, row, column) ? "bg-lichen/40" : "";
}

/** A cell is pointed at by hovering with a mouse, and by pressing it. */
function pointing(onPoint: (column: number | null) => void, column: number) {
  return {
    onPointerEnter: (event: PointerEvent) => byMouse(event) && onPoint(column),
    onPointerLeave: (event: PointerEvent) => byMouse(event) && onPoint(null),
    onClick: () => onPoint(column),
  };
}

function Sums({ grid, lights, onPoint }: { grid: Grid; lights: Lights; onPoint: (column: number | null) => void }) {
  return (
    <tfoot>
      <tr className="border-t border-rule font-semibold">
        {labelled(grid) && (
          <th scope="row" className="px-1.5 text-right">
            Σ
          </th>
        )}
        {grid.sums.map((sum, column) => (
          <td
            key={grid.columns[column]}
            className={`px-2 py-0.5 text-right whitespace-nowrap ${shadeOf(lights, grid.count, grid.columns[column]!)}`}
            {...(sum && pointing(onPoint, column))}
          >
            {sum && <NumberCell cell={sum} />}
          </td>
        ))}
      </tr>
    </tfoot>
  );
}
