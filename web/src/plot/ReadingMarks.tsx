import type { ReactElement } from "react";

import type { Analysis } from "../api/client";
import { STATUS } from "../study/context";
import { isLit } from "../study/view";
import type { Scale } from "./scales";

interface Props {
  analysis: Analysis;
  x: Scale;
  y: Scale;
  lit: [number, number] | null;
  /** Rows to draw; null: all of them. */
  only: number[] | null;
}

/** The readings: filled when in use, hollow when set aside, ringed in lichen when chosen; error bars where given. */
export function ReadingMarks({ analysis, x, y, lit, only }: Props) {
  const marks: ReactElement[] = [];
  const bright: ReactElement[] = [];
  const rows = only ?? analysis.status.map((_, row) => row);
  for (const row of rows) {
    const status = analysis.status[row];
    const vx = analysis.x[row];
    const vy = analysis.y[row];
    if ((status !== STATUS.used && status !== STATUS.aside) || vx == null || vy == null) continue;
    const chosen = isLit(lit, row);
    const error = analysis.y_error?.[row];
    const px = x(vx);
    const py = y(vy);
    const hollow = status === STATUS.aside;
    (chosen ? bright : marks).push(
      <g key={row} data-row={row + 1} data-status={hollow ? "aside" : "used"}>
        {error != null && error > 0 && (
          <path
            d={`M${px} ${y(vy - error)}V${y(vy + error)}M${px - 3} ${y(vy - error)}h6M${px - 3} ${y(vy + error)}h6`}
            stroke="var(--color-ink)"
            fill="none"
            strokeWidth="1"
          />
        )}
        <circle
          cx={px}
          cy={py}
          r={chosen ? 6.5 : 4.5}
          fill={chosen ? "var(--color-lichen)" : hollow ? "var(--color-sheet)" : "var(--color-ink)"}
          stroke={chosen || hollow ? "var(--color-ink)" : "var(--color-sheet)"}
          strokeWidth={chosen ? 1.8 : hollow ? 1.5 : 1}
          strokeDasharray={chosen && hollow ? "2.5 2" : undefined}
        />
      </g>,
    );
  }
  return (
    <>
      {marks}
      {bright}
    </>
  );
}
