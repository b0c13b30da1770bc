import type { Placed } from "../api/client";
import { STATUS } from "../study/status";
import type { Scale } from "./scales";

/** Pixels that residuals at the edges of the strip may reach beyond them. */
export const STEM = 6;
/** Pixels by which a stem may be off before all of them are drawn anew: nobody sees it, and a canvas costs a fifth of a move. */
const OFF = 0.4;

interface Wanted {
  placed: Placed;
  residuals: (number | null)[];
  x: Scale;
  y: Scale;
  /** Rows that are drawn one by one. */
  apart: Set<number>;
}

/** Where residuals lie on the strip, row by row in pixels; NaN for a row that has none. */
export interface Stems {
  px: Float32Array;
  py: Float32Array;
  x: Scale;
  y: Scale;
}

export function stemsOf({ placed, residuals, x, y, apart }: Wanted): Stems {
  const [bottom, top] = [y.range()[0] + STEM, y.range()[1] - STEM];
  const px = new Float32Array(residuals.length).fill(NaN);
  const py = new Float32Array(residuals.length).fill(NaN);
  residuals.forEach((residual, row) => {
    const vx = placed.x[row];
    if (residual == null || vx == null || placed.status[row] !== STATUS.used || apart.has(row)) return;
    px[row] = x(vx);
    py[row] = Math.min(Math.max(y(residual), top), bottom);
  });
  return { px, py, x, y };
}

/** Gives back the stems it gave before for as long as the newer ones lie where those do. */
export function steadily(): (stems: Stems) => Stems {
  let held: Stems | null = null;
  return (stems) => (held = held && near(held, stems) ? held : stems);
}

function near(one: Stems, other: Stems): boolean {
  if (one.px.length !== other.px.length) return false;
  // The strip itself, and its line at zero.
  const ends = [one, other].map(({ x, y }) => [...x.range(), ...y.range(), y(0)].join(" "));
  return ends[0] === ends[1] && one.px.every((at, row) => close(at, other.px[row]!) && close(one.py[row]!, other.py[row]!));
}

const close = (a: number, b: number) => Math.abs(a - b) <= OFF || (Number.isNaN(a) && Number.isNaN(b));
