import { useState } from "react";

import { useChange, useStudy } from "../study/context";
import { select } from "../study/view";
import { Sheet } from "../ui/Sheet";
import { SignPalette, withSign } from "../ui/SignPalette";
import { ColumnFormula } from "./ColumnFormula";
import { FromSources } from "./FromSources";
import { SymbolProblem } from "./SymbolProblem";
import { useColumnLook } from "./useColumnLook";

/** A new column that is calculated from others. */
export function CalculatedDialog({ onClose }: { onClose: () => void }) {
  const study = useStudy();
  const change = useChange();
  const [draft, setDraft] = useState({ name: "", symbol: "", unit: "", formula: "" });
  const [unitField, setUnitField] = useState<HTMLInputElement | null>(null);
  const { look, checked } = useColumnLook({ key: "", ...draft, uncertainty: "" });
  const ready = draft.formula.trim() !== "" && look !== null && !look.formula.problem && !look.symbol_problem;
  const add = async () => {
    const found = await checked();
    if (!draft.formula.trim() || found?.formula.problem || found?.symbol_problem) return;
    change({ kind: "add_column", role: "other", ...draft, formula: draft.formula.trim() });
    select({ row: 0, col: study.columns.length });
    onClose();
  };
  const field = (name: "name" | "symbol" | "unit", label: string, hint: string) => (
    <label className="grid gap-0.5">
      <span className="text-mute">{label}</span>
      <input
        className={`field w-full ${name === "symbol" ? "font-book italic" : ""}`}
        ref={name === "unit" ? setUnitField : undefined}
        value={draft[name]}
        placeholder={hint}
        maxLength={name === "name" ? 100 : 40}
        spellCheck={false}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <Sheet title="Calculated column" width="w-[min(30rem,94vw)]" onClose={onClose}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <ColumnFormula
          text={draft.formula}
          look={look}
          autoFocus
          onText={(formula) => setDraft({ ...draft, formula })}
          onKeep={() => void add()}
        />
        <div className="grid grid-cols-[1fr_5rem_6rem] gap-2">
          {field("name", "Name", "root of the depth")}
          {field("symbol", "Symbol", "r")}
          {field("unit", "Unit", "m")}
        </div>
        <SymbolProblem look={look} onTake={(symbol) => setDraft({ ...draft, symbol })} />
        <FromSources look={look} unit={draft.unit} onUnit={(unit) => setDraft({ ...draft, unit })} />
        {look?.formula.carried && <p className="text-note text-mute">{look.formula.carried}</p>}
        <SignPalette onSign={(sign) => setDraft({ ...draft, unit: withSign(unitField, draft.unit, sign) })} />
        <div className="flex justify-end gap-2">
          <button type="button" className="button" onClick={onClose}>
            Cancel
          </button>
          <button className="button-main" aria-disabled={!ready}>
            Add
          </button>
        </div>
      </form>
    </Sheet>
  );
}
