import { useState } from "react";

import type { ColumnLook } from "../api/client";
import type { HeldColumn } from "../study/changes";
import { useChange } from "../study/context";
import { useColumnLook } from "./useColumnLook";

const FIELDS = ["name", "symbol", "unit", "formula", "uncertainty", "lowest", "highest", "limits_why"] as const;
export type Field = (typeof FIELDS)[number];

/** What is typed about a column, what is wrong with it, and the one step that keeps all of it. */
export function useColumnDraft(column: HeldColumn, onDone: () => void) {
  const change = useChange();
  const { name, symbol, unit, role, formula, exponent, uncertainty, lowest, highest, limits_why } = column;
  const [draft, setDraft] = useState({ name, symbol, unit, role, formula, exponent, uncertainty, lowest, highest, limits_why });
  const put = (part: Partial<typeof draft>) => setDraft({ ...draft, ...part });
  /** Whether its cells hold what was typed, so that they cannot be calculated. */
  const typed = !column.formula && column.cells.some((cell) => cell.trim());
  const measured = draft.role === "x" || draft.role === "y";
  const uncertain = measured || draft.role === "other";
  const { look, checked } = useColumnLook({
    key: column.key,
    name: draft.name,
    symbol: draft.symbol,
    unit: draft.unit,
    uncertainty: draft.uncertainty,
    formula: draft.formula,
  });
  const faulty = (one: ColumnLook) =>
    Boolean(one.symbol_problem || (uncertain && one.uncertainty_problem) || (!typed && one.formula.problem));
  const keep = async () => {
    const found = await checked();
    if (found && faulty(found)) return;
    onDone();
    const changed: Record<string, unknown> = {};
    for (const key of FIELDS) if (draft[key].trim() !== column[key]) changed[key] = draft[key].trim();
    if (draft.role !== role) changed.role = draft.role;
    if (draft.exponent !== exponent) changed.exponent = draft.exponent;
    if (Object.keys(changed).length) change({ kind: "edit_column", key: column.key, ...changed });
  };
  return { draft, put, typed, measured, uncertain, look, wrong: look !== null && faulty(look), keep };
}
