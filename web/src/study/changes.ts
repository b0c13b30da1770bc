import type { Change, LaidPicture, Study } from "../api/client";
import { followedBy, inPlot, placed } from "../picture/matrix";

/** A study as the client holds it: every column with its cells. */
export type HeldStudy = Omit<Study, "columns"> & { columns: HeldColumn[] };
export type HeldColumn = Omit<Study["columns"][number], "cells"> & { cells: string[] };

/** The powers of ten by which the numbers of x and y are multiplied. */
export const exponentsOf = ({ columns }: { columns: { role: string; exponent: number }[] }): [number, number] => {
  const of = (role: string) => columns.find((column) => column.role === role)?.exponent ?? 0;
  return [of("x"), of("y")];
};

/** The newer state laid over the one that is held: columns that came without cells keep theirs. */
export function merge(held: HeldStudy | undefined, newer: Study): HeldStudy {
  const cells = new Map(held?.columns.map((column) => [column.key, column.cells]));
  return {
    ...newer,
    columns: newer.columns.map((column) => ({
      ...column,
      cells: column.cells ?? patched(cells.get(column.key) ?? [], column.patch ?? []),
    })),
  };
}

function patched(cells: string[], patch: { row: number; text: string }[]): string[] {
  if (!patch.length) return cells;
  const changed = cells.slice();
  for (const { row, text } of patch) changed[row] = text;
  return changed;
}

/** What was typed or arranged, shown at once, before the server has answered; everything computed from it follows with the answer. */
export function showTyped(study: HeldStudy, change: Change): HeldStudy {
  if (change.kind === "write_cells") return showWritten(study, change.cells);
  if (change.kind === "edit_study") return { ...study, title: change.title ?? study.title, question: change.question ?? study.question };
  if (change.kind === "set_plot") return { ...study, plot: { ...study.plot, ...change.settings } };
  if (change.kind === "put_picture") return showPicture(study, change.picture ?? null);
  if (change.kind === "set_report")
    return { ...study, author: change.author ?? study.author, date: change.date ?? study.date, report: change.parts ?? study.report };
  if (change.kind !== "set_cells") return study;
  const width = Math.max(...change.block.map((line) => line.length));
  if (change.column + width > study.columns.length) return study;
  const rows = Math.max(study.row_count, change.row + change.block.length);
  const columns = study.columns.map((column, place) => {
    const within = place - change.column;
    if (within < 0 && rows === column.cells.length) return column;
    const cells = column.cells.slice();
    while (cells.length < rows) cells.push("");
    change.block.forEach((line, i) => {
      const text = line[within];
      if (text !== undefined) cells[change.row + i] = text;
    });
    return { ...column, cells };
  });
  return { ...study, columns, row_count: rows };
}

/** A picture that is shown, hidden or laid elsewhere; where its marks hold it, the server says. */
function showPicture(study: HeldStudy, laid: LaidPicture | null): HeldStudy {
  if (!laid || !study.picture) return { ...study, picture: null };
  const log: [boolean, boolean] = [laid.log_x ?? false, laid.log_y ?? false];
  const matrix = laid.scale?.y_marks ? study.picture.matrix : [...followedBy(placed(laid.place, laid), inPlot(exponentsOf(study), log))];
  return { ...study, picture: { ...study.picture, laid, matrix } };
}

/** A reading that was moved or added stands in the table at once. */
function showWritten(study: HeldStudy, written: { row: number; key: string; text: string }[]): HeldStudy {
  const rows = Math.max(study.row_count, ...written.map(({ row }) => row + 1));
  const columns = study.columns.map((column) => {
    const own = written.filter(({ key }) => key === column.key);
    if (!own.length && rows === column.cells.length) return column;
    const cells = column.cells.slice();
    while (cells.length < rows) cells.push("");
    for (const { row, text } of own) cells[row] = text;
    return { ...column, cells };
  });
  return { ...study, columns, row_count: rows };
}
