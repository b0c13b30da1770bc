import { Slider } from "radix-ui";
import { memo, useState } from "react";

import type { HandFit } from "../fits/kinds";
import { readNumber, toStep } from "../ui/decimals";
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
}

const STEPS = 150;

const around = (value: number, step: number): Span => {
  const middle = Math.round(value / step) * step;
  return { low: middle - STEPS * step, high: middle + STEPS * step, step };
};

/** One parameter by hand: a span and a step taken from the readings, finer and coarser, and the number as typed. */
export const Handle = memo(function Handle({ handle, onTurn, onKeep }: Props) {
  const [span, setSpan] = useState<Span>({ low: handle.low, high: handle.high, step: handle.step });
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
  if (value < span.low || value > span.high) setSpan(around(value, span.step));

  const type = () => {
    if (draft === null) return;
    const number = readNumber(draft);
    if (number === null) return setWrong(`'${draft}' is not a number.`);
    setDraft(null);
    setWrong("");
    if (number !== handle.value) onKeep(handle.name, number);
  };
  const name = handle.symbol;
  // Until it is moved, the number is the one that the equation shows.
  const said = held === null || held === handle.value ? handle.text : shown(value, span.step);
  return (
    <div className="grid min-w-0 gap-0.5" role="group" aria-label={name}>
      <div className="flex items-center gap-1.5">
        <Term word={<Symbol text={name} />} meaning={handle.does} />
        <span className="min-w-0 grow text-[12px] leading-[1.2] text-mute">{handle.does}</span>
        <input
          className="field numerals !h-[26px] w-[84px] shrink-0 text-right"
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
        <span className="w-9 shrink-0 truncate font-book text-[12.5px] text-mute">{handle.unit}</span>
      </div>
      {wrong && (
        <p role="alert" className="text-[12.5px] text-amber">
          {wrong}
        </p>
      )}
      <div className="flex items-center gap-1.5">
        <Hint text="Finer: a tenth of the step and of the span">
          <button
            type="button"
            className="icon-button numerals !w-auto px-1 text-[11px]"
            aria-label={`${name}: finer steps`}
            onClick={() => setSpan(around(value, nice(span.step / 10)))}
          >
            finer
          </button>
        </Hint>
        <Slider.Root
          className="relative flex h-6 min-w-0 grow touch-none items-center"
          min={span.low}
          max={span.high}
          step={span.step}
          value={[Math.min(Math.max(value, span.low), span.high)]}
          onPointerDown={() => setDragging(true)}
          onLostPointerCapture={() => setDragging(false)}
          onValueChange={([next]) => {
            setHeld(next!);
            onTurn(handle.name, next!);
          }}
          onValueCommit={([next]) => {
            setDragging(false);
            onKeep(handle.name, next!);
          }}
        >
          <Slider.Track className="relative h-[3px] grow bg-rule">
            <span className="absolute top-[-3px] left-1/2 h-[9px] w-px bg-edge" />
          </Slider.Track>
          <Slider.Thumb
            aria-label={name}
            aria-valuetext={`${said} ${handle.unit}`}
            className="block h-[18px] w-[11px] rounded-[2px] border border-ink bg-lichen"
          />
        </Slider.Root>
        <Hint text="Coarser: ten times the step and the span">
          <button
            type="button"
            className="icon-button numerals !w-auto px-1 text-[11px]"
            aria-label={`${name}: coarser steps`}
            onClick={() => setSpan(around(value, nice(span.step * 10)))}
          >
            coarser
          </button>
        </Hint>
      </div>
      <SpanLine name={name} span={span} onSpan={setSpan} />
    </div>
  );
});

/** The ends of the span, typed where another one is wanted. */
function SpanLine({ name, span, onSpan }: { name: string; span: Span; onSpan: (span: Span) => void }) {
  const put = (low: number | null, high: number | null) => {
    if (low !== null && high !== null && low < high) onSpan({ low, high, step: nice((high - low) / (2 * STEPS)) });
  };
  const end = (side: "low" | "high") => (
    <input
      key={`${side}${span[side]}`}
      className="numerals w-[72px] rounded-sm border border-transparent bg-transparent px-0.5 text-[11.5px] text-mute hover:border-rule focus:border-edge"
      style={{ textAlign: side === "low" ? "left" : "right" }}
      aria-label={`${name}: ${side === "low" ? "lowest" : "highest"} value of the span`}
      defaultValue={shown(span[side], span.step)}
      onBlur={(event) => {
        const typed = readNumber(event.target.value);
        if (shown(span[side], span.step) !== event.target.value)
          put(side === "low" ? typed : span.low, side === "high" ? typed : span.high);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
  return (
    <div className="flex items-center justify-between text-[11.5px] text-mute">
      {end("low")}
      <span className="numerals">step {shown(span.step, span.step)}</span>
      {end("high")}
    </div>
  );
}

const nice = (step: number) => Number(step.toPrecision(1));
const shown = (value: number, step: number) => toStep(value, step).replace("-", "−");
