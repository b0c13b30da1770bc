import { ArrowLeftRight } from "lucide-react";
import { useEffect, useRef } from "react";

import type { Analysis, Direction } from "../api/client";
import { useLooking, useNaming } from "../study/context";
import { Hint } from "../ui/Hint";
import { AskedResult } from "./AskedResult";
import { GivenValue } from "./GivenValue";
import { OF_THE_CURVE, type Question, useAsk } from "./useAsk";
import { type Asking, useQuestion } from "./useQuestion";
import { Select } from "../ui/Select";

const MOST_REPEATS = 10_000;

/** The sentence with a blank in it: predict y when x is …, x when y is …, the slope at, the area from … to … */
export function AskLine() {
  const asking = useQuestion();
  const { unreachable, asking: complete, fresh, now } = useAsk();
  const { question, asked, drawn, looking, predicting, several } = asking;
  const own = !useLooking();
  const canKeep = own && complete && fresh && asked !== null && !asked.problem;
  // Enter before the result has come: it is saved as soon as it belongs to what was typed.
  const waiting = useRef<Question | null>(null);
  useEffect(() => {
    if (!waiting.current || (waiting.current === question && !fresh)) return;
    const wanted = waiting.current === question && canKeep;
    waiting.current = null;
    if (wanted) asking.keep();
  }, [question, fresh, canKeep, asking]);
  return (
    <form
      aria-label="Ask"
      onSubmit={(event) => {
        event.preventDefault();
        if (canKeep) asking.keep();
        else if (own && complete && !fresh) {
          waiting.current = question;
          now();
        }
      }}
      className="no-print relative flex min-h-[44px] shrink-0 flex-wrap items-center gap-x-1.5 gap-y-1.5 border border-rule bg-sheet px-3 py-1.5"
    >
      <WhatIsAsked {...asking} />
      {question.direction === "crossing" && <OtherFit {...asking} />}
      {question.direction !== "crossing" && !OF_THE_CURVE.includes(question.direction) && <GivenValue {...asking} />}
      {looking && (several ? <OneSample {...asking} /> : <Repeats {...asking} />)}
      {drawn.length > 1 && <WhichFit {...asking} />}
      {predicting && <Exchange {...asking} />}
      {own && (
        <button className="button-main ml-auto" aria-disabled={!canKeep}>
          Keep
        </button>
      )}
      <AskedResult asked={asked} unreachable={unreachable} looking={looking} stale={complete && asked !== null && !fresh} />
    </form>
  );
}

const sentences = ({ x, y }: Analysis["naming"]): [Direction, string][] => [
  ["y_at_x", `${y} when ${x} =`],
  ["x_at_y", `${x} when ${y} =`],
  ["tangent", `the slope at ${x} =`],
  ["area", `the area from ${x} =`],
  ["roots", `zeros of ${y}`],
  ["turning", "turning points"],
  ["inflexions", "inflexion points"],
  ["crossing", "intersections with fit"],
];

function WhatIsAsked({ question, drawn, ask }: Asking) {
  const words = sentences(useNaming()).filter(([name]) => name !== "crossing" || drawn.length > 1);
  return (
    <label className="flex items-center gap-1.5">
      <span className="text-mute">Predict</span>
      <Select className="inline-choice font-book" aria-label="What to predict" value={question.direction} words={words} onPick={ask} />
    </label>
  );
}

function OtherFit({ question, others, put }: Asking) {
  const words = others.map(({ letter }) => [letter, letter] as const);
  return <Select aria-label="The other fit" value={question.given} words={words} onPick={(given) => put({ given })} />;
}

function Repeats({ question, put }: Asking) {
  return (
    <label className="flex items-center gap-1.5 text-plain text-mute">
      mean of
      <input
        type="number"
        min={1}
        max={MOST_REPEATS}
        className="field numerals w-14 text-right"
        aria-label="Number of readings it is the mean of"
        value={question.repeats}
        onChange={(event) => put({ repeats: Math.min(MOST_REPEATS, Math.max(1, Math.round(Number(event.target.value)) || 1)) })}
      />
    </label>
  );
}

/** Several y are one unknown sample each, unless they are said to be repeats of one. */
function OneSample({ question, put }: Asking) {
  const count = question.given.split(/[\s;]+/).filter(Boolean).length;
  return (
    <label className="flex items-center gap-1.5 text-plain text-mute">
      <input
        type="checkbox"
        className="accent-(--color-pine)"
        checked={question.repeats > 1}
        onChange={(event) => put({ repeats: event.target.checked ? count : 1 })}
      />
      repeats of one sample
    </label>
  );
}

function WhichFit({ question, drawn, predicting, put }: Asking) {
  const words: [string, string][] = [
    ["", `${drawn[0]!.letter}, leading`],
    ...drawn.map(({ letter }): [string, string] => [letter, letter]),
  ];
  if (predicting) words.push(["all", "every fit"]);
  return (
    <label className="flex items-center gap-1 text-plain text-mute">
      from
      <Select className="inline-choice" aria-label="Which fit is asked" value={question.fit} words={words} onPick={(fit) => put({ fit })} />
    </label>
  );
}

function Exchange({ looking, ask }: Asking) {
  const { x, y } = useNaming();
  return (
    <Hint text="Swap what is given and what is asked">
      <button
        type="button"
        className="icon-button"
        aria-label={looking ? `Ask for ${y} when ${x} is given` : `Ask for ${x} when ${y} is given`}
        onClick={() => ask(looking ? "y_at_x" : "x_at_y")}
      >
        <ArrowLeftRight size={15} />
      </button>
    </Hint>
  );
}
