import { area, line } from "d3-shape";

import type { Curve } from "../api/client";
import { lookOf } from "../fits/looks";
import type { Scale } from "./scales";
import { useMorph } from "./useMorph";

interface Props {
  curve: Curve;
  x: Scale;
  y: Scale;
  measured: [number, number];
  letter: string;
  /** Width of the line. */
  weight: number;
  /** Only the leading fit shows the band in which its true curve lies. */
  leading: boolean;
  /** Draw a light edge around the curve, so that it stands out from a cloud of readings. */
  cased: boolean;
}

interface Sample {
  x: number;
  y: number;
  low: number | null;
  high: number | null;
}

/** The curve: solid (or in its own dash) where readings support it, dots beyond, with the band in which the true line lies. */
function CurveMarks({ curve, x, y, measured, letter, weight, leading, cased }: Props) {
  const samples = withEnds(curve, measured);
  const { color, dash } = lookOf(letter);
  const shown = (sample: Sample) => Number.isFinite(x(sample.x)) && Number.isFinite(y(sample.y));
  const path = line<Sample>(
    (sample) => x(sample.x),
    (sample) => y(sample.y),
  ).defined(shown);
  const bound = (value: number) => (Number.isFinite(y(value)) ? y(value) : y.range()[0]);
  const band = area<Sample>(
    (sample) => x(sample.x),
    (sample) => bound(sample.low ?? sample.y),
    (sample) => bound(sample.high ?? sample.y),
  ).defined((sample) => sample.low !== null && sample.high !== null && shown(sample));
  const inside = samples.filter((sample) => sample.x >= measured[0] && sample.x <= measured[1]);
  const before = samples.filter((sample) => sample.x <= measured[0]);
  const after = samples.filter((sample) => sample.x >= measured[1]);
  const dots = {
    fill: "none",
    stroke: color,
    strokeWidth: weight,
    strokeDasharray: `0.1 ${2.8 + weight}`,
    strokeLinecap: "round" as const,
  };
  return (
    <g data-fit={letter}>
      {leading && <path d={band(samples) ?? ""} fill={color} opacity="0.14" />}
      <path data-testid="curve-beyond" d={path(before) ?? ""} {...dots} />
      <path data-testid="curve-beyond" d={path(after) ?? ""} {...dots} />
      {cased && <path d={path(inside) ?? ""} fill="none" stroke="var(--color-sheet)" strokeWidth={weight + 4} />}
      <path data-testid="curve" d={path(inside) ?? ""} fill="none" stroke={color} strokeWidth={weight} strokeDasharray={dash} />
    </g>
  );
}

/** A curve as it was, or as it would be: thin and grey beside the one that holds. */
export function GhostCurve({
  curve,
  x,
  y,
  id,
  color = "var(--color-mute)",
}: {
  curve: Curve;
  x: Scale;
  y: Scale;
  id: string;
  color?: string;
}) {
  const path = line<number>(
    (i) => x(curve.x[i]!),
    (i) => y(curve.y[i]!),
  ).defined((i) => curve.y[i] != null && Number.isFinite(y(curve.y[i])) && Number.isFinite(x(curve.x[i]!)));
  return (
    <path
      data-testid={`ghost-${id}`}
      d={path(curve.x.map((_, i) => i)) ?? ""}
      fill="none"
      stroke={color}
      strokeWidth="1.4"
      strokeDasharray="2 4"
    />
  );
}

/** The curve, which moves from where the hand left it to where least squares puts it. */
export function MovingCurve({ kind, ...props }: Props & { kind: string }) {
  const curve = useMorph(props.curve, kind);
  return <CurveMarks {...props} curve={curve} />;
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
    samples.splice(at, 0, {
      x: end,
      y: between(left.y, right.y)!,
      low: between(left.low, right.low),
      high: between(left.high, right.high),
    });
  }
  return samples;
}
