import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";

import { api, messageOf, type Role, type Understood } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { setView } from "../study/view";
import { ROLES } from "./ColumnHeader";

const SEPARATORS = { tab: "tabs", semicolon: "semicolons", comma: "commas", spaces: "spaces" } as const;
const DECIMALS = { point: "a point, 1.5", comma: "a comma, 1,5" } as const;
type Choices = { separator?: keyof typeof SEPARATORS; decimal?: keyof typeof DECIMALS; header?: boolean };
type Column = { name: string; symbol: string; unit: string; role: Role };

/** What was understood of a pasted table, every guess open to change, before it is taken in as one step. */
export function PasteDialog({ text }: { text: string }) {
  const study = useStudy();
  const change = useChange();
  const [choices, setChoices] = useState<Choices>({});
  const [found, setFound] = useState<Understood | null>(null);
  const [columns, setColumns] = useState<Column[]>([]);
  const [problem, setProblem] = useState("");
  const filled = study.columns.some((column) => column.cells.some(Boolean));
  const [where, setWhere] = useState<"replace" | "below">("replace");
  const newest = useRef(0);

  useEffect(() => {
    const asked = ++newest.current;
    void api
      .POST("/api/tables/understand", { body: { text, ...choices } })
      .then(({ data, error }) => {
        if (asked !== newest.current) return;
        setProblem(data ? "" : messageOf(error));
        if (!data) return;
        setFound(data);
        setColumns(data.columns.map(({ name, symbol, unit, role }) => ({ name, symbol, unit, role: role as Role })));
      })
      .catch(() => setProblem("The server cannot be reached. Close this and paste again; nothing is lost."));
  }, [text, choices]);

  const close = () => setView({ pasted: null });
  const put = (place: number, part: Partial<Column>) =>
    setColumns(
      columns.map((column, i) => {
        if (i === place) return { ...column, ...part };
        // A role that can be held once goes from its holder to the column that takes it.
        return part.role && part.role !== "other" && column.role === part.role ? { ...column, role: "other" } : column;
      }),
    );
  const take = () => {
    if (!found) return;
    change({
      kind: "take_table",
      text,
      separator: found.separator as keyof typeof SEPARATORS,
      decimal: found.decimal as keyof typeof DECIMALS,
      header: found.header,
      columns,
      where: filled ? where : "replace",
    });
    close();
  };
  const wrong = found?.columns.flatMap((column, place) => column.wrong.map((cell) => ({ ...cell, place }))) ?? [];
  const wrongCount = found?.columns.reduce((sum, column) => sum + column.wrong_count, 0) ?? 0;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-bar/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] w-[min(46rem,96vw)] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-(--radius) border border-edge bg-sheet p-5 text-[13px]"
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="font-book text-lg font-semibold">Take in a table</Dialog.Title>
            <Dialog.Close className="icon-button" aria-label="Close">
              <X size={16} />
            </Dialog.Close>
          </div>
          {problem && <p role="alert">{problem}</p>}
          {found && (
            <>
              <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
                <Choice label="Cells are parted by" value={choices.separator ?? found.separator} words={SEPARATORS} onChange={(separator) => setChoices({ ...choices, separator })} />
                <Choice label="The decimal sign is" value={choices.decimal ?? found.decimal} words={DECIMALS} onChange={(decimal) => setChoices({ ...choices, decimal })} />
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-4 accent-pine"
                    checked={choices.header ?? found.header}
                    onChange={(event) => setChoices({ ...choices, header: event.target.checked })}
                  />
                  The first row is a heading
                </label>
              </div>
              <div className="max-h-[46vh] overflow-auto border border-rule" tabIndex={0} role="region" aria-label="The table as it was understood">
                <table className="w-full border-collapse">
                  <thead className="bg-well">
                    <tr>
                      <th scope="col" className="w-10">
                        <span className="sr-only">row</span>
                      </th>
                      {columns.map((column, place) => (
                        <th key={place} scope="col" className="min-w-52 border-l border-rule p-1.5 text-left align-top font-normal">
                          <select className="field w-full" aria-label={`Column ${place + 1} is used as`} value={column.role} onChange={(event) => put(place, { role: event.target.value as Role })}>
                            {ROLES.map(({ role, word }) => (
                              <option key={role} value={role}>
                                {word}
                              </option>
                            ))}
                          </select>
                          <div className="mt-1 grid grid-cols-[1fr_3.2rem_3.6rem] gap-1">
                            <Field label={`Name of column ${place + 1}`} hint="name" value={column.name} limit={100} onChange={(name) => put(place, { name })} />
                            <Field label={`Symbol of column ${place + 1}`} hint="sym." value={column.symbol} limit={20} onChange={(symbol) => put(place, { symbol })} />
                            <Field label={`Unit of column ${place + 1}`} hint="unit" value={column.unit} limit={40} onChange={(unit) => put(place, { unit })} />
                          </div>
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody className="numerals">
                    {found.columns[0]!.cells.map((_, row) => (
                      <tr key={row} className="border-t border-rule/70">
                        <th scope="row" className="bg-well px-2 text-right text-[11.5px] font-normal text-mute">
                          {row + 1}
                        </th>
                        {found.columns.map((column, place) => {
                          const off = column.wrong.some((cell) => cell.row === row);
                          return (
                            <td key={place} className={`border-l border-rule/70 px-2 py-0.5 text-right ${off ? "bg-amber-well text-amber" : ""}`} title={off ? "not a number" : undefined}>
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
                {found.row_count} {found.row_count === 1 ? "row" : "rows"}
                {found.row_count > found.columns[0]!.cells.length && `, the first ${found.columns[0]!.cells.length} shown`}
                {wrongCount > 0 && (
                  <span className="text-amber">
                    {"; "}
                    {wrongCount} {wrongCount === 1 ? "cell is" : "cells are"} no number
                    {` (${wrong
                      .slice(0, 4)
                      .map((cell) => `row ${cell.row + 1}: “${cell.text}”`)
                      .join(", ")}${wrongCount > 4 ? ", …" : ""})`}
                    . {wrongCount === 1 ? "It is kept as written, and its row is" : "They are kept as written, and their rows are"} left out of fits.
                  </span>
                )}
              </p>
              <div className="flex flex-wrap items-center justify-end gap-2">
                {filled && (
                  <fieldset className="mr-auto flex flex-wrap gap-x-4">
                    <legend className="sr-only">Where to put it</legend>
                    {(["replace", "below"] as const).map((place) => (
                      <label key={place} className="flex items-center gap-1.5">
                        <input type="radio" name="where" className="accent-pine" checked={where === place} onChange={() => setWhere(place)} />
                        {place === "replace" ? "in place of these readings" : "below these readings"}
                      </label>
                    ))}
                  </fieldset>
                )}
                <button className="button" onClick={close}>
                  Leave it
                </button>
                <button className="button-main" onClick={take}>
                  Take in
                </button>
              </div>
            </>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Choice<Name extends string>(props: { label: string; value: string; words: Record<Name, string>; onChange: (value: Name) => void }) {
  return (
    <label className="flex items-center gap-2">
      {props.label}
      <select className="field" value={props.value} onChange={(event) => props.onChange(event.target.value as Name)}>
        {(Object.keys(props.words) as Name[]).map((name) => (
          <option key={name} value={name}>
            {props.words[name]}
          </option>
        ))}
      </select>
    </label>
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
