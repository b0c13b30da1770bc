import type { Card } from "../api/client";
import { lookOf } from "../fits/looks";
import { Hatch } from "../plot/Ground";
import { polyline } from "../plot/path";

const WIDTH = 240;
const HEIGHT = 118;
const FLOOR = 108;

/** A study in small: its readings, its curves, the heavy bar of the measured range, hatching beyond. */
export function Thumbnail({ plot, id }: { plot: Card["thumbnail"]; id: string }) {
  const x = (u: number) => u * WIDTH;
  const y = (v: number) => FLOOR - v * (FLOOR - 6);
  const bar = plot.bar;
  const hatch = `hatch-${id}`;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden="true">
      <defs>
        <Hatch id={hatch} />
        <clipPath id={`clip-${id}`}>
          <rect width={WIDTH} height={FLOOR} />
        </clipPath>
        <clipPath id={`inside-${id}`}>
          <rect x={x(bar?.low ?? 0)} width={Math.max(0, x((bar?.high ?? 1) - (bar?.low ?? 0)))} height={FLOOR} />
        </clipPath>
      </defs>
      {bar && (
        <>
          <rect x={0} y={0} width={Math.max(0, x(bar.low))} height={FLOOR} fill={`url(#${hatch})`} />
          <rect x={x(bar.high)} y={0} width={Math.max(0, WIDTH - x(bar.high))} height={FLOOR} fill={`url(#${hatch})`} />
        </>
      )}
      <line x1={0} x2={WIDTH} y1={FLOOR} y2={FLOOR} stroke="var(--color-edge)" />
      <g clipPath={`url(#clip-${id})`}>
        {[...plot.curves].reverse().map(({ letter, points }) => {
          const path = polyline(points.map(({ x: u, y: v }) => [x(u), y(v)]));
          const { color } = lookOf(letter);
          return (
            <g key={letter} fill="none" stroke={color} strokeWidth={1.8}>
              <path d={path} strokeDasharray="0.1 3.6" strokeLinecap="round" />
              <path d={path} clipPath={`url(#inside-${id})`} />
            </g>
          );
        })}
        {plot.points.map(({ x: u, y: v }, i) => (
          <circle key={i} cx={x(u)} cy={y(v)} r={plot.points.length > 40 ? 1.6 : 2.6} fill="var(--color-ink)" />
        ))}
        {plot.aside.map(({ x: u, y: v }, i) => (
          <circle key={i} cx={x(u)} cy={y(v)} r={2.4} fill="var(--color-sheet)" stroke="var(--color-ink)" />
        ))}
      </g>
      {bar && <line x1={x(bar.low)} x2={x(bar.high)} y1={FLOOR} y2={FLOOR} stroke="var(--color-ink)" strokeWidth={4} />}
      {!plot.points.length && (
        <text x={WIDTH / 2} y={60} textAnchor="middle" fontSize="var(--text-note)" fill="var(--color-mute)">
          no readings yet
        </text>
      )}
    </svg>
  );
}
