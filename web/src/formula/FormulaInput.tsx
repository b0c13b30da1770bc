import { type KeyboardEvent, useId, useLayoutEffect, useRef, useState } from "react";

import type { KnownName } from "../api/client";

const SHOWN = 7;
/** A name that is being typed just before the caret. */
const BEGUN = /(?<![\p{L}\p{N}_.])[\p{L}_][\p{L}\p{N}_]*$/u;

interface Props {
  label: string;
  text: string;
  placeholder: string;
  invalid: boolean;
  /** Names that stand for something here, offered before functions. */
  own: KnownName[];
  known: KnownName[];
  /** A name that is complete as it is and gets no offers. */
  variable?: string;
  /** Offers from the first letter on. */
  eager?: boolean;
  autoFocus?: boolean;
  onText: (text: string) => void;
  /** Enter, or leaving the field. */
  onKeep: () => void;
  /** Enter alone, where it does more. */
  onEnter?: () => void;
  onRestore: () => void;
  onFocus?: () => void;
  /** The id of what is said of the formula. */
  said: string;
}

/** A field for a formula in which names are completed while it is typed. */
export function FormulaInput({
  label,
  text,
  placeholder,
  invalid,
  own,
  known,
  variable,
  eager,
  autoFocus,
  onText,
  onKeep,
  onEnter,
  onRestore,
  onFocus,
  said,
}: Props) {
  const [focused, setFocused] = useState(false);
  const [caret, setCaret] = useState<number | null>(null);
  const [pick, setPick] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const putCaret = useRef<number | null>(null);
  const id = useId();
  const begun = caret === null ? "" : (BEGUN.exec(text.slice(0, caret))?.[0] ?? "");
  // A name that stands for something as it is: Tab goes on to the next field.
  const whole = eager && own.some(({ name }) => name === begun);
  const offers = focused && !whole && begun.length >= (eager ? 1 : 2) && begun !== variable ? complete(begun, own, known) : [];

  useLayoutEffect(() => {
    if (putCaret.current === null || !field.current) return;
    field.current.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
  }, [text]);

  const take = (offer: KnownName) => {
    if (caret === null) return;
    const from = caret - begun.length;
    onText(text.slice(0, from) + offer.insert + text.slice(caret));
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
      (onEnter ?? onKeep)();
    } else if (event.key === "Escape") {
      if (offers.length) {
        event.stopPropagation();
        setCaret(null);
      } else onRestore();
    }
  }
  return (
    <>
      <input
        ref={field}
        type="text"
        role="combobox"
        aria-expanded={offers.length > 0}
        aria-controls={`${id}names`}
        aria-autocomplete="list"
        aria-activedescendant={offers.length ? `${id}name${pick}` : undefined}
        aria-label={label}
        aria-invalid={invalid}
        aria-describedby={said}
        placeholder={placeholder}
        spellCheck={false}
        autoCapitalize="off"
        autoComplete="off"
        autoFocus={autoFocus}
        maxLength={4000}
        value={text}
        className="field min-w-0 grow font-mono !text-[13.5px]"
        onFocus={() => {
          setFocused(true);
          onFocus?.();
        }}
        onBlur={() => {
          setFocused(false);
          setCaret(null);
          onKeep();
        }}
        onChange={(event) => {
          onText(event.target.value);
          setCaret(event.target.selectionStart);
          setPick(0);
        }}
        onKeyDown={onKeyDown}
      />
      {offers.length > 0 && (
        <ul
          id={`${id}names`}
          role="listbox"
          aria-label="Names"
          className="floating absolute top-full z-30 mt-1 flex w-full flex-wrap gap-1 !p-1.5"
        >
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
    </>
  );
}

/** The text with the place of the mistake marked, what is wrong, and what could stand there. */
export function FormulaProblem({
  text,
  at,
  length,
  message,
  possible,
}: {
  text: string;
  at: number | null;
  length: number;
  message: string;
  possible: string;
}) {
  return (
    <div role="status" className="text-amber">
      {at !== null && (
        <p className="font-mono text-[13px] text-ink" aria-hidden="true">
          {text.slice(0, at)}
          <mark className="bg-amber-well text-amber underline decoration-wavy underline-offset-2">
            {text.slice(at, at + Math.max(length, 1)) || "\u00a0"}
          </mark>
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

/** Names that go on from what was begun: those that stand for something here first, then functions. */
function complete(begun: string, own: KnownName[], known: KnownName[]): KnownName[] {
  const low = begun.toLowerCase();
  const goesOn = ({ name }: KnownName) => name.toLowerCase().startsWith(low) && name !== begun;
  return [...own.filter(goesOn), ...known.filter(goesOn)].slice(0, SHOWN);
}
