import { memo } from "react";

import type { Scale } from "./scales";
import { both, rising } from "../ui/pairs";

interface Props {
  x: Scale;
  top: number;
  bottom: number;
  measured: [number, number] | null;
  hatch: string;
}

/** The ground without readings: hatched on both sides of the measured range. */
export const Ground = memo(function Ground({ x, top, bottom, measured, hatch }: Props) {
  if (!measured) return null;
  const [left, right] = x.range();
  const [low, high] = ends(x, measured);
  return (
    <>
      <rect x={left} y={top} width={low - left} height={bottom - top} fill={`url(#${hatch})`} />
      <rect x={high} y={top} width={right - high} height={bottom - top} fill={`url(#${hatch})`} />
    </>
  );
});

/** Both ends of the measured range in pixels, from left to right, held within the axis. */
function ends(x: Scale, measured: [number, number]): [number, number] {
  const [left, right] = x.range();
  return rising(both(measured, (end) => (Number.isFinite(x(end)) ? Math.min(Math.max(x(end), left), right) : left)));
}

/** The hatching itself. */
export function Hatch({ id }: { id: string }) {
  return (
    <pattern id={id} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2="7" stroke="var(--color-rule)" strokeWidth="1.1" />
    </pattern>
  );
}

/** The measured range: a heavy bar on the x axis. */
export const MeasuredBar = memo(function MeasuredBar({ x, y, measured }: { x: Scale; y: number; measured: [number, number] | null }) {
  const [left, right] = x.range();
  if (!measured) return <line x1={left} x2={right} y1={y} y2={y} stroke="var(--color-edge)" />;
  const [low, high] = ends(x, measured);
  return (
    <>
      <line x1={left} x2={right} y1={y} y2={y} stroke="var(--color-edge)" />
      {high > low && <rect data-testid="measured-bar" x={low} y={y - 2.5} width={high - low} height={5} fill="var(--color-ink)" />}
    </>
  );
});
