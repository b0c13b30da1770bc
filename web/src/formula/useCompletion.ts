import { type KeyboardEvent, type RefObject, useLayoutEffect, useRef, useState } from "react";

import type { KnownName } from "../api/client";

const SHOWN = 7;
/** A name that is being typed just before the caret. */
const BEGUN = /(?<![\p{L}\p{N}_.])[\p{L}_][\p{L}\p{N}_]*$/u;

interface Wanted {
  field: RefObject<HTMLInputElement | null>;
  text: string;
  own: KnownName[];
  known: KnownName[];
  variable?: string;
  eager?: boolean;
  onText: (text: string) => void;
}

/** Names that complete what is begun at the caret of a field. */
export function useCompletion({ field, text, own, known, variable, eager, onText }: Wanted) {
  const [focused, setFocused] = useState(false);
  const [caret, setCaret] = useState<number | null>(null);
  const [pick, setPick] = useState(0);
  const putCaret = useRef<number | null>(null);
  const begun = caret === null ? "" : (BEGUN.exec(text.slice(0, caret))?.[0] ?? "");
  // A name that stands for something as it is: Tab goes on to the next field.
  const whole = eager && own.some(({ name }) => name === begun);
  const offers = focused && !whole && begun.length >= (eager ? 1 : 2) && begun !== variable ? complete(begun, own, known) : [];

  useLayoutEffect(() => {
    if (putCaret.current === null || !field.current) return;
    field.current.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
  }, [text, field]);

  const take = (offer: KnownName) => {
    if (caret === null) return;
    const from = caret - begun.length;
    onText(text.slice(0, from) + offer.insert + text.slice(caret));
    putCaret.current = from + offer.insert.length;
    setCaret(putCaret.current);
    setPick(0);
  };
  /** Whether the key was used for the names. */
  const onKeyDown = (event: KeyboardEvent): boolean => {
    const offer = offers[pick];
    if (!offer) return false;
    if (event.key === "ArrowDown") setPick((pick + 1) % offers.length);
    else if (event.key === "ArrowUp") setPick((pick + offers.length - 1) % offers.length);
    else if (event.key === "Tab" && !event.shiftKey) take(offer);
    else if (event.key === "Escape") {
      event.stopPropagation();
      setCaret(null);
      return true;
    } else return false;
    event.preventDefault();
    return true;
  };
  return {
    offers,
    pick,
    take,
    onKeyDown,
    typed: (at: number | null) => {
      setCaret(at);
      setPick(0);
    },
    focus: (on: boolean) => {
      setFocused(on);
      if (!on) setCaret(null);
    },
  };
}

/** Names that go on from what was begun: those that stand for something here first, then functions. */
function complete(begun: string, own: KnownName[], known: KnownName[]): KnownName[] {
  const low = begun.toLowerCase();
  const goesOn = ({ name }: KnownName) => name.toLowerCase().startsWith(low) && name !== begun;
  return [...own.filter(goesOn), ...known.filter(goesOn)].slice(0, SHOWN);
}
