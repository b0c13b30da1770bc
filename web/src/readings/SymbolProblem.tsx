import type { ColumnLook } from "../api/client";

/** What is wrong with a symbol, and one press that takes what could be used instead. */
export function SymbolProblem({ look, onTake }: { look: ColumnLook | null; onTake: (symbol: string) => void }) {
  if (!look?.symbol_problem) return null;
  return (
    <p role="alert" className="text-plain text-amber">
      {look.symbol_problem}{" "}
      {look.symbol_proposal && (
        <button type="button" className="underline" onClick={() => onTake(look.symbol_proposal)}>
          Take {look.symbol_proposal}
        </button>
      )}
    </p>
  );
}
