import type { Understood } from "../api/client";
import { ROLES } from "./roles";
import type { Elapsed, TakenColumn, TakenRole } from "./taken";

const UNITS: Record<Elapsed, string> = { s: "s", min: "min", h: "h", d: "d", "": "as text" };

/** The first rows as they were understood, under the heading of each column, where every guess can be changed. */
export function TablePreview({ found, counted, columns, onPut }: { found: Understood; counted: boolean; columns: TakenColumn[]; onPut: (place: number, part: Partial<TakenColumn>) => void }) {
  const off = found.columns.flatMap((column, place) => (columns[place]?.role === "skip" ? [] : column.wrong.map((cell) => ({ ...cell, place }))));
  const count = found.columns.reduce((sum, column, place) => sum + (["skip", "other", "series"].includes(columns[place]?.role ?? "") ? 0 : column.wrong_count), 0);
  const numbers = off.filter(({ place }) => !["other", "series"].includes(columns[place]?.role ?? ""));
  const times = found.columns.find((column) => column.times);
  return (
    <>
      <div className="max-h-[46vh] overflow-auto border border-rule" tabIndex={0} role="region" aria-label="The table as it was understood">
        <table className="w-full border-collapse">
          <thead className="bg-well">
            <tr>
              <th scope="col" className="w-10">
                <span className="sr-only">row</span>
              </th>
              {columns.map((column, place) => (
                <th key={place} scope="col" className="min-w-44 border-l border-rule p-1.5 text-left align-top font-normal">
                  <select className="field w-full" aria-label={`Column ${place + 1} role`} value={column.role} onChange={(event) => onPut(place, { role: event.target.value as TakenRole })}>
                    {ROLES.map(({ role, word }) => (
                      <option key={role} value={role}>
                        {word}
                      </option>
                    ))}
                    <option value="skip">skipped</option>
                  </select>
                  {column.role !== "skip" && (
                    <div className="mt-1 grid grid-cols-[1fr_3.2rem_3.6rem] gap-1">
                      <Field label={`Name of column ${place + 1}`} hint="name" value={column.name} limit={100} onChange={(name) => onPut(place, { name })} />
                      <Field label={`Symbol of column ${place + 1}`} hint="sym." value={column.symbol} limit={20} onChange={(symbol) => onPut(place, { symbol })} />
                      {column.elapsed === undefined ? (
                        <Field label={`Unit of column ${place + 1}`} hint="unit" value={column.unit} limit={40} onChange={(unit) => onPut(place, { unit })} />
                      ) : (
                        <select className="field h-[26px] w-full min-w-0 px-0.5" aria-label={`Times of column ${place + 1} are counted in`} value={column.elapsed} onChange={(event) => onPut(place, { elapsed: event.target.value as Elapsed })}>
                          {Object.entries(UNITS).map(([unit, word]) => (
                            <option key={unit} value={unit}>
                              {word}
                            </option>
                          ))}
                        </select>
                      )}
                    </div>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="numerals">
            {(found.columns[0]?.cells ?? []).map((_, row) => (
              <tr key={row} className="border-t border-rule/70">
                <th scope="row" className="bg-well px-2 text-right text-[11.5px] font-normal text-mute">
                  {row + 1}
                </th>
                {found.columns.map((column, place) => {
                  const wrong = numbers.some((cell) => cell.row === row && cell.place === place);
                  return (
                    <td
                      key={place}
                      className={`border-l border-rule/70 px-2 py-0.5 text-right ${wrong ? "bg-amber-well text-amber" : ""} ${columns[place]?.role === "skip" ? "text-mute line-through decoration-rule" : ""}`}
                      title={wrong ? "not a number" : undefined}
                    >
                      {column.cells[row]}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p>
        {counted ? `${found.row_count} ${found.row_count === 1 ? "row" : "rows"}` : "Counting the rows…"}
        {counted && found.row_count > (found.columns[0]?.cells.length ?? 0) && `, the first ${found.columns[0]!.cells.length} shown`}
        {found.passed_over > 0 && `; ${found.passed_over === 1 ? "a line above the table is" : `${found.passed_over} lines above the table are`} skipped`}
        {times && `; times count from ${times.since}`}
        {count > 0 && (
          <span className="text-amber">
            {"; "}
            {count} {count === 1 ? "cell is not a number" : "cells are not numbers"}
            {` (${numbers
              .slice(0, 4)
              .map((cell) => `row ${cell.row + 1}: “${cell.text}”`)
              .join(", ")}${count > 4 ? ", …" : ""})`}
            . {count === 1 ? "It is kept as written, and its row is" : "They are kept as written, and their rows are"} not used by fits.
          </span>
        )}
      </p>
    </>
  );
}

function Field(props: { label: string; hint: string; value: string; limit: number; onChange: (value: string) => void }) {
  return (
    <input
      className="field h-[26px] w-full min-w-0 px-1.5"
      aria-label={props.label}
      placeholder={props.hint}
      value={props.value}
      maxLength={props.limit}
      onChange={(event) => props.onChange(event.target.value)}
    />
  );
}
