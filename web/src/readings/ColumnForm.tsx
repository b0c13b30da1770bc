import { ArrowDownNarrowWide, ArrowDownWideNarrow } from "lucide-react";
import { useId, useState } from "react";

import type { ColumnLook, Role } from "../api/client";
import type { HeldColumn } from "../study/changes";
import { useChange } from "../study/context";
import { powerOfTen } from "../ui/raised";
import { SignPalette, withSign } from "../ui/SignPalette";
import { ColumnFormula } from "./ColumnFormula";
import { ROLES } from "./roles";
import { SymbolProblem } from "./SymbolProblem";
import { useColumnLook } from "./useColumnLook";

const EXPONENTS = [-12, -9, -6, -3, -2, 0, 2, 3, 6, 9, 12];
/** Prefixes of the SI (SI Brochure, 9th ed., table 7). */
const PREFIXES: Record<number, string> = {
  [-12]: "pico",
  [-9]: "nano",
  [-6]: "micro",
  [-3]: "milli",
  [-2]: "centi",
  2: "hecto",
  3: "kilo",
  6: "mega",
  9: "giga",
  12: "tera",
};
const FIELDS = ["name", "symbol", "unit", "formula", "uncertainty", "lowest", "highest", "limits_why"] as const;
type Field = (typeof FIELDS)[number];

/** What a column is called, what it stands for, and how its numbers come about. */
export function ColumnForm({ column, onDone }: { column: HeldColumn; onDone: () => void }) {
  const change = useChange();
  const id = useId();
  const [lastField, setLastField] = useState<Field>("unit");
  const [draft, setDraft] = useState({
    name: column.name,
    symbol: column.symbol,
    unit: column.unit,
    role: column.role,
    formula: column.formula,
    exponent: column.exponent,
    uncertainty: column.uncertainty,
    lowest: column.lowest,
    highest: column.highest,
    limits_why: column.limits_why,
  });
  const typed = !column.formula && column.cells.some((cell) => cell.trim());
  const measured = draft.role === "x" || draft.role === "y";

  const { look, checked } = useColumnLook({
    key: column.key,
    name: draft.name,
    symbol: draft.symbol,
    uncertainty: draft.uncertainty,
    formula: draft.formula,
  });
  const faulty = (one: ColumnLook) =>
    Boolean(one.symbol_problem || (measured && one.uncertainty_problem) || (!typed && one.formula.problem));
  const wrong = look !== null && faulty(look);

  const keep = async () => {
    const found = await checked();
    if (found && faulty(found)) return;
    onDone();
    const changed: Record<string, unknown> = {};
    for (const key of FIELDS) if (draft[key].trim() !== column[key]) changed[key] = draft[key].trim();
    if (draft.role !== column.role) changed.role = draft.role;
    if (draft.exponent !== column.exponent) changed.exponent = draft.exponent;
    if (Object.keys(changed).length) change({ kind: "edit_column", key: column.key, ...changed });
  };
  const sort = (descending: boolean) => {
    onDone();
    change({ kind: "sort_rows", key: column.key, descending });
  };
  const field = (name: Field, label: string, placeholder: string, limit: number) => (
    <label className="flex items-center justify-between gap-3">
      <span className="text-mute">{label}</span>
      <input
        id={`${id}-${name}`}
        className={`field w-48 ${name === "symbol" ? "font-book italic" : name === "formula" ? "font-mono text-[12.5px]" : ""}`}
        value={draft[name]}
        placeholder={placeholder}
        maxLength={limit}
        spellCheck={false}
        onFocus={() => setLastField(name)}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {field("name", "Name", "depth", 100)}
      {field("symbol", "Symbol", "h", 20)}
      <SymbolProblem look={look} onTake={(symbol) => setDraft({ ...draft, symbol })} />
      {field("unit", "Unit", "m", 40)}
      <SignPalette
        onSign={(sign) => {
          const name = lastField;
          setDraft({ ...draft, [name]: withSign(document.getElementById(`${id}-${name}`) as HTMLInputElement | null, draft[name], sign) });
        }}
      />
      <label className="flex items-center justify-between gap-3">
        <span className="text-mute">Role</span>
        <select className="field w-48" value={draft.role} onChange={(event) => setDraft({ ...draft, role: event.target.value as Role })}>
          {ROLES.map(({ role, word }) => (
            <option key={role} value={role}>
              {word}
            </option>
          ))}
        </select>
      </label>
      {draft.role !== "series" && (
        <>
          <label className="flex items-center justify-between gap-3">
            <span className="text-mute">Multiplier</span>
            <select
              className="field w-48"
              value={draft.exponent}
              onChange={(event) => setDraft({ ...draft, exponent: Number(event.target.value) })}
            >
              {(EXPONENTS.includes(draft.exponent) ? EXPONENTS : [...EXPONENTS, draft.exponent]).map((exponent) => (
                <option key={exponent} value={exponent}>
                  {exponent ? `${powerOfTen(exponent)}${PREFIXES[exponent] ? ` (${PREFIXES[exponent]})` : ""}` : "none"}
                </option>
              ))}
            </select>
          </label>
          {measured && field("uncertainty", "Uncertainty of each", "0.5 or 2 %", 40)}
          {measured && look?.uncertainty_problem && (
            <p role="alert" className="text-[12.5px] text-amber">
              {look.uncertainty_problem}
            </p>
          )}
          {measured && (
            <fieldset className="grid gap-2">
              <legend className="mb-1 text-[12px] text-mute">Values make sense …</legend>
              {field("lowest", "from", "0", 40)}
              {field("highest", "to", "any", 40)}
              {(draft.lowest || draft.highest) && field("limits_why", "because", "no negative speed", 100)}
            </fieldset>
          )}
          {!typed && (
            <ColumnFormula
              text={draft.formula}
              look={look}
              onText={(formula) => setDraft({ ...draft, formula })}
              onKeep={() => void keep()}
            />
          )}
        </>
      )}
      {column.problem && draft.formula === column.formula && (
        <p role="alert" className="text-[12.5px] text-amber">
          {column.problem}
        </p>
      )}
      <div className="mt-1 flex flex-wrap justify-end gap-1.5">
        {!column.formula && (
          <span className="mr-auto flex gap-1.5">
            <button
              type="button"
              className="icon-button"
              aria-label="Sort by this column, smallest first"
              title="Sort, smallest first"
              onClick={() => sort(false)}
            >
              <ArrowDownNarrowWide size={16} />
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label="Sort by this column, largest first"
              title="Sort, largest first"
              onClick={() => sort(true)}
            >
              <ArrowDownWideNarrow size={16} />
            </button>
          </span>
        )}
        {column.role !== "x" && column.role !== "y" && (
          <button
            type="button"
            className="button"
            onClick={() => {
              onDone();
              change({ kind: "remove_column", key: column.key });
            }}
          >
            Remove column
          </button>
        )}
        <button className="button-main" aria-disabled={wrong}>
          Apply
        </button>
      </div>
    </form>
  );
}
