import { ArrowDownNarrowWide, ArrowDownWideNarrow } from "lucide-react";
import { useId, useState } from "react";

import type { HeldColumn } from "../study/changes";
import { useChange } from "../study/context";
import { powerOfTen } from "../ui/numbers";
import { Select } from "../ui/Select";
import { SignPalette, withSign } from "../ui/SignPalette";
import { ColumnField, Labelled } from "./ColumnField";
import { ColumnFormula } from "./ColumnFormula";
import { ColumnUncertainty } from "./ColumnUncertainty";
import { FromSources } from "./FromSources";
import { ROLES } from "./roles";
import { SymbolProblem } from "./SymbolProblem";
import { type Field, useColumnDraft } from "./useColumnDraft";

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

/** What a column is called, what it stands for, and how its numbers come about. */
export function ColumnForm({ column, onDone }: { column: HeldColumn; onDone: () => void }) {
  const id = useId();
  const [lastField, setLastField] = useState<Field>("unit");
  const { draft, put, typed, measured, uncertain, look, wrong, keep } = useColumnDraft(column, onDone);
  const change = useChange();
  const convert = () => {
    onDone();
    change({ kind: "convert_column", key: column.key, unit: draft.unit.trim() });
  };
  const field = (name: Field, label: string, placeholder: string, limit: number, look?: string) => (
    <ColumnField
      id={`${id}-${name}`}
      {...{ label, placeholder, limit, look }}
      text={draft[name]}
      onFocus={() => setLastField(name)}
      onText={(text) => put({ [name]: text })}
    />
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
      {field("symbol", "Symbol", "h", 20, "font-book italic")}
      <SymbolProblem look={look} onTake={(symbol) => put({ symbol })} />
      {field("unit", "Unit", "m", 40)}
      {look?.conversion && draft.unit.trim() !== column.unit && (
        <p className="text-note text-mute">
          {look.conversion}.{" "}
          <button type="button" className="underline" onClick={convert}>
            Convert the numbers to {draft.unit.trim()}
          </button>
        </p>
      )}
      <SignPalette
        onSign={(sign) => put({ [lastField]: withSign(document.getElementById(`${id}-${lastField}`), draft[lastField], sign) })}
      />
      <Labelled label="Role">
        <Select className="field w-48" value={draft.role} words={ROLES} onPick={(role) => put({ role })} />
      </Labelled>
      {draft.role !== "series" && (
        <>
          <Labelled label="Multiplier">
            <Select
              className="field w-48"
              value={draft.exponent}
              words={multipliers(draft.exponent)}
              onPick={(exponent) => put({ exponent })}
            />
          </Labelled>
          {uncertain && (
            <ColumnUncertainty
              id={`${id}-uncertainty`}
              text={draft.uncertainty}
              calculated={Boolean(draft.formula.trim())}
              look={look}
              onText={(uncertainty) => put({ uncertainty })}
              onFocus={() => setLastField("uncertainty")}
            />
          )}
          {measured && (
            <fieldset className="grid gap-2">
              <legend className="mb-1 text-note text-mute">Values make sense …</legend>
              {field("lowest", "from", "0", 40)}
              {field("highest", "to", "any", 40)}
              {(draft.lowest || draft.highest) && field("limits_why", "because", "no negative speed", 100)}
            </fieldset>
          )}
          {!typed && <ColumnFormula text={draft.formula} look={look} onText={(formula) => put({ formula })} onKeep={() => void keep()} />}
          {!typed && draft.formula.trim() && <FromSources look={look} unit={draft.unit} onUnit={(unit) => put({ unit })} />}
        </>
      )}
      {column.problem && draft.formula === column.formula && !look?.formula.no_value && !look?.formula.problem && (
        <p role="alert" className="text-plain text-amber">
          {column.problem}
        </p>
      )}
      <div className="mt-1 flex flex-wrap justify-end gap-1.5">
        <WholeColumn column={column} onDone={onDone} />
        <button className="button-main" aria-disabled={wrong}>
          Apply
        </button>
      </div>
    </form>
  );
}

const multipliers = (held: number) =>
  (EXPONENTS.includes(held) ? EXPONENTS : [...EXPONENTS, held]).map(
    (exponent) => [exponent, exponent ? `${powerOfTen(exponent)}${PREFIXES[exponent] ? ` (${PREFIXES[exponent]})` : ""}` : "none"] as const,
  );

/** What is done with the column as a whole: its rows sorted by it, the column removed. */
function WholeColumn({ column, onDone }: { column: HeldColumn; onDone: () => void }) {
  const change = useChange();
  const sort = (descending: boolean) => {
    onDone();
    change({ kind: "sort_rows", key: column.key, descending });
  };
  const remove = () => {
    onDone();
    change({ kind: "remove_column", key: column.key });
  };
  return (
    <>
      {!column.formula && (
        <span className="mr-auto flex gap-1.5">
          {[false, true].map((descending) => {
            const order = `${descending ? "largest" : "smallest"} first`;
            const Icon = descending ? ArrowDownWideNarrow : ArrowDownNarrowWide;
            return (
              <button
                key={order}
                type="button"
                className="icon-button"
                aria-label={`Sort by this column, ${order}`}
                title={`Sort, ${order}`}
                onClick={() => sort(descending)}
              >
                <Icon size={16} />
              </button>
            );
          })}
        </span>
      )}
      {column.role !== "x" && column.role !== "y" && (
        <button type="button" className="button" onClick={remove}>
          Remove column
        </button>
      )}
    </>
  );
}
