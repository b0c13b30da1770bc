import { type KeyboardEvent, useId, useLayoutEffect, useRef, useState } from "react";

import type { Fit, KnownName } from "../api/client";
import { useNaming } from "../study/context";
import { select } from "../study/view";
import { Symbol } from "../ui/Symbol";
import { Sideways } from "../ui/Sideways";
import { Typeset } from "../ui/Typeset";
import { PartLook } from "./PartLook";
import { useFormula, useKnownNames } from "./useFormula";

const SHOWN = 7;
/** A name that is being typed just before the caret. */
const BEGUN = /(?<![\p{L}\p{N}_.])[\p{L}_][\p{L}\p{N}_]*$/u;

/** An own formula: typeset and checked while it is typed, names completed, and any part of it looked at on its own. */
export function FormulaEditor({ fit, onKeep }: { fit: Fit; onKeep: (text: string) => void }) {
  const naming = useNaming();
  const held = String(fit.options.text ?? "");
  const [draft, setDraft] = useState<string | null>(null);
  const [focused, setFocused] = useState(false);
  const [part, setPart] = useState<number | null>(null);
  const [caret, setCaret] = useState<number | null>(null);
  const [pick, setPick] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const putCaret = useRef<number | null>(null);
  const id = useId();
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
  const begun = caret === null ? "" : (BEGUN.exec(text.slice(0, caret))?.[0] ?? "");
  const offers = focused && begun ? complete(begun, names, [naming.x, ...(look?.parameters ?? [])]) : [];

  useLayoutEffect(() => {
    if (putCaret.current === null || !field.current) return;
    field.current.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
  }, [text]);

  const keep = () => {
    if (draft === null || sent) return;
    if (draft.trim() === held) return setDraft(null);
    setSent(true);
    onKeep(draft.trim());
  };
  const take = (offer: KnownName) => {
    if (caret === null) return;
    const from = caret - begun.length;
    setDraft(text.slice(0, from) + offer.insert + text.slice(caret));
    setSent(false);
    putCaret.current = from + offer.insert.length;
    setCaret(putCaret.current);
    setPick(0);
  };
  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    const offer = offers[pick];
    if (offers.length && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      setPick((pick + (event.key === "ArrowDown" ? 1 : offers.length - 1)) % offers.length);
    } else if (event.key === "Tab" && offer && !event.shiftKey) {
      event.preventDefault();
      take(offer);
    } else if (event.key === "Enter") {
      event.preventDefault();
      keep();
    } else if (event.key === "Escape") {
      if (offers.length) setCaret(null);
      else if (!sent) setDraft(null);
    }
  }
  const problem = look?.problem && text.trim() ? look : null;
  return (
    <div className="relative w-full">
      <div className="flex items-baseline gap-1.5">
        <span className="text-[15px]">
          <Symbol text={naming.y} /> =
        </span>
        <input
          ref={field}
          type="text"
          role="combobox"
          aria-expanded={offers.length > 0}
          aria-controls={`${id}names`}
          aria-autocomplete="list"
          aria-activedescendant={offers.length ? `${id}name${pick}` : undefined}
          aria-label={`Formula of fit ${fit.letter}`}
          aria-invalid={problem !== null}
          aria-describedby={`${id}said`}
          placeholder={`a*exp(k*${naming.x}) + b`}
          spellCheck={false}
          autoCapitalize="off"
          autoComplete="off"
          maxLength={4000}
          value={text}
          className="field min-w-0 grow font-mono !text-[13.5px]"
          onFocus={() => setFocused(true)}
          onBlur={() => {
            setFocused(false);
            setCaret(null);
            keep();
          }}
          onChange={(event) => {
            setDraft(event.target.value);
            setSent(false);
            setCaret(event.target.selectionStart);
            setPick(0);
          }}
          onKeyDown={onKeyDown}
        />
      </div>
      <div id={`${id}said`} aria-live="polite" className="mt-1 grid gap-1 text-[13px]">
        {good.latex && (
          <Sideways label="Formula, typeset" className={`rounded-sm bg-well px-2 py-1.5 ${problem ? "text-mute" : ""}`}>
            <Typeset latex={good.latex} text={good.text} className="font-book text-[16px]" />
          </Sideways>
        )}
        {problem && draft !== null && !sent && <Problem text={text} at={problem.position ?? null} length={problem.length ?? 1} message={problem.problem ?? ""} possible={problem.possible ?? ""} />}
        {!problem && (look?.parameters?.length ?? 0) > 0 && (
          <p className="text-mute">
            To be found:{" "}
            {look!.parameters!.map((name) => (
              <span key={name} className="mr-2">
                <Symbol text={name} />
              </span>
            ))}
          </p>
        )}
        {!problem && look && !look.parameters?.length && look.latex && <p className="text-mute">Every number is given: a known curve, nothing is fitted.</p>}
        {!problem &&
          look?.notes?.map((note) => (
            <p key={note.message} className="text-amber">
              {note.message}{" "}
              {(note.rows?.length ?? 0) > 0 && (
                <button type="button" className="underline" onPointerDown={(event) => event.preventDefault()} onClick={() => select({ row: note.rows[0]!, col: 0 })}>
                  Show row {note.rows[0]! + 1}
                </button>
              )}
            </p>
          ))}
      </div>
      {offers.length > 0 && (
        <ul id={`${id}names`} role="listbox" aria-label="Names" className="floating absolute z-30 mt-1 flex w-full flex-wrap gap-1 !p-1.5">
          {offers.map((offer, i) => (
            <li
              key={offer.name}
              id={`${id}name${i}`}
              role="option"
              aria-selected={i === pick}
              title={offer.meaning}
              className={`cursor-default rounded border border-rule px-1.5 py-0.5 font-mono text-[12.5px] ${i === pick ? "bg-lichen text-on-lichen" : ""}`}
              onPointerDown={(event) => {
                event.preventDefault();
                take(offer);
              }}
            >
              {offer.name}
            </li>
          ))}
          <li role="presentation" className="self-center text-[12px] text-mute">
            {offers[pick]?.meaning} · Tab takes it
          </li>
        </ul>
      )}
      {look && !problem && (look.parts?.length ?? 0) > 1 && <PartLook parts={look.parts!} part={look.part ?? null} place={part} onPlace={setPart} />}
    </div>
  );
}

/** The text with the place of the mistake marked, what is wrong, and what could stand there. */
function Problem({ text, at, length, message, possible }: { text: string; at: number | null; length: number; message: string; possible: string }) {
  return (
    <div role="status" className="text-amber">
      {at !== null && (
        <p className="font-mono text-[13px] text-ink" aria-hidden="true">
          {text.slice(0, at)}
          <mark className="bg-amber-well text-amber underline decoration-wavy underline-offset-2">{text.slice(at, at + Math.max(length, 1)) || "\u00a0"}</mark>
          {text.slice(at + Math.max(length, 1))}
        </p>
      )}
      <p>
        {message}
        {possible && <span className="text-mute"> Possible here: {possible}.</span>}
      </p>
    </div>
  );
}

/** Names that go on from what was begun: those of the formula first, then functions. */
function complete(begun: string, known: KnownName[], own: string[]): KnownName[] {
  const low = begun.toLowerCase();
  if (begun.length < 2 || begun === own[0]) return []; // what is begun counts as a parameter already, so only x is left alone
  const goesOn = (name: string) => name.toLowerCase().startsWith(low) && name !== begun;
  const mine = [...new Set(own)].filter((name) => goesOn(name)).map((name) => ({ name, insert: name, meaning: "in use here" }));
  return [...mine, ...known.filter(({ name }) => goesOn(name))].slice(0, SHOWN);
}
