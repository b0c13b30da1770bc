import { line } from "d3-shape";

import type { Candidate } from "../api/client";
import { Hatch } from "../plot/Ground";
import { useAnalysis } from "../study/context";
import { STATUS } from "../study/status";

const WIDTH = 220;
const HEIGHT = 92;
const FLOOR = 86;
const MOST = 90;

/** A model in small over the readings: solid inside the measured range, dots beyond, hatching where nothing was measured. */
export function MiniPlot({ candidate }: { candidate: Candidate }) {
  const { view, x: xs, y: ys, status, measured } = useAnalysis();
  const x = (value: number) => ((value - view.x.low) / (view.x.high - view.x.low)) * WIDTH;
  const y = (value: number) => FLOOR - ((value - view.y.low) / (view.y.high - view.y.low)) * (FLOOR - 5);
  const used = status.flatMap((own, row) => (own === STATUS.used ? [row] : []));
  const every = Math.ceil(used.length / MOST);
  const path = line<{ x: number; y: number }>(
    (place) => x(place.x),
    (place) => Math.min(Math.max(y(place.y), -HEIGHT), 2 * HEIGHT),
  );
  const [low, high] = measured ? [measured.low, measured.high] : [view.x.low, view.x.high];
  const curve = candidate.curve ?? [];
  const hatch = `hatch-${candidate.key}`;
  const inside = curve.filter((place) => place.x >= low && place.x <= high);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full border-b border-rule" aria-hidden="true">
      <defs>
        <Hatch id={hatch} />
      </defs>
      <rect x={0} y={0} width={Math.max(0, x(low))} height={FLOOR} fill={`url(#${hatch})`} />
      <rect x={x(high)} y={0} width={Math.max(0, WIDTH - x(high))} height={FLOOR} fill={`url(#${hatch})`} />
      <line x1={x(low)} x2={x(high)} y1={FLOOR} y2={FLOOR} stroke="var(--color-ink)" strokeWidth="3" />
      {used
        .filter((_, i) => i % every === 0)
        .map((row) => (
          <circle key={row} cx={x(xs[row]!)} cy={y(ys[row]!)} r={used.length > 40 ? 1.4 : 2.2} fill="var(--color-ink)" />
        ))}
      <path
        d={path(curve) ?? ""}
        fill="none"
        stroke="var(--color-pine)"
        strokeWidth="1.6"
        strokeDasharray="0.1 3.4"
        strokeLinecap="round"
      />
      <path d={path(inside) ?? ""} fill="none" stroke="var(--color-pine)" strokeWidth="1.8" />
    </svg>
  );
}
