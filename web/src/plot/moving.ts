import type { Change } from "../api/client";
import type { HeldStudy } from "../study/changes";
import { toStep } from "../ui/numbers";
import type { Scale } from "./scales";

/**
 * The step to which a reading snaps on one axis, in the numbers of its cells: the decimals that the column already has,
 * as long as such a step is neither finer than a pixel nor a leap.
 */
export function snapStep(cells: string[], scale: Scale, at: number, exponent: number): number {
  const pixel = scale(at);
  const perPixel = Math.abs(scale.invert(pixel + 1) - at) / 10 ** exponent;
  const fine = 10 ** Math.floor(Math.log10(perPixel || 1e-6));
  const decimals = cells.slice(0, 500).reduce((most, cell) => Math.max(most, /^[^eE]*[.,](\d+)/.exec(cell)?.[1]?.length ?? 0), 0);
  const own = 10 ** -decimals;
  if (own > 20 * perPixel) return fine;
  return Math.max(own, fine);
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
    cells.push({ row, key: column.key, text: toStep(value / 10 ** column.exponent, step) });
  }
  return cells.length ? { kind: "write_cells", cells, what } : null;
}
