import type { Understood } from "../api/client";
import type { TakenColumn } from "./taken";

const SHOWN = 4;

/** What of a table is not used, each with its reason: lines that are no part of it, cells that are no numbers. */
export function NotUsed({ found, columns }: { found: Understood; columns: TakenColumn[] }) {
  const measured = found.columns.map((_, place) => !["skip", "other", "series"].includes(columns[place]?.role ?? "skip"));
  const cells = found.columns.flatMap((column, place) => (measured[place] ? column.wrong : [])).sort((a, b) => a.row - b.row);
  const count = found.columns.reduce((sum, column, place) => sum + (measured[place] ? column.wrong_count : 0), 0);
  const lines = found.passed_over;
  const more = found.passed_over_more;
  if (!lines.length && !count) return null;
  return (
    <div className="grid gap-1 text-plain">
      {lines.length > 0 && (
        <p>
          <span className="font-medium">Not part of the table: </span>
          {lines.map((one, i) => (
            <span key={i}>
              {i > 0 && "; "}
              {one.last > one.first ? `lines ${one.first} to ${one.last}` : `line ${one.first}`}
              {one.text && ` “${one.text}”`} ({one.why})
            </span>
          ))}
          {more > 0 && `; and ${more} more`}.
        </p>
      )}
      {count > 0 && (
        <p className="text-amber">
          <span className="font-medium">
            {count} {count === 1 ? "cell is not a number" : "cells are not numbers"}:{" "}
          </span>
          {cells.slice(0, SHOWN).map((cell, i) => (
            <span key={i}>
              {i > 0 && "; "}
              row {cell.row + 1}: “{cell.text}” {cell.why}
            </span>
          ))}
          {count > SHOWN && "; …"}. {count === 1 ? "It is kept as written, and its row is" : "They are kept as written, and their rows are"}{" "}
          not used by fits.
        </p>
      )}
    </div>
  );
}
