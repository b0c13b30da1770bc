import { useId } from "react";

import type { ColumnLook } from "../api/client";
import { FormulaInput } from "../formula/FormulaInput";
import { useKnownNames } from "../formula/useFormula";
import { Sideways } from "../ui/Sideways";
import { Typeset } from "../ui/Typeset";
import { FormulaProblem } from "../formula/FormulaProblem";

interface Props {
  text: string;
  look: ColumnLook | null;
  autoFocus?: boolean;
  onText: (text: string) => void;
  onKeep: () => void;
}

/** The formula of a column: names offered, typeset and checked while it is typed, its first values shown. */
export function ColumnFormula({ text, look, autoFocus, onText, onKeep }: Props) {
  const said = useId();
  const known = useKnownNames(true);
  const formula = look?.formula;
  return (
    <div className="grid gap-1">
      <div className="relative flex items-baseline gap-2">
        <span className="text-mute">Formula</span>
        <FormulaInput
          label="Formula"
          text={text}
          placeholder="sqrt(d)"
          invalid={Boolean(formula?.problem)}
          own={look?.names ?? []}
          known={known}
          eager
          autoFocus={autoFocus}
          onText={onText}
          onKeep={() => undefined}
          onEnter={onKeep}
          onRestore={() => undefined}
          said={said}
        />
      </div>
      <div id={said} aria-live="polite" className="grid gap-1 text-plain">
        {text.trim() && formula?.problem && (
          <FormulaProblem
            text={text}
            at={formula.position ?? null}
            length={formula.length ?? 1}
            message={formula.problem}
            possible={formula.possible ?? ""}
          />
        )}
        {text.trim() && !formula?.problem && formula?.latex && (
          <Sideways label="Formula, typeset" className="rounded-sm bg-well px-2 py-1.5">
            <Typeset latex={formula.latex} text={text} className="font-book text-lead" />
          </Sideways>
        )}
        {text.trim() && !formula?.problem && (formula?.values?.length ?? 0) > 0 && (
          <p className="numerals text-mute">First values: {formula!.values!.join(", ")}</p>
        )}
        {formula?.no_value && <p className="text-amber">{formula.no_value}</p>}
        {!text.trim() && (
          <p className="text-mute">
            Columns by their symbol
            {look?.names?.length
              ? ` (${look.names
                  .filter(({ column }) => column)
                  .map(({ name }) => name)
                  .join(", ")})`
              : ""}
            , row for the row number; A for fit A at the row, A(…) at any value, A_slope for one of its parameters.
          </p>
        )}
      </div>
    </div>
  );
}
