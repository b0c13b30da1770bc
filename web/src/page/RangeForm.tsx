import { useState } from "react";

import type { Fit } from "../api/client";
import { useAnalysisPart, useChange, useNaming } from "../study/context";
import { inField, readNumber } from "../ui/numbers";
import { Symbol } from "../ui/Symbol";

/** The stretch of x that a fit uses, typed where it is said. */
export function RangeForm({ fit, onClose }: { fit: Fit; onClose: () => void }) {
  const change = useChange();
  const naming = useNaming();
  const measured = useAnalysisPart((analysis) => analysis.measured);
  const from = fit.x_range ?? measured;
  const [low, setLow] = useState(from ? inField(from.low, naming.x_clock) : "");
  const [high, setHigh] = useState(from ? inField(from.high, naming.x_clock) : "");
  const [wrong, setWrong] = useState("");
  const put = (x_range: number[]) => {
    change({ kind: "set_fit", letter: fit.letter, x_range });
    onClose();
  };
  return (
    <form
      aria-label={`Range of fit ${fit.letter}`}
      className="no-print mt-1 flex flex-wrap items-center gap-1.5 text-plain"
      onSubmit={(event) => {
        event.preventDefault();
        const [a, b] = [readNumber(low, naming.x_clock), readNumber(high, naming.x_clock)];
        if (a === null || b === null || !(a < b)) return setWrong("Type two numbers, the smaller one first.");
        put([a, b]);
      }}
    >
      Use <Symbol text={naming.x} /> from
      <input
        className="field numerals !h-[26px] w-16 text-right"
        aria-label="From"
        value={low}
        onChange={(event) => setLow(event.target.value)}
      />
      to
      <input
        className="field numerals !h-[26px] w-16 text-right"
        aria-label="To"
        value={high}
        onChange={(event) => setHigh(event.target.value)}
      />
      {naming.x_clock || naming.x_unit}
      <button className="button !h-[26px]">Use it</button>
      <button type="button" className="button !h-[26px]" onClick={() => (fit.x_range ? put([]) : onClose())}>
        All of it
      </button>
      {wrong && (
        <span role="alert" className="w-full text-plain text-amber">
          {wrong}
        </span>
      )}
    </form>
  );
}
