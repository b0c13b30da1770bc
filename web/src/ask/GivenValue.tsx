import { useLayoutEffect, useRef } from "react";

import { useNaming } from "../study/context";
import { decimalSign } from "../ui/decimalSign";
import { NumberStrip } from "../ui/NumberStrip";
import type { Asking } from "./useQuestion";

/** The blank of the sentence: the value that is given, with its unit; by touch with signs that a number keyboard lacks. */
export function GivenValue({ question: { direction, given }, looking, put }: Asking) {
  const naming = useNaming();
  const clock = looking ? naming.y_clock : naming.x_clock;
  const unit = clock || (looking ? naming.y_unit : naming.x_unit);
  const field = useRef<HTMLInputElement>(null);
  const putCaret = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (putCaret.current !== null) field.current?.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
  }, [given]);
  const write = (text: string) => {
    const at = field.current?.selectionStart ?? given.length;
    put({ given: given.slice(0, at) + text + given.slice(field.current?.selectionEnd ?? at) });
    putCaret.current = at + text.length;
  };
  const says = looking
    ? "One value, or several with spaces between them"
    : direction === "area"
      ? "Two values: 0 to 10"
      : `One value, several, or a range: ${decimalSign() === "comma" ? "0; 2,5; 5 to 20 step 2,5" : "0, 2.5, 5 to 20 step 2.5"}`;
  return (
    <>
      <input
        ref={field}
        className={`field numerals w-[84px] min-w-[84px] text-right ${given.length > 9 ? "max-w-56 grow" : ""}`}
        aria-label={`${looking ? naming.y : naming.x}, given`}
        title={says}
        placeholder={direction === "area" ? "0 to 10" : undefined}
        autoComplete="off"
        inputMode="decimal"
        value={given}
        maxLength={200}
        onChange={(event) => put({ given: event.target.value })}
      />
      {unit && <span className="font-book text-mute">{unit}</span>}
      <span className="hidden basis-full pointer-coarse:[form:focus-within_&]:block">
        <NumberStrip clock={clock !== ""} onSign={write} more={[{ word: "␣", said: "space", press: () => write(" ") }]} />
      </span>
    </>
  );
}
