import { useId, useState } from "react";

import type { Fit, FormulaLook } from "../api/client";
import { useNaming } from "../study/context";
import { select } from "../study/view";
import { Symbol } from "../ui/Symbol";
import { Sideways } from "../ui/Sideways";
import { Typeset } from "../ui/Typeset";
import { FormulaInput } from "./FormulaInput";
import { PartLook } from "./PartLook";
import { useFormula, useKnownNames } from "./useFormula";
import { FormulaProblem } from "./FormulaProblem";

/** An own formula: typeset and checked while it is typed, names completed, and any part of it looked at on its own. */
export function FormulaEditor({ fit, onKeep }: { fit: Fit; onKeep: (text: string) => void }) {
  const naming = useNaming();
  const held = String(fit.options.text ?? "");
  const [draft, setDraft] = useState<string | null>(null);
  const [focused, setFocused] = useState(false);
  const [part, setPart] = useState<number | null>(null);
  // What was handed in stays in the field until the study has it: who types on at once loses nothing.
  const [sent, setSent] = useState(false);
  const [seen, setSeen] = useState(held);
  if (seen !== held) {
    setSeen(held);
    if (sent) setDraft(null);
    setSent(false);
  }
  const text = draft ?? held;
  const { look, good } = useFormula({ letter: fit.letter, text, degrees: Boolean(fit.options.degrees), part });

  const names = useKnownNames(focused);
  const own = [...new Set(look?.parameters ?? [])].map((name) => ({ name, insert: name, meaning: "in use here" }));

  const keep = () => {
    if (draft === null || sent) return;
    if (draft.trim() === held) return setDraft(null);
    setSent(true);
    onKeep(draft.trim());
  };
  const said = useId();
  const problem = look?.problem && text.trim() ? look : null;
  return (
    <div className="relative w-full">
      <div className="relative flex items-baseline gap-1.5">
        <span className="text-lead">
          <Symbol text={naming.y} /> =
        </span>
        <FormulaInput
          label={`Formula of fit ${fit.letter}`}
          text={text}
          placeholder={`a*exp(k*${naming.x}) + b`}
          invalid={problem !== null}
          own={own}
          known={names}
          variable={naming.x}
          onText={(typed) => {
            setDraft(typed);
            setSent(false);
          }}
          onKeep={keep}
          onRestore={() => !sent && setDraft(null)}
          onFocus={() => setFocused(true)}
          said={said}
        />
      </div>
      <div id={said} aria-live="polite" className="mt-1 grid gap-1 text-plain">
        {good.latex && (
          <Sideways label="Formula, typeset" className={`rounded-sm bg-well px-2 py-1.5 ${problem ? "text-mute" : ""}`}>
            <Typeset latex={good.latex} text={good.text} className="font-book text-lead" />
          </Sideways>
        )}
        {problem && draft !== null && !sent && (
          <FormulaProblem
            text={text}
            at={problem.position ?? null}
            length={problem.length ?? 1}
            message={problem.problem ?? ""}
            possible={problem.possible ?? ""}
          />
        )}
        {!problem && look && <Understood look={look} />}
      </div>
      {look && !problem && (look.parts?.length ?? 0) > 1 && (
        <PartLook parts={look.parts!} part={look.part ?? null} place={part} onPlace={setPart} />
      )}
    </div>
  );
}

/** What a formula that holds asks of the readings, and where it has no value. */
function Understood({ look }: { look: FormulaLook }) {
  const parameters = look.parameters ?? [];
  return (
    <>
      {parameters.length > 0 && (
        <p className="text-mute">
          To be found:{" "}
          {parameters.map((name) => (
            <span key={name} className="mr-2">
              <Symbol text={name} />
            </span>
          ))}
        </p>
      )}
      {!parameters.length && look.latex && <p className="text-mute">Every number is given: a known curve, nothing is fitted.</p>}
      {look.notes?.map((note) => (
        <p key={note.message} className="text-amber">
          {note.message}{" "}
          {note.rows.length > 0 && (
            <button
              type="button"
              className="underline"
              onPointerDown={(event) => event.preventDefault()}
              onClick={() => select({ row: note.rows[0]!, col: 0 })}
            >
              Show row {note.rows[0]! + 1}
            </button>
          )}
        </p>
      ))}
    </>
  );
}
