import { ArrowDownNarrowWide, ArrowDownWideNarrow } from "lucide-react";
import { useId, useRef, useState } from "react";

import type { Role } from "../api/client";
import type { HeldColumn } from "../study/changes";
import { useChange } from "../study/context";
import { powerOfTen } from "../ui/raised";
import { ROLES } from "./roles";

const SIGNS = ["°", "²", "³", "⁻¹", "µ", "Ω", "·", "±", "Δ", "λ", "ω"];
const EXPONENTS = [-12, -9, -6, -3, -2, 0, 2, 3, 6, 9, 12];
const WORDS: Record<number, string> = { [-12]: "billionth", [-9]: "thousand-millionth", [-6]: "millionth", [-3]: "thousandth", [-2]: "hundredth", 0: "none", 2: "hundred", 3: "thousand", 6: "million", 9: "thousand million", 12: "billion" };
const FIELDS = ["name", "symbol", "unit", "formula", "uncertainty", "lowest", "highest", "limits_why"] as const;
type Field = (typeof FIELDS)[number];

/** What a column is called, what it stands for, and how its numbers come about. */
export function ColumnForm({ column, onDone }: { column: HeldColumn; onDone: () => void }) {
  const change = useChange();
  const id = useId();
  const lastField = useRef<Field>("unit");
  const [draft, setDraft] = useState({ name: column.name, symbol: column.symbol, unit: column.unit, role: column.role as Role, formula: column.formula, exponent: column.exponent, uncertainty: column.uncertainty, lowest: column.lowest, highest: column.highest, limits_why: column.limits_why });
  const typed = !column.formula && column.cells.some((cell) => cell.trim());
  const measured = draft.role === "x" || draft.role === "y";

  const keep = () => {
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
        onFocus={() => (lastField.current = name)}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <form
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      {field("name", "Name", "depth", 100)}
      {field("symbol", "Symbol", "h", 20)}
      {field("unit", "Unit", "m", 40)}
      <div className="flex flex-wrap justify-end gap-1" role="group" aria-label="Insert a symbol">
        {SIGNS.map((sign) => (
          <button
            key={sign}
            type="button"
            className="grid h-6 min-w-6 place-content-center rounded border border-rule px-1 hover:border-edge"
            onClick={() => {
              const name = lastField.current;
              setDraft({ ...draft, [name]: draft[name] + sign });
              document.getElementById(`${id}-${name}`)?.focus();
            }}
          >
            {sign}
          </button>
        ))}
      </div>
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
            <select className="field w-48" value={draft.exponent} onChange={(event) => setDraft({ ...draft, exponent: Number(event.target.value) })}>
              {(EXPONENTS.includes(draft.exponent) ? EXPONENTS : [...EXPONENTS, draft.exponent]).map((exponent) => (
                <option key={exponent} value={exponent}>
                  {exponent ? `${WORDS[exponent] ?? ""} ${powerOfTen(exponent)}` : "ones"}
                </option>
              ))}
            </select>
          </label>
          {measured && field("uncertainty", "Uncertainty of each", "0.5 or 2 %", 40)}
          {measured && (
            <fieldset className="grid gap-2">
              <legend className="mb-1 text-[12px] text-mute">Values make sense …</legend>
              {field("lowest", "from", "0", 40)}
              {field("highest", "to", "any", 40)}
              {(draft.lowest || draft.highest) && field("limits_why", "because", "no negative speed", 100)}
            </fieldset>
          )}
          {!typed && field("formula", "Formula", "sqrt(d)", 4000)}
          {!typed && draft.formula && <p className="text-[12px] text-mute">Columns by their symbol, row for the row number; A for the value of fit A, A_slope for one of its parameters.</p>}
        </>
      )}
      {column.problem && (
        <p role="alert" className="text-[12.5px] text-amber">
          {column.problem}
        </p>
      )}
      <div className="mt-1 flex flex-wrap justify-end gap-1.5">
        {!column.formula && (
          <span className="mr-auto flex gap-1.5">
            <button type="button" className="icon-button" aria-label="Sort by this column, smallest first" title="Sort, smallest first" onClick={() => sort(false)}>
              <ArrowDownNarrowWide size={16} />
            </button>
            <button type="button" className="icon-button" aria-label="Sort by this column, largest first" title="Sort, largest first" onClick={() => sort(true)}>
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
        <button className="button-main">Apply</button>
      </div>
    </form>
  );
}
