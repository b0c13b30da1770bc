import { useMemo } from "react";

import type { Analysis } from "../api/client";
import { STATUS } from "../study/context";
import type { Dots } from "./CanvasDots";
import type { Scale } from "./scales";

interface Wanted {
  analysis: Analysis;
  x: Scale;
  y: Scale;
  residual: Scale;
  lit: [number, number] | null;
  caught: Set<number>;
  on: boolean;
}

/** Of many readings the pixels that they fill, group by group: one mark a pixel is all that can be seen. */
export function useDots({ analysis, x, y, residual, lit, caught, on }: Wanted): Dots[] {
  const residuals = analysis.fits[0]?.residuals;
  const [litFrom, litTo] = lit ?? [-1, -1];
  return useMemo(() => {
    if (!on) return [];
    const kinds = { used: collector(x, y), aside: collector(x, y), bright: collector(x, y), strip: collector(x, residual), stripBright: collector(x, residual) };
    const rows = analysis.status.length;
    for (let row = 0; row < rows; row++) {
      const status = analysis.status[row];
      if (status !== STATUS.used && status !== STATUS.aside) continue;
      const px = x(analysis.x[row]!);
      if (!(px >= kinds.used.left && px <= kinds.used.right)) continue;
      const py = y(analysis.y[row]!);
      const used = status === STATUS.used;
      const bright = (row >= litFrom && row <= litTo) || caught.has(row);
      (used ? kinds.used : kinds.aside).put(px, py);
      if (bright) kinds.bright.put(px, py);
      const rest = residuals?.[row];
      if (used && rest != null) {
        const at = residual(rest);
        kinds.strip.put(px, at);
        if (bright) kinds.stripBright.put(px, at);
      }
    }
    return [
      { ...kinds.used.taken, color: "--color-ink", radius: 1.6 },
      { ...kinds.aside.taken, color: "--color-mute", radius: 2.2, hollow: true },
      { ...kinds.bright.taken, color: "--color-lichen", radius: 1.3 },
      { ...kinds.strip.taken, color: "--color-pine", radius: 1.3 },
      { ...kinds.stripBright.taken, color: "--color-lichen", radius: 1 },
    ];
  }, [on, analysis, residuals, litFrom, litTo, caught, x, y, residual]);
}

/** Takes one mark for each pixel of its area; extremes are kept, since every pixel that is hit is drawn. */
function collector(x: Scale, y: Scale) {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  const width = Math.ceil(right - left) + 1;
  const seen = new Uint8Array(width * (Math.ceil(bottom - top) + 1));
  const taken: { x: number[]; y: number[] } = { x: [], y: [] };
  return {
    left,
    right,
    taken,
    put(px: number, py: number) {
      if (!(py >= top && py <= bottom && px >= left && px <= right)) return;
      const cell = Math.round(py - top) * width + Math.round(px - left);
      if (seen[cell]) return;
      seen[cell] = 1;
      taken.x.push(px);
      taken.y.push(py);
    },
  };
}
