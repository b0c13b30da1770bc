import type { Scale } from "../scales";
import { ticksOf } from "../ticks";

interface Props {
  x: Scale;
  y: Scale;
  area: { left: number; right: number };
  /** About how many along each axis. */
  count: { x: number; y: number };
  /** Where the numbers along x stand. */
  base: number;
}

/** Gridlines with the numbers of both axes, for a small plot. */
export function Ticks({ x, y, area, count, base }: Props) {
  return (
    <>
      {ticksOf(y, count.y).map(({ key, at, text }) => (
        <g key={key}>
          <line x1={area.left} x2={area.right} y1={at} y2={at} stroke="var(--color-rule)" strokeWidth="0.6" />
          <text x={area.left - 6} y={at} dy="0.34em" textAnchor="end">
            {text}
          </text>
        </g>
      ))}
      {ticksOf(x, count.x).map(({ key, at, text }) => (
        <text key={key} x={at} y={base} textAnchor="middle">
          {text}
        </text>
      ))}
    </>
  );
}
