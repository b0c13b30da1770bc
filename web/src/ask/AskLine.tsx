import { ArrowLeftRight } from "lucide-react";
import { useLayoutEffect, useRef } from "react";

import type { Direction } from "../api/client";
import { useAnalysisPart, useChange, useNaming } from "../study/context";
import { setView, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { NumberStrip } from "../ui/NumberStrip";
import { AnswerTable } from "./AnswerTable";
import { OF_THE_CURVE, useAsk } from "./useAsk";
import { isDrawn } from "../fits/kinds";

/** The sentence with a blank in it: predict y when x is …, x when y is …, the slope at, the area from … to … */
export function AskLine() {
  const naming = useNaming();
  const fits = useAnalysisPart((analysis) => analysis.fits);
  const change = useChange();
  const question = useView((view) => view.question);
  const asked = useView((view) => view.asked);
  const { unreachable, asking } = useAsk();
  const { direction, given, repeats, fit } = question;
  const put = (part: Partial<typeof question>) => setView({ question: { ...question, ...part } });

  const drawn = fits.filter(isDrawn);
  const several = direction === "x_at_y" && /[\s;]/.test(given.trim());
  const canKeep = asking && asked !== null && !asked.problem;
  const keep = () => {
    if (!canKeep) return;
    change({
      kind: "keep_answer",
      direction,
      given: given.trim(),
      repeats: several ? 1 : repeats,
      fit,
      was: (asked.result ?? "").slice(0, 400),
    });
    put({ given: "", repeats: 1 });
  };
  const ask = (next: Direction) => {
    const others = drawn.filter((one) => one.letter !== (fit || drawn[0]?.letter));
    setView({
      asked: null,
      question: {
        ...question,
        direction: next,
        given: next === "crossing" ? (others[0]?.letter ?? "") : direction === "crossing" ? "" : given,
        fit: fit === "all" && next !== "y_at_x" && next !== "x_at_y" ? "" : fit,
      },
    });
  };
  const looking = direction === "x_at_y";
  const clock = looking ? naming.y_clock : naming.x_clock;
  const unit = clock || (looking ? naming.y_unit : naming.x_unit);
  const field = useRef<HTMLInputElement>(null);
  const putCaret = useRef<number | null>(null);
  const write = (text: string) => {
    const at = field.current?.selectionStart ?? given.length;
    put({ given: given.slice(0, at) + text + given.slice(field.current?.selectionEnd ?? at) });
    putCaret.current = at + text.length;
  };
  useLayoutEffect(() => {
    if (putCaret.current !== null) field.current?.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
  }, [given]);
  const words: [Direction, string][] = [
    ["y_at_x", `${naming.y} when ${naming.x} =`],
    ["x_at_y", `${naming.x} when ${naming.y} =`],
    ["tangent", `the slope at ${naming.x} =`],
    ["area", `the area from ${naming.x} =`],
    ["roots", `zeros of ${naming.y}`],
    ["turning", "turning points"],
    ["inflexions", "inflexion points"],
    ["crossing", "intersections with fit"],
  ];
  const shown = words.filter(([name]) => name !== "crossing" || drawn.length > 1);
  const rows = asked && !asked.problem ? (asked.rows ?? []) : [];
  return (
    <form
      aria-label="Ask"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
      className="no-print flex min-h-[44px] shrink-0 flex-wrap items-center gap-x-2.5 gap-y-1.5 border border-rule bg-sheet px-3 py-1.5"
    >
      <label className="flex items-center gap-1.5">
        <span className="text-mute">Predict</span>
        <select
          className="inline-choice font-book"
          aria-label="What to predict"
          value={direction}
          onChange={(event) => ask(event.target.value as Direction)}
        >
          {shown.map(([name, word]) => (
            <option key={name} value={name}>
              {word}
            </option>
          ))}
        </select>
      </label>
      {direction === "crossing" ? (
        <select className="field" aria-label="The other fit" value={given} onChange={(event) => put({ given: event.target.value })}>
          {drawn
            .filter((one) => one.letter !== (fit || drawn[0]?.letter))
            .map((one) => (
              <option key={one.letter}>{one.letter}</option>
            ))}
        </select>
      ) : (
        !OF_THE_CURVE.includes(direction) && (
          <>
            <input
              className={`field numerals text-right ${given.length > 9 ? "w-56" : "w-24"}`}
              aria-label={`${looking ? naming.y : naming.x}, given`}
              title={
                looking
                  ? "One value, or the repeated readings of one unknown with spaces between them"
                  : direction === "area"
                    ? "Two values: 0 to 10"
                    : "One value, several, or a range: 0, 2.5, 5 to 20 step 2.5"
              }
              placeholder={direction === "area" ? "0 to 10" : undefined}
              autoComplete="off"
              inputMode="decimal"
              ref={field}
              value={given}
              maxLength={200}
              onChange={(event) => put({ given: event.target.value })}
            />
            {unit && <span className="font-book text-mute">{unit}</span>}
            <span className="hidden basis-full pointer-coarse:[form:focus-within_&]:block">
              <NumberStrip clock={clock !== ""} onSign={write} more={[{ word: "␣", said: "space", press: () => write(" ") }]} />
            </span>
          </>
        )
      )}
      {looking && !several && (
        <label className="flex items-center gap-1.5 text-[13px] text-mute">
          mean of
          <input
            type="number"
            min={1}
            max={10000}
            className="field numerals w-14 text-right"
            aria-label="Number of readings it is the mean of"
            value={repeats}
            onChange={(event) => put({ repeats: Math.min(10000, Math.max(1, Math.round(Number(event.target.value)) || 1)) })}
          />
        </label>
      )}
      {drawn.length > 1 && (
        <label className="flex items-center gap-1 text-[13px] text-mute">
          from
          <select
            className="inline-choice"
            aria-label="Which fit is asked"
            value={fit}
            onChange={(event) => put({ fit: event.target.value })}
          >
            <option value="">the leading fit</option>
            {drawn.map((one) => (
              <option key={one.letter} value={one.letter}>
                {one.letter}
              </option>
            ))}
            {(direction === "y_at_x" || looking) && <option value="all">every fit</option>}
          </select>
        </label>
      )}
      {(direction === "y_at_x" || looking) && (
        <Hint text="Swap what is given and what is asked">
          <button
            type="button"
            className="icon-button"
            aria-label={looking ? `Ask for ${naming.y} when ${naming.x} is given` : `Ask for ${naming.x} when ${naming.y} is given`}
            onClick={() => ask(looking ? "y_at_x" : "x_at_y")}
          >
            <ArrowLeftRight size={15} />
          </button>
        </Hint>
      )}
      {canKeep && <button className="button-main ml-auto">Keep</button>}
      <div
        aria-live="polite"
        className={`flex flex-wrap items-center gap-x-2.5 gap-y-1 ${asked || unreachable ? "basis-full" : ""}`}
        data-testid="asked"
      >
        {unreachable && <span className="text-amber">No connection: the answer cannot be computed just now.</span>}
        {!unreachable && asked?.problem && <span className="text-amber">{asked.problem}</span>}
        {!unreachable && asked && !asked.problem && (
          <>
            <span className="numerals font-book text-[16px]" title={asked.full ? `In full: ${asked.full}` : undefined}>
              → {asked.result}
            </span>
            {asked.sentence && <span className="text-[12.5px] text-mute">{asked.sentence}</span>}
            {asked.place && (
              <span className="rounded bg-amber-well px-2 py-0.5 text-[12.5px] text-amber">{asked.place.split(". Valid")[0]}</span>
            )}
            {rows.length > 1 && (
              <div className="max-h-[104px] w-full overflow-auto" tabIndex={0} role="region" aria-label="The single results">
                <AnswerTable rows={rows} looking={looking} />
              </div>
            )}
          </>
        )}
      </div>
    </form>
  );
}
