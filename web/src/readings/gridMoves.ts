import type { Place } from "../study/view";

const PAGE = 12;

/** Where a key leads from a cell, with Ctrl to the far end; null for keys that do not move. It may lie beyond the table. */
export function movedBy(
  key: string,
  far: boolean,
  { row, col }: Place,
  { rows, columns }: { rows: number; columns: number },
): Place | null {
  const last = Math.max(0, rows - 1);
  switch (key) {
    case "ArrowDown":
      return { row: far ? last : row + 1, col };
    case "ArrowUp":
      return { row: far ? 0 : row - 1, col };
    case "ArrowRight":
      return { row, col: far ? columns - 1 : col + 1 };
    case "ArrowLeft":
      return { row, col: far ? 0 : col - 1 };
    case "PageDown":
      return { row: row + PAGE, col };
    case "PageUp":
      return { row: row - PAGE, col };
    case "Home":
      return { row: far ? 0 : row, col: 0 };
    case "End":
      return { row: far ? last : row, col: columns - 1 };
    default:
      return null;
  }
}

/** The next cell in reading order, or the one before; null where that lies outside the rows from 0 to the one after the last. */
export function beside({ row, col }: Place, back: boolean, { rows, columns }: { rows: number; columns: number }): Place | null {
  const next = col + (back ? -1 : 1);
  const wraps = next < 0 || next >= columns;
  const line = row + (wraps ? (back ? -1 : 1) : 0);
  return line < 0 || line > rows ? null : { row: line, col: (next + columns) % columns };
}
