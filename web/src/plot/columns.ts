import type { Placed } from "../api/client";

export interface Columns {
  x: Float64Array;
  y: Float64Array;
  status: Uint8Array;
}

const held = new WeakMap<Placed, Columns>();

/** The readings as typed arrays, NaN where there is no value, for loops over very many of them; made once. */
export function columnsOf(placed: Placed): Columns {
  let columns = held.get(placed);
  if (!columns) {
    const numbers = (values: (number | null)[]) => Float64Array.from(values, (value) => value ?? NaN);
    columns = { x: numbers(placed.x), y: numbers(placed.y), status: Uint8Array.from(placed.status) };
    held.set(placed, columns);
  }
  return columns;
}
