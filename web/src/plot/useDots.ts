import { useMemo } from "react";

import type { Placed } from "../api/client";
import { isDrawnRow, STATUS } from "../study/status";
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
    const used = layer(x, y, "--color-ink", 1);
    const aside = layer(x, y, "--color-mute", 2.2, true);
    const bright = layer(x, y, "--color-lichen", 1);
    const strip = layer(x, residual, ink, 1);
    const stripBright = layer(x, residual, "--color-lichen", 1);
    const [left, right] = x.range();
    const [placeX, placeY, placeRest] = [placer(x), placer(y), placer(residual)];
    for (let row = 0; row < columns.status.length; row++) {
      const status = columns.status[row];
      if (!isDrawnRow(status)) continue;
      const px = placeX(columns.x[row]!);
      if (!(px >= left && px <= right)) continue;
      const py = placeY(columns.y[row]!);
      const chosen = (row >= litFrom && row <= litTo) || (caught.size > 0 && caught.has(row));
      put(status === STATUS.used ? used : aside, px, py);
      if (chosen) put(bright, px, py);
      if (status === STATUS.used && rests) {
        const at = placeRest(rests[row]!);
        put(strip, px, at);
        if (chosen) put(stripBright, px, at);
      }
    }
    return [used, aside, bright, strip, stripBright];
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

/** An area of pixels, none of them hit yet. */
function layer(x: Scale, y: Scale, color: string, radius: number, hollow = false): Dots {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  const [width, height] = [Math.ceil(right - left) + 1, Math.ceil(bottom - top) + 1];
  return { seen: new Uint8Array(width * height), width, height, left: Math.round(left), top: Math.round(top), color, radius, hollow };
}

/** Takes one mark for each pixel; extremes are kept, since every pixel that is hit is drawn. Called for every reading at every move. */
function put({ seen, width, height, left, top }: Dots, px: number, py: number) {
  const line = (py - top + 0.5) | 0;
  if (py >= top && line < height) seen[line * width + ((px - left + 0.5) | 0)] = 1;
}
