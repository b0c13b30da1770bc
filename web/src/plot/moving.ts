import type { Change } from "../api/client";
import type { HeldStudy } from "../study/changes";
import { inSign } from "../ui/decimalSign";
import { toStep } from "../ui/numbers";
import type { Scale } from "./scales";

/** The most decimals that are typed in a column, of its first cells. */
const decimalsIn = (cells: string[]) =>
  cells.slice(0, 500).reduce((most, cell) => Math.max(most, /^[^eE]*[.,](\d+)/.exec(cell)?.[1]?.length ?? 0), 0);

/** A power of ten that a pixel of an axis is not smaller than, in the numbers of its cells. */
function pixelStep(scale: Scale, at: number, exponent: number): number {
  const perPixel = Math.abs(scale.invert(scale(at) + 1) - at) / 10 ** exponent;
  return 10 ** Math.floor(Math.log10(perPixel || 1e-6));
}

/**
 * The step to which a reading snaps on one axis, in the numbers of its cells: the decimals that the column already has, coarser
 * where a pixel is more. A column without decimals takes finer steps where whole ones would be leaps.
 */
export function snapStep(cells: string[], scale: Scale, at: number, exponent: number): number {
  const perPixel = Math.abs(scale.invert(scale(at) + 1) - at) / 10 ** exponent;
  const fine = pixelStep(scale, at, exponent);
  const decimals = decimalsIn(cells);
  const own = 10 ** -decimals;
  return !decimals && own > 20 * perPixel ? fine : Math.max(own, fine);
}

/** Parts of a pixel to which a place on a picture is read. */
const FINER = 10;

/**
 * The change that puts a reading at a place of the plot, snapped; null where a column cannot be typed into. `offPicture`: it is read off
 * a picture, as fine as that goes, whatever decimals the column has.
 */
export function placing(
  study: HeldStudy,
  row: number,
  x: Scale,
  y: Scale,
  at: { x: number; y: number },
  what: "move" | "add",
  offPicture = false,
): Change | null {
  const cells: { row: number; key: string; text: string }[] = [];
  for (const [role, scale, value] of [
    ["x", x, at.x],
    ["y", y, at.y],
  ] as const) {
    const column = study.columns.find((one) => one.role === role)!;
    if (column.formula) {
      if (what === "add") return null;
      continue;
    }
    const step = offPicture ? pixelStep(scale, value, column.exponent) / FINER : snapStep(column.cells, scale, value, column.exponent);
    const fewest = offPicture ? 0 : decimalsIn(column.cells);
    cells.push({ row, key: column.key, text: inSign(toStep(value / 10 ** column.exponent, step, fewest)) });
  }
  return cells.length ? { kind: "write_cells", cells, what } : null;
}

/** The row below the last one in which something is typed. */
export function firstFreeRow({ row_count, columns }: HeldStudy): number {
  let row = row_count;
  while (row > 0 && columns.every((column) => column.formula || !column.cells[row - 1])) row--;
  return row;
}
