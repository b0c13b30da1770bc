import type { Answer } from "../api/client";
import { useNaming } from "../study/context";
import { setView, useView } from "../study/view";
import { inSign } from "../ui/decimalSign";
import { readNumber, sixDigits, toStep } from "../ui/numbers";
import { singly, type ValuePlace } from "./answerValues";
import type { Scale } from "./scales";
import { pixelOf } from "./nearest";
import { polyline } from "./path";

interface Props {
  /** Those that are kept, each with one result, and where their values stand. */
  answers: Answer[];
  values: (ValuePlace | null)[];
  asked: Answer | null;
  /** Keys of the answers whose rows are chosen. */
  lit: string[];
  x: Scale;
  y: Scale;
}

/** Drop lines from axis to curve to axis, with a diamond where they meet; the asked one carries its number. */
export function AnswerMarks({ answers, values, asked, lit, x, y }: Props) {
  const wanted = asked ? singly(asked) : [];
  const faint = answers.length > 6;
  return (
    <>
      {answers.map(
        (answer, i) =>
          !(asked && same(answer, asked)) && (
            <Drop
              key={`${answer.key}-${i}`}
              answer={answer}
              x={x}
              y={y}
              faint={faint}
              lit={lit.includes(answer.key)}
              value={faint ? null : (values[i] ?? null)}
            />
          ),
      )}
      {wanted.map(
        (answer, i) => answer.mark && <Drop key={i} answer={answer} x={x} y={y} faint={wanted.length > 6} pill={wanted.length === 1} />,
      )}
    </>
  );
}

const same = (a: Answer, b: Answer) => a.mark?.x === b.mark?.x && a.mark?.y === b.mark?.y;

interface DropProps {
  answer: Answer;
  x: Scale;
  y: Scale;
  faint?: boolean;
  pill?: boolean;
  lit?: boolean;
  value?: ValuePlace | null;
}

function Drop({ answer, x, y, faint, pill, lit, value }: DropProps) {
  const mark = answer.mark!;
  const px = x(mark.x);
  const py = y(mark.y);
  if (!Number.isFinite(px) || !Number.isFinite(py)) return null;
  const [left, right] = x.range();
  const [bottom] = y.range();
  const limits =
    answer.direction === "y_at_x"
      ? mark.y_low != null && mark.y_high != null && `M${px} ${y(mark.y_low)}V${y(mark.y_high)}`
      : mark.x_low != null && mark.x_high != null && `M${x(mark.x_low)} ${py}H${x(mark.x_high)}`;
  const size = lit ? 9.5 : 6.5;
  const said = answer.asked_at || answer.asked;
  const width = said.length * 6.6 + 14;
  const pillX = Math.min(Math.max(px - width / 2, left + 2), right - width - 2);
  return (
    <g data-testid={pill ? "drop-asked" : "drop-kept"}>
      {mark.slope != null && <Tangent x={x} y={y} at={[mark.x, mark.y]} slope={mark.slope} />}
      {mark.to_x != null && pill && (
        <path
          d={`M${x(mark.to_x)} ${y.range()[1]}V${bottom}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.2"
          strokeDasharray="4 3"
        />
      )}
      {mark.to_x != null && (
        <rect
          x={Math.min(px, x(mark.to_x))}
          width={Math.abs(x(mark.to_x) - px)}
          y={y.range()[1]}
          height={bottom - y.range()[1]}
          fill="var(--color-lichen)"
          opacity="0.22"
        />
      )}
      {!faint && (
        <path
          d={`M${left} ${py}H${px}V${bottom}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth={pill ? 1.2 : 0.8}
          strokeDasharray="4 3"
        />
      )}
      {limits && <path d={limits} stroke="var(--color-pine)" strokeWidth="5" opacity="0.4" />}
      {(mark.to_x != null && pill ? [px, x(mark.to_x)] : [px]).map((at, end) => (
        <path
          key={end}
          pointerEvents="none"
          d={`M${at} ${py - size}l${size} ${size}l${-size} ${size}l${-size} ${-size}z`}
          fill="var(--color-lichen)"
          stroke="var(--color-ink)"
          strokeWidth={lit ? 2.2 : 1.2}
        />
      ))}
      {value && answer.short && <KeptValue text={answer.short} place={value} at={px} />}
      {pill && (
        <g
          pointerEvents="none"
          transform={
            answer.direction === "y_at_x" || answer.direction === "area"
              ? `translate(${pillX} ${bottom - 24})`
              : `translate(${left + 4} ${py - 10})`
          }
        >
          <rect width={width} height="20" rx="4" fill="var(--color-bar)" />
          <text x={width / 2} y="14" textAnchor="middle" fontSize="var(--text-note)" fill="var(--color-on-bar)">
            {said}
          </text>
        </g>
      )}
      {pill && <Holders answer={answer} at={[px, py]} x={x} y={y} />}
    </g>
  );
}

/** The value of a kept answer beside its mark, set towards it. */
function KeptValue({ text, place, at }: { text: string; place: ValuePlace; at: number }) {
  const before = place.right <= at;
  return (
    <text
      data-testid="kept-value"
      pointerEvents="none"
      x={before ? place.right : place.left}
      y={place.base}
      textAnchor={before ? "end" : "start"}
      className="numerals"
      fontSize="var(--text-note)"
      fill="var(--color-ink)"
      stroke="var(--color-sheet)"
      strokeWidth="3.5"
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

const given = () => useView.getState().question.given;
const ask = (text: string) => setView((view) => ({ question: { ...view.question, given: text } }));

/** What the asked question is held by on the plot: its value, or both ends of an area. */
function Holders({ answer, at: [px, py], x, y }: { answer: Answer; at: [number, number]; x: Scale; y: Scale }) {
  const { direction, mark } = answer;
  const { x_clock, y_clock } = useNaming();
  if (direction === "area" && mark?.to_x != null) {
    const ends = () => {
      const typed = given()
        .split(/\s+to\s+/)
        .map((text) => readNumber(text, x_clock));
      return typed.length === 2 ? typed : [mark.x, mark.to_x!];
    };
    const put = (end: number) => (text: string) =>
      ask(
        ends()
          .map((value, i) => (i === end ? text : inSign(String(value ?? 0))))
          .join(" to "),
      );
    return [mark.x, mark.to_x].map((value, end) => (
      <Holder
        key={end}
        name={end ? "end" : "beginning"}
        said={inSign(String(value))}
        at={[x(value), py]}
        scale={x}
        now={() => ends()[end] ?? null}
        onPut={put(end)}
      />
    ));
  }
  if (!["y_at_x", "x_at_y", "tangent"].includes(direction)) return null;
  const alongY = direction === "x_at_y";
  return (
    <Holder
      name="value"
      said={answer.asked}
      at={[px, py]}
      scale={alongY ? y : x}
      alongY={alongY}
      now={() => readNumber(given(), alongY ? y_clock : x_clock)}
      onPut={ask}
    />
  );
}

interface HolderProps {
  /** What is held, and what it is at the moment. */
  name: "value" | "beginning" | "end";
  said: string;
  at: [number, number];
  scale: Scale;
  alongY?: boolean;
  /** The number in the question. */
  now: () => number | null;
  onPut: (text: string) => void;
}

/** Dragged along its axis, or moved with the arrows, the answer follows. */
function Holder({ name, said, at: [px, py], scale, alongY = false, now, onPut }: HolderProps) {
  const place = alongY ? py : px;
  const put = (pixel: number) => {
    const [value, next] = [scale.invert(pixel), scale.invert(pixel + 1)];
    if (!Number.isFinite(value) || !Number.isFinite(next)) return;
    const step = 10 ** Math.floor(Math.log10(Math.abs(next - value) || 1e-9));
    onPut(inSign(toStep(value, step)));
  };
  if (!Number.isFinite(place)) return null;
  return (
    <circle
      data-handle="asked"
      data-testid={name === "value" ? "asked-holder" : `asked-holder-${name}`}
      role="slider"
      tabIndex={0}
      aria-label={`The asked ${name}: drag it, or move it with the arrows`}
      aria-valuenow={sixDigits(scale.invert(place))}
      aria-valuetext={said}
      cx={px}
      cy={py}
      r="16"
      fill="transparent"
      className={alongY ? "cursor-ns-resize" : "cursor-ew-resize"}
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const at = pixelOf(event, event.currentTarget.ownerSVGElement!);
        put(alongY ? at.py : at.px);
      }}
      onKeyDown={(event) => {
        const way = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: alongY ? -1 : 1, ArrowDown: alongY ? 1 : -1 }[event.key];
        if (way === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        // The question is already where the last press put it; the answer may still be on its way.
        const from = now();
        put((from === null ? place : scale(from)) + way * (event.shiftKey ? 10 : 1));
      }}
    />
  );
}

/** A stretch of the tangent, a third of the plot wide. */
function Tangent({ x, y, at: [x0, y0], slope }: { x: Scale; y: Scale; at: [number, number]; slope: number }) {
  const [left, right] = x.range();
  const ends = [x(x0) - (right - left) / 6, x(x0) + (right - left) / 6].map((px) => x.invert(px));
  const path = polyline(ends.map((end) => [x(end), y(y0 + slope * (end - x0))]));
  return <path data-testid="tangent" d={path} stroke="var(--color-ink)" strokeWidth="1.6" fill="none" />;
}
