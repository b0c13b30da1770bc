import type { Place } from "../study/view";

/** The cell of the table that an element of the page is, or lies in. */
export function cellAt(element: EventTarget | null): Place | null {
  const cell = element instanceof HTMLElement ? element.closest<HTMLElement>("[data-cell]") : null;
  const [row, col] = cell?.dataset.cell?.split(" ").map(Number) ?? [];
  return row === undefined || col === undefined ? null : { row, col };
}
