import type { Change } from "../api/client";
import type { HeldStudy } from "../study/changes";
import { litColumns, litRows, type Place, type Selection } from "../study/view";

type Table = Pick<HeldStudy, "columns" | "row_count" | "aside">;

/** A block of cells, both ends counted; it may reach below the last row. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The selected block; without a selection the active cell. */
export function blockOf(selection: Selection | null, active: Place): Block {
  const [top, bottom] = litRows(selection) ?? [active.row, active.row];
  const [left, right] = selection ? litColumns(selection) : [active.col, active.col];
  return { top, bottom, left, right };
}

export const cellText = ({ columns }: Pick<Table, "columns">, row: number, col: number) => columns[col]?.cells[row] ?? "";

export function textsOf(table: Table, { top, bottom, left, right }: Block): string[][] {
  return range(top, bottom).map((row) => range(left, right).map((col) => cellText(table, row, col)));
}

/** The rows of a block that exist, for what is done with whole rows. */
export const existingRows = ({ row_count }: Table, { top, bottom }: Block) => range(top, Math.min(bottom, row_count - 1));

/** The change that empties the cells of a block, calculated columns left out; null where there is nothing to empty. */
export function clearing(table: Table, block: Block): Change | null {
  const left = firstTyped(table, block);
  if (
    left === null ||
    !textsOf(table, { ...block, left })
      .flat()
      .some(Boolean)
  )
    return null;
  const empty = range(left, block.right).map(() => "");
  return { kind: "set_cells", row: block.top, column: left, block: range(block.top, block.bottom).map(() => empty) };
}

/** The first row of a block into its others; of a single row the one above it into it. */
export function fillingDown(table: Table, block: Block): Change | null {
  const single = block.top === block.bottom;
  const left = firstTyped(table, block);
  if ((single && block.top === 0) || left === null) return null;
  const from = single ? block.top - 1 : block.top;
  const texts = range(left, block.right).map((col) => cellText(table, from, col));
  return { kind: "set_cells", row: from + 1, column: left, block: range(from + 1, block.bottom).map(() => texts) };
}

export function deleting(table: Table, block: Block): Change | null {
  const rows = existingRows(table, block);
  return rows.length ? { kind: "delete_rows", rows } : null;
}

/** As many empty rows as the block has, above it. */
export function inserting({ row_count }: Table, { top, bottom }: Block): Change | null {
  return top > row_count ? null : { kind: "insert_rows", at: top, count: bottom - top + 1 };
}

/** Set rows aside or mark them as assumed, with a reason; null takes the mark away. */
export function marking(table: Table, block: Block, kind: "mark_rows" | "assume_rows", reason: string | null): Change | null {
  const rows = existingRows(table, block);
  return rows.length ? { kind, marks: rows.map((row) => ({ row, reason })) } : null;
}

/** Set rows aside, or use them again where all of them are. */
export function togglingAside(table: Table, block: Block): Change | null {
  const aside = new Set(table.aside.map(({ row }) => row));
  return marking(table, block, "mark_rows", existingRows(table, block).every((row) => aside.has(row)) ? null : "");
}

/** The first column of a block that is typed, not calculated. */
function firstTyped({ columns }: Table, { left, right }: Block): number | null {
  const found = columns.findIndex((column, col) => col >= left && col <= right && !column.formula);
  return found < 0 ? null : found;
}

const range = (first: number, last: number) => Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
