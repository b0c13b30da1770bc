import { useMemo } from "react";

import type { Placed } from "../api/client";
import { STATUS } from "../study/context";
import { columnsOf } from "./columns";
import type { Dots } from "./paintDots";
import type { Scale } from "./scales";

interface Wanted {
  placed: Placed;
  /** Of the leading fit. */
  residuals: (number | null)[] | undefined;
  /** CSS variable of its colour. */
  ink: string;
  x: Scale;
  y: Scale;
  residual: Scale;
  lit: [number, number] | null;
  caught: Set<number>;
  on: boolean;
}

/** Of many readings the pixels that they fill, group by group: one mark a pixel is all that can be seen. */
export function useDots({ placed, residuals, ink, x, y, residual, lit, caught, on }: Wanted): Dots[] {
  const rests = useMemo(() => (on && residuals ? Float64Array.from(residuals, (value) => value ?? NaN) : null), [on, residuals]);
  const [litFrom, litTo] = lit ?? [-1, -1];
  return useMemo(() => {
    if (!on) return [];
    const columns = columnsOf(placed);
    const used = collector(x, y);
    const aside = collector(x, y);
    const bright = collector(x, y);
    const strip = collector(x, residual);
    const stripBright = collector(x, residual);
    const [left, right] = x.range();
    const [placeX, placeY, placeRest] = [placer(x), placer(y), placer(residual)];
    for (let row = 0; row < columns.status.length; row++) {
      const status = columns.status[row];
      if (status !== STATUS.used && status !== STATUS.aside) continue;
      const px = placeX(columns.x[row]!);
      if (!(px >= left && px <= right)) continue;
      const py = placeY(columns.y[row]!);
      const chosen = (row >= litFrom && row <= litTo) || (caught.size > 0 && caught.has(row));
      (status === STATUS.used ? used : aside).put(px, py);
      if (chosen) bright.put(px, py);
      if (status === STATUS.used && rests) {
        const at = placeRest(rests[row]!);
        strip.put(px, at);
        if (chosen) stripBright.put(px, at);
      }
    }
    return [
      { ...used.taken(), color: "--color-ink", radius: 1 },
      { ...aside.taken(), color: "--color-mute", radius: 2.2, hollow: true },
      { ...bright.taken(), color: "--color-lichen", radius: 1 },
      { ...strip.taken(), color: ink, radius: 1 },
      { ...stripBright.taken(), color: "--color-lichen", radius: 1 },
    ];
  }, [on, placed, rests, ink, litFrom, litTo, caught, x, y, residual]);
}

/** A scale as one multiplication where it is even. */
function placer(scale: Scale): (value: number) => number {
  if (scale.shape.kind !== "linear") return scale;
  const [low, high] = scale.domain;
  const [from, to] = scale.range();
  const factor = (to - from) / (high - low);
  return (value) => from + (value - low) * factor;
}

/** Takes one mark for each pixel of its area; extremes are kept, since every pixel that is hit is drawn. */
function collector(x: Scale, y: Scale) {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  const width = Math.ceil(right - left) + 1;
  const height = Math.ceil(bottom - top) + 1;
  const seen = new Uint8Array(width * height);
  let count = 0;
  return {
    put(px: number, py: number) {
      if (!(py >= top && py <= bottom)) return;
      const cell = Math.round(py - top) * width + Math.round(px - left);
      count += 1 - seen[cell]!;
      seen[cell] = 1;
    },
    /** The pixels that are hit. */
    taken() {
      const xs = new Int16Array(count);
      const ys = new Int16Array(count);
      let at = 0;
      for (let cell = 0; at < count && cell < seen.length; cell++) {
        if (!seen[cell]) continue;
        xs[at] = Math.round(left) + (cell % width);
        ys[at++] = Math.round(top) + Math.floor(cell / width);
      }
      return { x: xs, y: ys };
    },
  };
}
