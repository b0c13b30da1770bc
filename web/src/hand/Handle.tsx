import { Slider } from "radix-ui";
import { memo, useState } from "react";

import type { HandFit } from "../fits/kinds";
import { readNumber, shownToStep } from "../ui/numbers";
import { Hint, Term } from "../ui/Hint";
import { Symbol } from "../ui/Symbol";

export type HandleInfo = HandFit["handles"][number];

interface Span {
  low: number;
  high: number;
  step: number;
}

interface Props {
  handle: HandleInfo;
  onTurn: (name: string, value: number) => void;
  onKeep: (name: string, value: number) => void;
  onDrop: () => void;
}

const STEPS = 150;

const around = (value: number, step: number): Span => {
  const middle = Math.round(value / step) * step;
  return { low: middle - STEPS * step, high: middle + STEPS * step, step };
};

/** One parameter by hand: a span and a step taken from the readings, finer and coarser, and the number as typed. */
export const Handle = memo(function Handle({ handle, onTurn, onKeep, onDrop }: Props) {
  const settled = handle.of_course;
  const [own, setSpan] = useState<Span>({ low: handle.low, high: handle.high, step: handle.step });
  const span = settled ? { low: handle.low, high: handle.high, step: handle.step } : own;
  const [held, setHeld] = useState<number | null>(null);
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const [dragging, setDragging] = useState(false);
  const [seen, setSeen] = useState(handle.value);
  // While it is dragged, the thumb does not wait for the curve.
  if (seen !== handle.value) {
    setSeen(handle.value);
    if (!dragging) setHeld(null);
  }
  const value = held ?? handle.value;
  // A value that a grip or the keyboard took out of the span brings the span along.
  if (!settled && (value < span.low || value > span.high)) setSpan(around(value, span.step));

  const type = () => {
    if (draft === null) return;
    const number = readNumber(draft);
    if (number === null) return setWrong(`'${draft}' is not a number.`);
    if (settled && (number < span.low || number > span.high)) return setWrong(outside(handle.symbol, span));
    setDraft(null);
    setWrong("");
    if (number !== handle.value) onKeep(handle.name, number);
  };
  const name = handle.symbol;
  const scaled = (word: string, by: number, hint: string) =>
    !settled && <Scaled word={word} name={name} hint={hint} onPress={() => setSpan(around(value, nice(span.step * by)))} />;
  // Until it is moved, the number is the one that the equation shows.
  const said = held === null || held === handle.value ? handle.text.replace(/^-/, "−") : shownToStep(value, span.step);
  return (
    <div className="grid min-w-0 gap-0.5" role="group" aria-label={name}>
      <div className="flex items-center gap-1.5">
        <Term word={<Symbol text={name} />} meaning={handle.does} />
        <span className="min-w-0 grow text-note leading-[1.2] text-mute">{handle.does}</span>
        <input
          className="field numerals !h-[26px] w-[84px] max-w-36 shrink-0 [field-sizing:content] min-w-[84px] text-right"
          aria-label={`${name}, value`}
          aria-invalid={wrong !== ""}
          inputMode="decimal"
          value={draft ?? said}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={type}
          onKeyDown={(event) => {
            if (event.key === "Enter") type();
            if (event.key === "Escape") {
              setDraft(null);
              setWrong("");
            }
          }}
        />
        <span className="min-w-9 shrink-0 font-book text-note text-mute">{handle.unit}</span>
      </div>
      {wrong && (
        <p role="alert" className="text-plain text-amber">
          {wrong}
        </p>
      )}
      <div className="flex items-center gap-1.5">
        {scaled("finer", 0.1, "Finer: a tenth of the step and of the span")}
        <SpanSlider
          span={span}
          value={value}
          name={name}
          said={`${said} ${handle.unit}`}
          onHold={setDragging}
          onTurn={(next) => {
            setHeld(next);
            onTurn(handle.name, next);
          }}
          onKeep={(next) => {
            setDragging(false);
            onKeep(handle.name, next);
          }}
          onDrop={() => {
            setDragging(false);
            setHeld(null);
            onDrop();
          }}
        />
        {scaled("coarser", 10, "Coarser: ten times the step and the span")}
      </div>
      <SpanLine name={name} span={span} onSpan={settled ? null : setSpan} />
    </div>
  );
});

const outside = (symbol: string, { low, high, step }: Span) =>
  `Your course keeps ${symbol} between ${shownToStep(low, step)} and ${shownToStep(high, step)}.`;

/** Steps and span in tens. */
function Scaled({ word, name, hint, onPress }: { word: string; name: string; hint: string; onPress: () => void }) {
  return (
    <Hint text={hint}>
      <button type="button" className="icon-button numerals !w-auto px-1 text-note" aria-label={`${name}: ${word} steps`} onClick={onPress}>
        {word}
      </button>
    </Hint>
  );
}

interface SliderProps {
  span: Span;
  value: number;
  name: string;
  said: string;
  onHold: (held: boolean) => void;
  onTurn: (value: number) => void;
  onKeep: (value: number) => void;
  /** The page is scrolled by this finger: nothing was meant. */
  onDrop: () => void;
}

function SpanSlider({ span, value, name, said, onHold, onTurn, onKeep, onDrop }: SliderProps) {
  return (
    <Slider.Root
      className="relative flex h-6 min-w-0 grow touch-pan-y items-center"
      min={span.low}
      max={span.high}
      step={span.step}
      value={[Math.min(Math.max(value, span.low), span.high)]}
      onPointerDown={() => onHold(true)}
      onPointerCancel={onDrop}
      onLostPointerCapture={() => onHold(false)}
      onValueChange={([next]) => onTurn(next!)}
      onValueCommit={([next]) => onKeep(next!)}
    >
      <Slider.Track className="relative h-[3px] grow bg-rule">
        <span className="absolute top-[-3px] left-1/2 h-[9px] w-px bg-edge" />
      </Slider.Track>
      <Slider.Thumb aria-label={name} aria-valuetext={said} className="block h-[18px] w-[11px] rounded-[2px] border border-ink bg-lichen" />
    </Slider.Root>
  );
}

/** The ends of the span, typed where another one is wanted, unless the course has settled them. */
function SpanLine({ name, span, onSpan }: { name: string; span: Span; onSpan: ((span: Span) => void) | null }) {
  const put = (low: number | null, high: number | null) => {
    if (low !== null && high !== null && low < high) onSpan?.({ low, high, step: nice((high - low) / (2 * STEPS)) });
  };
  const end = (side: "low" | "high") => (
    <input
      key={`${side}${span[side]}`}
      className="numerals w-[72px] rounded-sm border border-transparent bg-transparent px-0.5 text-note text-mute hover:border-rule focus:border-edge"
      style={{ textAlign: side === "low" ? "left" : "right" }}
      readOnly={!onSpan}
      aria-label={`${name}: ${side === "low" ? "lowest" : "highest"} value of the span`}
      defaultValue={shownToStep(span[side], span.step)}
      onBlur={(event) => {
        const typed = readNumber(event.target.value);
        if (shownToStep(span[side], span.step) !== event.target.value)
          put(side === "low" ? typed : span.low, side === "high" ? typed : span.high);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
  return (
    <div className="flex items-center justify-between text-note text-mute">
      {end("low")}
      <span className="numerals">step {shownToStep(span.step, span.step)}</span>
      {end("high")}
    </div>
  );
}

const nice = (step: number) => Number(step.toPrecision(1));
