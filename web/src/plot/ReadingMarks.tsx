import { memo, type ReactElement } from "react";

import type { Placed, PlotSettings } from "../api/client";
import { isDrawnRow, STATUS } from "../study/status";
import { isLit } from "../study/view";
import { errorBars, reachOf } from "./errorBars";
import { inkOfMarks, MarkShapeAt, shapeOf } from "./shapes";
import type { Scale } from "./scales";

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
  only: Set<number> | null;
}

/** The readings: filled when in use, hollow when set aside, crossed when assumed, ringed in lichen when chosen; error bars where given. */
export const ReadingMarks = memo(function ReadingMarks({ placed, plot, x, y, lit, caught, assumed, only }: Props) {
  const marks: ReactElement[] = [];
  const bright: ReactElement[] = [];
  const rows = only ?? placed.status.map((_, row) => row);
  const size = plot.size ?? 4.5;
  const ink = inkOfMarks(plot);
  for (const row of rows) {
    const status = placed.status[row];
    const vx = placed.x[row];
    const vy = placed.y[row];
    if (!isDrawnRow(status) || vx == null || vy == null) continue;
    const px = x(vx);
    const py = y(vy);
    if (!Number.isFinite(px) || !Number.isFinite(py)) continue;
    const chosen = isLit(lit, row) || caught.has(row);
    const hollow = status === STATUS.aside;
    const supposed = assumed.has(row);
    const bars = errorBars([px, py], reachOf(x, vx, placed.x_error?.[row]), reachOf(y, vy, placed.y_error?.[row]));
    (chosen ? bright : marks).push(
      <g key={row} data-row={row + 1} data-status={hollow ? "aside" : supposed ? "assumed" : "used"}>
        {bars && <path d={bars} stroke={ink} fill="none" strokeWidth="1" />}
        <MarkShapeAt
          shape={shapeOf(plot.shape ?? "circle", placed.series_of?.[row] ?? 0)}
          x={px}
          y={py}
          r={chosen ? size + 2 : size}
          fill={chosen ? "var(--color-lichen)" : hollow || supposed ? "var(--color-sheet)" : ink}
          stroke={chosen ? "var(--color-ink)" : hollow || supposed ? ink : "var(--color-sheet)"}
          strokeWidth={chosen ? 1.8 : hollow || supposed ? 1.5 : 1}
          strokeDasharray={(chosen && hollow) || supposed ? "2.5 2" : undefined}
        />
        {supposed && (
          <path d={`M${px - size * 0.6} ${py}h${size * 1.2}M${px} ${py - size * 0.6}v${size * 1.2}`} stroke={ink} strokeWidth="1.2" />
        )}
      </g>,
    );
  }
  return (
    <>
      {marks}
      {bright}
    </>
  );
});
