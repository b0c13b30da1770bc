import type { Analysis } from "../api/client";

export interface Columns {
  x: Float64Array;
  y: Float64Array;
  status: Uint8Array;
}

const held = new WeakMap<Analysis, Columns>();

/** The readings as typed arrays, NaN where there is no value, for loops over very many of them; made once. */
export function columnsOf(analysis: Analysis): Columns {
  let columns = held.get(analysis);
  if (!columns) {
    const numbers = (values: (number | null)[]) => Float64Array.from(values, (value) => value ?? NaN);
    columns = { x: numbers(analysis.x), y: numbers(analysis.y), status: Uint8Array.from(analysis.status) };
    held.set(analysis, columns);
  }
  return columns;
}
