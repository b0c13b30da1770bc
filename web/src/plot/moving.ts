import { api, type Change } from "../api/client";
import type { HeldStudy } from "../study/changes";
import type { Scale } from "./scales";

/** A number written with the decimals of its step. */
function write(value: number, step: number): string {
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  if (decimals > 12 || Math.abs(value) >= 1e12) return String(Number(value.toPrecision(6)));
  return (Math.round(value / step) * step).toFixed(decimals).replace(/^-(0(\.0*)?)$/, "$1");
}

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
export function placing(study: HeldStudy, row: number, x: Scale, y: Scale, at: { x: number; y: number }, what: "move" | "add"): Change | null {
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
    cells.push({ row, key: column.key, text: write(value / 10 ** column.exponent, step) });
  }
  return cells.length ? { kind: "write_cells", cells, what } : null;
}

/** The analysis as it would be after a change. */
export async function previewOf({ id, version, change }: { id: string; version: number; change: Change }) {
  return (await api.POST("/api/studies/{study_id}/preview", { params: { path: { study_id: id } }, body: { version, change } })).data ?? null;
}
