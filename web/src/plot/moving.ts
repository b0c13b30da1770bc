import type { Change } from "../api/client";
import type { HeldStudy } from "../study/changes";
import { inSign } from "../ui/decimalSign";
import { toStep } from "../ui/numbers";
import type { Scale } from "./scales";

/** The most decimals that are typed in a column, of its first cells. */
const decimalsIn = (cells: string[]) =>
  cells.slice(0, 500).reduce((most, cell) => Math.max(most, /^[^eE]*[.,](\d+)/.exec(cell)?.[1]?.length ?? 0), 0);

/**
 * The step to which a reading snaps on one axis, in the numbers of its cells: the decimals that the column already has, coarser
 * where a pixel is more. A column without decimals takes finer steps where whole ones would be leaps.
 */
export function snapStep(cells: string[], scale: Scale, at: number, exponent: number): number {
  const pixel = scale(at);
  const perPixel = Math.abs(scale.invert(pixel + 1) - at) / 10 ** exponent;
  const fine = 10 ** Math.floor(Math.log10(perPixel || 1e-6));
  const decimals = decimalsIn(cells);
  const own = 10 ** -decimals;
  return !decimals && own > 20 * perPixel ? fine : Math.max(own, fine);
}

/** The change that puts a reading at a place of the plot, snapped; null where a column cannot be typed into. */
export function placing(
  study: HeldStudy,
  row: number,
  x: Scale,
  y: Scale,
  at: { x: number; y: number },
  what: "move" | "add",
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
    const step = snapStep(column.cells, scale, value, column.exponent);
    cells.push({ row, key: column.key, text: inSign(toStep(value / 10 ** column.exponent, step, decimalsIn(column.cells))) });
  }
  return cells.length ? { kind: "write_cells", cells, what } : null;
}
