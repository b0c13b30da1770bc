import type { Analysis } from "../../api/client";
import { type DrawnFit, isComputed } from "../../fits/kinds";
import { lookOf } from "../../fits/looks";
import { makeScale, type Scale } from "../scales";
import { STATUS } from "../../study/status";
import { groupDigits } from "../../ui/numbers";
import { enlarged } from "./enlarged";

interface Props {
  fit: DrawnFit;
  analysis: Analysis;
  rows: number[];
  x: Scale;
  area: { left: number; right: number; top: number; bottom: number };
}

/** The residuals of one fit as sticks, drawn so much larger than the worst fit's that their pattern is seen; by how much is printed. */
export function ResidualSticks({ fit, analysis, rows, x, area }: Props) {
  const middle = (area.left + area.right) / 2;
  if (!isComputed(fit))
    return (
      <text x={middle} y={(area.top + area.bottom) / 2} textAnchor="middle" fontSize="var(--text-note)" fill="var(--color-mute)">
        no residuals: it meets every reading
      </text>
    );
  // A reading set aside may lie anywhere: it must not press the others flat.
  const largest = (residuals: (number | null)[]) =>
    residuals.reduce<number>((most, one, row) => (analysis.status[row] === STATUS.used ? Math.max(most, Math.abs(one ?? 0)) : most), 0);
  const common = Math.max(0, ...analysis.fits.filter(isComputed).map((one) => largest(one.residuals)));
  const factor = enlarged(largest(fit.residuals), common);
  const limit = common / factor || 1;
  const r = makeScale([-limit, limit], [area.bottom, area.top]);
  const { color } = lookOf(fit.letter);
  return (
    <>
      <text x={area.left} y={area.top - 5} fontSize="var(--text-note)" fill="var(--color-mute)">
        residuals{factor > 1 && ` × ${groupDigits(factor)}`}
      </text>
      <line x1={area.left} x2={area.right} y1={r(0)} y2={r(0)} stroke={color} />
      {rows.map((row) => {
        const value = fit.residuals[row];
        if (value == null) return null;
        const end = Math.min(Math.max(r(value), area.top), area.bottom);
        const at = x(analysis.x[row]!);
        return <line key={row} x1={at} x2={at} y1={r(0)} y2={end} stroke={color} strokeWidth="1.6" />;
      })}
    </>
  );
}
