import { useState } from "react";

import type { Fit } from "../api/client";
import type { ComputedFit, Parameter } from "../fits/kinds";
import { wrongWith } from "../fits/letters";
import { useChange, useStudy } from "../study/context";
import { inField, readNumber } from "../ui/numbers";

/** The lowest and the highest value that a parameter may take. */
export function BoundsForm({ fit, name, word, onDone }: { fit: Fit; name: string; word: string; onDone: () => void }) {
  const change = useChange();
  const now = fit.bounds.find((one) => one.name === name);
  const [low, setLow] = useState(now?.low == null ? "" : inField(now.low));
  const [high, setHigh] = useState(now?.high == null ? "" : inField(now.high));
  const [wrong, setWrong] = useState("");
  const put = () => {
    const [a, b] = [low.trim() ? readNumber(low) : null, high.trim() ? readNumber(high) : null];
    if ((low.trim() && a === null) || (high.trim() && b === null)) return setWrong("A bound is a number, or empty for none.");
    if (a !== null && b !== null && a >= b) return setWrong("The lower bound has to be the smaller one.");
    const bounds: Record<string, [number | null, number | null]> = {};
    for (const one of fit.bounds) if (one.name !== name) bounds[one.name] = [one.low, one.high];
    if (a !== null || b !== null) bounds[name] = [a, b];
    onDone();
    change({ kind: "set_fit", letter: fit.letter, bounds });
  };
  return (
    <form
      className="mt-3 grid gap-2 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        put();
      }}
    >
      <div className="flex items-center gap-1.5">
        <label className="flex items-center gap-1.5">
          at least
          <input
            className="field numerals w-16 text-right"
            aria-label={`${word}: not below`}
            value={low}
            onChange={(event) => setLow(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-1.5">
          at most
          <input
            className="field numerals w-16 text-right"
            aria-label={`${word}: not above`}
            value={high}
            onChange={(event) => setHigh(event.target.value)}
          />
        </label>
      </div>
      {wrong && (
        <p role="alert" className="text-plain text-amber">
          {wrong}
        </p>
      )}
      <div className="flex justify-end">
        <button className="button">Apply bounds</button>
      </div>
    </form>
  );
}

/** The letter of the course for a parameter, and the order of the terms, the same everywhere in the study. */
export function LetterForm({ fit, parameter }: { fit: ComputedFit; parameter: Parameter }) {
  const study = useStudy();
  const change = useChange();
  const [wrong, setWrong] = useState("");
  if (fit.family === "formula") return null;
  if (study.course)
    return <p className="mt-3 border-t border-rule pt-3 text-note text-mute">Letters and order of terms are those of your course.</p>;
  const put = (typed: string) => {
    const letter = typed.trim();
    const { x, y } = study.analysis.naming;
    const others = fit.parameters.flatMap(({ name }) => (name === parameter.name ? [] : (study.letters[name] ?? [])));
    const problem = letter && wrongWith(letter, [x, y, ...others]);
    setWrong(problem);
    if (problem) return;
    const letters = { ...study.letters };
    if (letter) letters[parameter.name] = letter;
    else delete letters[parameter.name];
    if (JSON.stringify(letters) !== JSON.stringify(study.letters)) change({ kind: "edit_study", letters });
  };
  return (
    <div className="mt-3 grid gap-2 border-t border-rule pt-3">
      <label className="flex items-center justify-between gap-2">
        Symbol in your course
        <input
          key={parameter.symbol}
          className="field w-16 font-book italic"
          aria-label={`Symbol for ${parameter.name.replace(/_/g, " ")}`}
          aria-invalid={!!wrong}
          maxLength={12}
          defaultValue={parameter.symbol}
          onBlur={(event) => event.target.value !== parameter.symbol && put(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter") return;
            event.preventDefault();
            event.currentTarget.blur();
          }}
        />
      </label>
      {wrong && (
        <p role="alert" className="text-plain text-amber">
          {wrong}
        </p>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-(--color-pine)"
          checked={study.rising}
          onChange={(event) => change({ kind: "edit_study", rising: event.target.checked })}
        />
        Terms from the lowest power up
      </label>
    </div>
  );
}
