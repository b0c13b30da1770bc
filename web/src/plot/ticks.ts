import { scaleLinear, scaleLog } from "d3-scale";

import { clockTick, commonPower, scaledTick, tickText } from "../ui/numbers";
import type { Scale } from "./scales";

/** Steps of a clock axis, in minutes (or seconds) of the unit that its numbers count sixtieths of. */
const CLOCK_STEPS = [1, 2, 5, 10, 15, 30, 60, 120, 180, 360, 720, 1440, 2880, 10080];
export const MOST_TICKS = 120;

export interface Tick {
  at: number;
  text: string;
  key: number;
}

/** What stands along an axis. `power`: of ten, by which all numbers at the ticks are to be multiplied; 0 for none. */
export interface Ticks {
  ticks: Tick[];
  power: number;
}

/** Ticks of an axis with their places and texts, each with all that belongs to it. */
export function ticksOf(scale: Scale, count: number, step?: number | null, clock?: boolean): Tick[] {
  return placedTicks(scale, count, step, clock, false).ticks;
}

/** The same where a power of ten that they have in common can stand in the title; `step` as typed, `clock` to write hours and minutes. */
export const axisTicks = (scale: Scale, count: number, step?: number | null, clock?: boolean): Ticks =>
  placedTicks(scale, count, step, clock, true);

function placedTicks(scale: Scale, count: number, step: number | null | undefined, clock: boolean | undefined, common: boolean): Ticks {
  const place = (value: number, text: string): Tick => ({ at: scale(value), text, key: value });
  if (scale.shape.kind === "log") return { ticks: logTicks(scale, count).map((value) => place(value, logText(value))), power: 0 };
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
  const power = common && !(clock && !own) ? commonPower(values, step ?? apart) : 0;
  const text = (value: number) =>
    clock && !own ? clockTick(value) : power ? scaledTick(value, step ?? apart, power) : tickText(value, step ?? apart);
  return { ticks: values.map((value) => ({ at: scale(back(value)), text: text(value), key: value })), power };
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
