import { scaleLinear, scaleLog } from "d3-scale";

import { raised } from "../ui/raised";

export const MARGIN = { left: 66, right: 16, top: 12 };

/** What is done to values before they are drawn evenly. `own`: whether ticks count in the new values instead of the old. */
export interface Shape {
  forward: (value: number) => number;
  backward: (value: number) => number;
  kind: "linear" | "log" | "other";
}

export const LINEAR: Shape = { forward: (value) => value, backward: (value) => value, kind: "linear" };
export const LOG: Shape = { forward: Math.log10, backward: (value) => 10 ** value, kind: "log" };

/** The coordinates in which a model is straight, as the server names them. */
export function straightShape(what: string, shift: number, power: number): Shape {
  if (what === "ln") return { forward: (value) => Math.log(value - shift), backward: (value) => Math.exp(value) + shift, kind: "other" };
  if (what === "reciprocal") return { forward: (value) => 1 / value, backward: (value) => 1 / value, kind: "other" };
  if (what === "power") {
    return {
      forward: (value) => value ** power,
      backward: (value) => (value < 0 && power % 2 === 1 ? -((-value) ** (1 / power)) : value ** (1 / power)),
      kind: "other",
    };
  }
  return LINEAR;
}

export interface Scale {
  (value: number): number;
  domain: [number, number];
  range: () => [number, number];
  invert: (pixel: number) => number;
  shape: Shape;
  /** The stretch in the values that are drawn evenly. */
  even: [number, number];
}

const FAR = 1e5;

export function makeScale(domain: [number, number], range: [number, number], shape: Shape = LINEAR): Scale {
  let even = domain.map(shape.forward) as [number, number];
  if (even[0] > even[1]) even = [even[1], even[0]];
  const linear = scaleLinear().domain(even).range(range);
  const place = (value: number) => {
    const at = linear(shape.forward(value));
    return at > FAR ? FAR : at < -FAR ? -FAR : at;
  };
  return Object.assign(place, { domain, range: () => range, invert: (pixel: number) => shape.backward(linear.invert(pixel)), shape, even });
}

/** The stretch that a scale shows once its pixels are moved, in rising order. */
export function moved(scale: Scale, back: (pixel: number) => number): [number, number] {
  const [a, b] = scale.range().map((pixel) => scale.invert(back(pixel))) as [number, number];
  return a < b ? [a, b] : [b, a];
}

/** Whether a stretch can be drawn at all: its numbers leave room for sums and differences. */
export function drawable([low, high]: [number, number], shape: Shape = LINEAR): boolean {
  const span = high - low;
  if (!(span > 1e-290 && span < 1e290 && low + span / 1000 > low)) return false;
  const [a, b] = [shape.forward(low), shape.forward(high)];
  return Number.isFinite(a) && Number.isFinite(b) && a !== b;
}

/** A tick as text: true minus, thin spaces, powers of ten for the very large and small. */
export function tickText(value: number, step: number): string {
  if (value === 0) return "0";
  const size = Math.abs(value);
  if (size >= 1e6 || step < 1e-4) {
    const [digits, power] = value
      .toExponential(Math.min(6, Math.max(0, Math.floor(Math.log10(size)) - Math.floor(Math.log10(step)))))
      .split("e");
    return `${digits!.replace("-", "−")}×10${raised(Number(power))}`;
  }
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const [whole, rest] = size.toFixed(Math.max(decimals, decimalsOf(step))).split(".");
  return (value < 0 ? "−" : "") + groupDigits(whole!) + (rest ? `.${rest}` : "");
}

/** Decimals that a step needs to be told, four at most beyond its first digit. */
function decimalsOf(step: number): number {
  for (let decimals = 0; decimals < 12; decimals++)
    if (Math.abs(step * 10 ** decimals - Math.round(step * 10 ** decimals)) < 1e-6) return decimals;
  return 0;
}

/** Thin spaces between thousands, from five digits on. */
export function groupDigits(digits: string | number): string {
  const text = String(digits);
  return text.length > 4 ? text.replace(/\B(?=(\d{3})+$)/g, "\u202f") : text;
}

/** Steps of a clock axis, in minutes (or seconds) of the unit that its numbers count sixtieths of. */
const CLOCK_STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 180, 360, 720, 1440, 2880, 10080];
const MOST_TICKS = 120;

export interface Tick {
  at: number;
  text: string;
  key: number;
}

/** Ticks of an axis with their places and texts; `step` as typed, `clock` to write hours and minutes. */
export function ticksOf(scale: Scale, count: number, step?: number | null, clock?: boolean): Tick[] {
  const place = (value: number, text: string): Tick => ({ at: scale(value), text, key: value });
  if (scale.shape.kind === "log") return logTicks(scale, count).map((value) => place(value, logText(value)));
  const own = scale.shape.kind === "other";
  const [low, high] = own ? scale.even : scale.domain;
  const back = (value: number) => (own ? scale.shape.backward(value) : value);
  let values: number[];
  if (step && (high - low) / step <= MOST_TICKS) values = multiples(low, high, step);
  else if (clock && !own)
    values = multiples(
      low,
      high,
      (CLOCK_STEPS.find((minutes) => ((high - low) * 60) / minutes <= count) ?? Math.ceil((high - low) / count / 24) * 1440) / 60,
    );
  else values = scaleLinear().domain([low, high]).ticks(count);
  const apart = values.length > 1 ? Math.abs(values[1]! - values[0]!) : Math.abs(values[0] ?? 1) || 1;
  return values.map((value) => ({
    at: scale(back(value)),
    text: clock && !own ? clockText(value) : tickText(value, step ?? apart),
    key: value,
  }));
}

/** Places between the ticks: fifths or halves of a step, or the digits of a decade. */
export function minorsOf(scale: Scale, ticks: Tick[]): number[] {
  if (scale.shape.kind === "log") {
    const [low, high] = scale.domain;
    const found: number[] = [];
    for (let decade = Math.floor(Math.log10(low)); decade <= Math.log10(high) && found.length < 400; decade++) {
      for (let digit = 2; digit < 10; digit++)
        if (digit * 10 ** decade > low && digit * 10 ** decade < high) found.push(scale(digit * 10 ** decade));
    }
    return found;
  }
  if (ticks.length < 2) return [];
  const gap = (ticks[1]!.at - ticks[0]!.at) / 5;
  const [from, to] = scale.range();
  const [left, right] = [Math.min(from, to), Math.max(from, to)];
  const found: number[] = [];
  for (let i = -5; i <= ticks.length * 5; i++) {
    const at = ticks[0]!.at + i * gap;
    if (i % 5 && at > left && at < right) found.push(at);
  }
  return found;
}

function multiples(low: number, high: number, step: number): number[] {
  const first = Math.ceil(low / step - 1e-9);
  const last = Math.min(Math.floor(high / step + 1e-9), first + MOST_TICKS);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * step);
}

function logTicks(scale: Scale, count: number): number[] {
  const [low, high] = scale.domain;
  if (!(low > 0 && high > low)) return [];
  if (Math.log10(high / low) < 1) return scaleLinear().domain([low, high]).ticks(count);
  const ticks = scaleLog().domain([low, high]).ticks(count);
  const decades = ticks.filter((value) => Math.abs(Math.log10(value) - Math.round(Math.log10(value))) < 1e-9);
  return decades.length >= 3
    ? decades.filter((_, i) => i % Math.ceil(decades.length / Math.max(count, 2)) === 0)
    : ticks.filter((value) => [1, 2, 5].includes(Math.round(value / 10 ** Math.floor(Math.log10(value) + 1e-9))));
}

function logText(value: number): string {
  const size = Math.abs(value);
  const decade = 10 ** Math.floor(Math.log10(size) + 1e-9);
  if (size < 0.001 || size >= 1e5) return tickText(value, size / 10);
  const whole = Math.abs(value / decade - Math.round(value / decade)) < 1e-9;
  return tickText(value, whole ? decade : decade / 10);
}

/** 13.5 as 13:30. */
function clockText(value: number): string {
  const minutes = Math.round(Math.abs(value) * 60);
  return `${value < 0 && minutes ? "−" : ""}${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
}
