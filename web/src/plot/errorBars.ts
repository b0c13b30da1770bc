import type { Scale } from "./scales";

/** Both ends of an uncertainty in pixels; an end that has no place on the axis lies far outside. */
export function reachOf(scale: Scale, value: number, error: number | null | undefined): [number, number] | null {
  if (error == null || !(error > 0)) return null;
  const [from, to] = [scale(value - error), scale(value + error)];
  const [start] = scale.range();
  return [Number.isFinite(from) ? from : start, Number.isFinite(to) ? to : start];
}

/** Error bars as a path; empty where there are none. */
export function errorBars([px, py]: [number, number], x: [number, number] | null, y: [number, number] | null): string {
  const upright = y ? `M${px} ${y[0]}V${y[1]}M${px - 3} ${y[0]}h6M${px - 3} ${y[1]}h6` : "";
  const level = x ? `M${x[0]} ${py}H${x[1]}M${x[0]} ${py - 3}v6M${x[1]} ${py - 3}v6` : "";
  return upright + level;
}
