import { type KeyboardEvent, useId, useRef } from "react";

import type { KnownName } from "../api/client";
import { useCompletion } from "./useCompletion";

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
  autoFocus,
  onText,
  onKeep,
  onEnter,
  onRestore,
  onFocus,
  said,
  ...names
}: Props) {
  const field = useRef<HTMLInputElement>(null);
  const id = useId();
  const { offers, pick, ...completion } = useCompletion({ field, text, onText, ...names });
  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    if (completion.onKeyDown(event)) return;
    if (event.key === "Enter") {
      event.preventDefault();
      (onEnter ?? onKeep)();
    } else if (event.key === "Escape") onRestore();
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
        className="field min-w-0 grow font-mono !text-plain"
        onFocus={() => {
          completion.focus(true);
          onFocus?.();
        }}
        onBlur={() => {
          completion.focus(false);
          onKeep();
        }}
        onChange={(event) => {
          onText(event.target.value);
          completion.typed(event.target.selectionStart);
        }}
        onKeyDown={onKeyDown}
      />
      {offers.length > 0 && <Offers id={id} offers={offers} pick={pick} onTake={completion.take} />}
    </>
  );
}

function Offers({ id, offers, pick, onTake }: { id: string; offers: KnownName[]; pick: number; onTake: (offer: KnownName) => void }) {
  return (
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
          className={`cursor-default rounded border border-rule px-1.5 py-0.5 font-mono text-plain ${i === pick ? "bg-lichen text-on-lichen" : ""}`}
          onPointerDown={(event) => {
            event.preventDefault();
            onTake(offer);
          }}
        >
          {offer.name}
        </li>
      ))}
      <li role="presentation" className="self-center text-note text-mute">
        {offers[pick]?.meaning} · Tab takes it
      </li>
    </ul>
  );
}
