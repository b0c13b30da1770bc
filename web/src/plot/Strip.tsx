import { line } from "d3-shape";

import type { Analysis } from "../api/client";
import { isDrawnRow, STATUS } from "../study/status";
import { isLit } from "../study/view";
import { lookOf } from "../fits/looks";
import { type Division, YAxis } from "./Axes";
import { Ground } from "./Ground";
import type { Scale } from "./scales";
import { computed, differenceOf, type HandFit } from "../fits/kinds";

const NO_GRID: Division = { grid: "none", over: "" };

interface Props {
  analysis: Analysis;
  measured: [number, number] | null;
  x: Scale;
  y: Scale;
  lit: [number, number] | null;
  hatch: string;
  clip: string;
  /** Rows to draw; null: all of them. */
  only: Set<number> | null;
}

/** The residuals on the same x axis, with a band of one s to either side of zero. */
export function Strip({ analysis, measured, x, y, lit, hatch, clip, only }: Props) {
  const fit = analysis.fits[0];
  const color = lookOf(fit?.letter ?? "A").color;
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  const s = computed(fit)?.deviation ?? 0;
  const stems = [];
  const residuals = computed(fit)?.residuals ?? [];
  const rows = only ?? residuals.map((_, row) => row);
  for (const row of rows) {
    const residual = residuals[row];
    const vx = analysis.x[row];
    const status = analysis.status[row];
    if (residual == null || vx == null || !isDrawnRow(status)) continue;
    const hollow = status === STATUS.aside;
    const bright = isLit(lit, row);
    if (!Number.isFinite(x(vx))) continue;
    // Farther off than the strip shows: the stem ends at its edge in an arrow.
    const over = y(residual) < top ? -1 : y(residual) > bottom ? 1 : 0;
    const py = over < 0 ? top + 7 : over > 0 ? bottom - 7 : y(residual);
    stems.push(
      <g key={row} data-row={row + 1}>
        <line
          x1={x(vx)}
          x2={x(vx)}
          y1={y(0)}
          y2={py}
          stroke={color}
          strokeWidth={bright ? 3 : 1.3}
          strokeDasharray={hollow ? "2 2" : undefined}
        />
        {over ? (
          <path d={`M${x(vx) - 4.5} ${py}H${x(vx) + 4.5}L${x(vx)} ${py + 6 * over}Z`} {...inkOf(bright, hollow, color)} />
        ) : (
          <circle cx={x(vx)} cy={py} r={bright ? 5 : 3.4} {...inkOf(bright, hollow, color)} />
        )}
      </g>,
    );
  }
  return (
    <g data-testid="strip">
      <Ground x={x} top={top} bottom={bottom} measured={measured} hatch={hatch} />
      <g clipPath={`url(#${clip})`}>
        {s > 0 && <rect x={left} width={right - left} y={y(s)} height={y(-s) - y(s)} fill={color} opacity="0.1" />}
        <line x1={left} x2={right} y1={y(0)} y2={y(0)} stroke={color} strokeWidth="1.3" />
        {stems}
        {analysis.fits.map((one) => {
          const difference = differenceOf(one);
          return difference && !one.hidden && <Difference key={one.letter} letter={one.letter} difference={difference} x={x} y={y} />;
        })}
        {fit?.kind === "interpolation" && (
          <text x={(left + right) / 2} y={(top + bottom) / 2 - 8} textAnchor="middle" fontSize="var(--text-note)" fill="var(--color-mute)">
            no residuals: the curve meets every reading by construction
          </text>
        )}
      </g>
      <YAxis y={y} right={right} naming={analysis.naming} residual division={NO_GRID} />
    </g>
  );
}

const inkOf = (bright: boolean, hollow: boolean, color: string) => ({
  fill: bright ? "var(--color-lichen)" : hollow ? "var(--color-sheet)" : color,
  stroke: bright ? "var(--color-ink)" : hollow ? color : "none",
});

/** A given curve as it lies to the leading fit: where it runs among the residuals. */
function Difference({ letter, difference, x, y }: { letter: string; difference: NonNullable<HandFit["difference"]>; x: Scale; y: Scale }) {
  const { color, dash } = lookOf(letter);
  const path = line<number>(
    (i) => x(difference.x[i]!),
    (i) => y(difference.y[i]!),
  ).defined((i) => difference.y[i] != null && Number.isFinite(x(difference.x[i]!)));
  return (
    <path
      data-testid={`difference-${letter}`}
      d={path(difference.x.map((_, i) => i)) ?? ""}
      fill="none"
      stroke={color}
      strokeWidth="1.6"
      strokeDasharray={dash}
    />
  );
}
