import type { Placed } from "../api/client";
import { STATUS } from "../study/status";
import type { Scale } from "./scales";

/** Straight strokes from reading to reading in the order of x, each series by itself. They are no model. */
export function JoiningLine({ placed, x, y }: { placed: Placed; x: Scale; y: Scale }) {
  const bySeries = new Map<number, [number, number][]>();
  placed.status.forEach((status, row) => {
    const vx = placed.x[row];
    const vy = placed.y[row];
    if (status !== STATUS.used || vx == null || vy == null) return;
    const series = placed.series_of?.[row] ?? 0;
    const held = bySeries.get(series) ?? [];
    held.push([vx, vy]);
    bySeries.set(series, held);
  });
  return (
    <>
      {[...bySeries].map(([series, points]) => {
        const sorted = points.sort((a, b) => a[0] - b[0]).map(([vx, vy]) => [x(vx), y(vy)] as const);
        const path = sorted
          .filter(([px, py]) => Number.isFinite(px) && Number.isFinite(py))
          .map(([px, py], i) => `${i ? "L" : "M"}${px} ${py}`);
        return <path key={series} data-testid="joining" d={path.join("")} fill="none" stroke="var(--color-edge)" strokeWidth="1" />;
      })}
    </>
  );
}
