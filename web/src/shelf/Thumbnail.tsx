import type { Card } from "../api/client";

const WIDTH = 240;
const HEIGHT = 118;
const FLOOR = 108;

/** A study in small: its readings, its line, the heavy bar of the measured range, hatching beyond. */
export function Thumbnail({ plot, id }: { plot: Card["thumbnail"]; id: string }) {
  const x = (u: number) => u * WIDTH;
  const y = (v: number) => FLOOR - v * (FLOOR - 6);
  const [start, end] = plot.line;
  const bar = plot.bar;
  const hatch = `hatch-${id}`;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden="true">
      <defs>
        <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--color-rule)" strokeWidth="1.2" />
        </pattern>
        <clipPath id={`clip-${id}`}>
          <rect width={WIDTH} height={FLOOR} />
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
        {start && end && bar && <Line from={[x(start.x), y(start.y)]} to={[x(end.x), y(end.y)]} low={x(bar.low)} high={x(bar.high)} />}
        {plot.points.map(({ x: u, y: v }, i) => (
          <circle key={i} cx={x(u)} cy={y(v)} r={plot.points.length > 40 ? 1.6 : 2.6} fill="var(--color-ink)" />
        ))}
        {plot.aside.map(({ x: u, y: v }, i) => (
          <circle key={i} cx={x(u)} cy={y(v)} r={2.4} fill="var(--color-sheet)" stroke="var(--color-ink)" />
        ))}
      </g>
      {bar && <line x1={x(bar.low)} x2={x(bar.high)} y1={FLOOR} y2={FLOOR} stroke="var(--color-ink)" strokeWidth={4} />}
      {!plot.points.length && (
        <text x={WIDTH / 2} y={60} textAnchor="middle" fontSize="11" fill="var(--color-mute)">
          no readings yet
        </text>
      )}
    </svg>
  );
}

function Line({ from, to, low, high }: { from: [number, number]; to: [number, number]; low: number; high: number }) {
  const at = (x: number) => from[1] + ((to[1] - from[1]) * (x - from[0])) / (to[0] - from[0]);
  const dots = { stroke: "var(--color-pine)", strokeWidth: 1.8, strokeDasharray: "1.5 3.5", strokeLinecap: "round" as const };
  return (
    <>
      <line x1={from[0]} y1={from[1]} x2={low} y2={at(low)} {...dots} />
      <line x1={high} y1={at(high)} x2={to[0]} y2={to[1]} {...dots} />
      <line x1={low} y1={at(low)} x2={high} y2={at(high)} stroke="var(--color-pine)" strokeWidth={1.8} />
    </>
  );
}
