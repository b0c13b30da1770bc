import { area, line } from "d3-shape";

import type { Curve } from "../api/client";
import type { Scale } from "./scales";

interface Props {
  curve: Curve;
  x: Scale;
  y: Scale;
  measured: [number, number];
  letter: string;
  points: [number, number][];
  /** Draw a light edge around the curve, so that it stands out from a cloud of readings. */
  cased: boolean;
}

interface Sample {
  x: number;
  y: number;
  low: number | null;
  high: number | null;
}

/** The curve: solid where readings support it, dots beyond, with the band in which the true line lies. */
export function CurveMarks({ curve, x, y, measured, letter, points, cased }: Props) {
  const samples = withEnds(curve, measured);
  const path = line<Sample>(
    (sample) => x(sample.x),
    (sample) => y(sample.y),
  );
  const band = area<Sample>(
    (sample) => x(sample.x),
    (sample) => y(sample.low ?? sample.y),
    (sample) => y(sample.high ?? sample.y),
  ).defined((sample) => sample.low !== null && sample.high !== null);
  const inside = samples.filter((sample) => sample.x >= measured[0] && sample.x <= measured[1]);
  const before = samples.filter((sample) => sample.x <= measured[0]);
  const after = samples.filter((sample) => sample.x >= measured[1]);
  const label = placeLabel(inside, x, y, points);
  const dots = { fill: "none", stroke: "var(--color-pine)", strokeWidth: 2.2, strokeDasharray: "0.1 5", strokeLinecap: "round" as const };
  return (
    <>
      <path d={band(samples) ?? ""} fill="var(--color-pine)" opacity="0.14" />
      <path data-testid="curve-beyond" d={path(before) ?? ""} {...dots} />
      <path data-testid="curve-beyond" d={path(after) ?? ""} {...dots} />
      {cased && <path d={path(inside) ?? ""} fill="none" stroke="var(--color-sheet)" strokeWidth="6" />}
      <path data-testid="curve" d={path(inside) ?? ""} fill="none" stroke="var(--color-pine)" strokeWidth="2.2" />
      {label && (
        <text x={label[0]} y={label[1]} fill="var(--color-pine)" fontSize="14" fontWeight="650" textAnchor="middle">
          {letter}
        </text>
      )}
    </>
  );
}

/** The samples with the ends of the measured range put in, so that solid and dotted meet exactly there. */
function withEnds(curve: Curve, measured: [number, number]): Sample[] {
  const samples: Sample[] = [];
  curve.x.forEach((x, i) => {
    const y = curve.y[i];
    if (y !== null && y !== undefined) samples.push({ x, y, low: curve.low[i] ?? null, high: curve.high[i] ?? null });
  });
  for (const end of measured) {
    const at = samples.findIndex((sample) => sample.x >= end);
    const right = samples[at];
    const left = samples[at - 1];
    if (!left || !right || right.x === end) continue;
    const share = (end - left.x) / (right.x - left.x);
    const between = (a: number | null, b: number | null) => (a === null || b === null ? null : a + share * (b - a));
    samples.splice(at, 0, { x: end, y: between(left.y, right.y)!, low: between(left.low, right.low), high: between(left.high, right.high) });
  }
  return samples;
}

/** A place for the letter just above the curve, where the fewest readings are near. */
function placeLabel(inside: Sample[], x: Scale, y: Scale, points: [number, number][]): [number, number] | null {
  const [left, right] = x.range() as [number, number];
  const [bottom, top] = y.range() as [number, number];
  let best: [number, number] | null = null;
  let farthest = -1;
  for (const share of [0.78, 0.6, 0.4, 0.22, 0.9]) {
    const sample = inside[Math.round(share * (inside.length - 1))];
    if (!sample) continue;
    const place: [number, number] = [x(sample.x) - 10, y(sample.y) - 12];
    if (place[0] < left + 8 || place[0] > right - 8 || place[1] < top + 12 || place[1] > bottom) continue;
    const nearest = points.slice(0, 400).reduce((least, [px, py]) => Math.min(least, Math.hypot(px - place[0], py - place[1] + 5)), 60);
    if (nearest > farthest) {
      farthest = nearest;
      best = place;
    }
  }
  return best;
}
