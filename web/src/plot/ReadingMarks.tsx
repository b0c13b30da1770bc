import { memo, type ReactElement } from "react";

import type { Placed, PlotSettings } from "../api/client";
import { STATUS } from "../study/context";
import { isLit } from "../study/view";
import { markPath, MarkShapeAt, shapeOf } from "./shapes";
import type { Scale } from "./scales";

const ONE_BY_ONE = 300;
const round = (value: number) => Math.round(value * 10) / 10;

interface Props {
  placed: Placed;
  plot: PlotSettings;
  x: Scale;
  y: Scale;
  lit: [number, number] | null;
  /** Rows that a region has caught. */
  caught: Set<number>;
  assumed: Set<number>;
  /** Rows to draw; null: all of them. */
  only: number[] | null;
}

/** The readings: filled when in use, hollow when set aside, crossed when assumed, ringed in lichen when chosen; error bars where given. */
export const ReadingMarks = memo(function ReadingMarks({ placed, plot, x, y, lit, caught, assumed, only }: Props) {
  const marks: ReactElement[] = [];
  const bright: ReactElement[] = [];
  const rows = only ?? placed.status.map((_, row) => row);
  const size = plot.size ?? 4.5;
  // So many plain marks are drawn as one path: a thousand elements would be too slow to follow a drag.
  const together = rows.length > ONE_BY_ONE;
  const plain: string[] = [];
  for (const row of rows) {
    const status = placed.status[row];
    const vx = placed.x[row];
    const vy = placed.y[row];
    if ((status !== STATUS.used && status !== STATUS.aside) || vx == null || vy == null) continue;
    const px = x(vx);
    const py = y(vy);
    if (!Number.isFinite(px) || !Number.isFinite(py)) continue;
    const chosen = isLit(lit, row) || caught.has(row);
    const hollow = status === STATUS.aside;
    const supposed = assumed.has(row);
    const xBar = bar(x, vx, placed.x_error?.[row]);
    const yBar = bar(y, vy, placed.y_error?.[row]);
    if (together && !chosen && !hollow && !supposed && !xBar && !yBar) {
      plain.push(markPath(shapeOf(plot.shape ?? "circle", placed.series_of?.[row] ?? 0), round(px), round(py), size));
      continue;
    }
    (chosen ? bright : marks).push(
      <g key={row} data-row={row + 1} data-status={hollow ? "aside" : supposed ? "assumed" : "used"}>
        <ErrorBars at={[px, py]} x={xBar} y={yBar} />
        <MarkShapeAt
          shape={shapeOf(plot.shape ?? "circle", placed.series_of?.[row] ?? 0)}
          x={px}
          y={py}
          r={chosen ? size + 2 : size}
          fill={chosen ? "var(--color-lichen)" : hollow || supposed ? "var(--color-sheet)" : "var(--color-ink)"}
          stroke={chosen || hollow || supposed ? "var(--color-ink)" : "var(--color-sheet)"}
          strokeWidth={chosen ? 1.8 : hollow || supposed ? 1.5 : 1}
          strokeDasharray={(chosen && hollow) || supposed ? "2.5 2" : undefined}
        />
        {supposed && <path d={`M${px - size * 0.6} ${py}h${size * 1.2}M${px} ${py - size * 0.6}v${size * 1.2}`} stroke="var(--color-ink)" strokeWidth="1.2" />}
      </g>,
    );
  }
  return (
    <>
      {plain.length > 0 && <path d={plain.join("")} fill="var(--color-ink)" stroke="var(--color-sheet)" strokeWidth="1" data-status="used" />}
      {marks}
      {bright}
    </>
  );
});

/** Both ends of an uncertainty in pixels; an end that has no place on the axis lies far outside. */
function bar(scale: Scale, value: number, error: number | null | undefined): [number, number] | null {
  if (error == null || !(error > 0)) return null;
  const [from, to] = [scale(value - error), scale(value + error)];
  const [start] = scale.range();
  return [Number.isFinite(from) ? from : start, Number.isFinite(to) ? to : start];
}

function ErrorBars({ at: [px, py], x, y }: { at: [number, number]; x: [number, number] | null; y: [number, number] | null }) {
  if (!x && !y) return null;
  const upright = y ? `M${px} ${y[0]}V${y[1]}M${px - 3} ${y[0]}h6M${px - 3} ${y[1]}h6` : "";
  const level = x ? `M${x[0]} ${py}H${x[1]}M${x[0]} ${py - 3}v6M${x[1]} ${py - 3}v6` : "";
  return <path d={upright + level} stroke="var(--color-ink)" fill="none" strokeWidth="1" />;
}
