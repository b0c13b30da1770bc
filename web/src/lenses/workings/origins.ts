import type { WorkingStep } from "../../api/client";

/** A number of a working: the step it stands in, and its row and column there, from 0; or the number of its lines, from 0. */
export interface Spot {
  step: number;
  row: number;
  column: number;
  number?: number;
}

/** Which cells of a step are lit: all of a row or a column where the other is null. */
export interface Lit {
  row: number | null;
  column: number | null;
}

export interface Traced {
  /** Where the number came from, and where it goes, by the place of the step. */
  from: Map<number, Lit[]>;
  to: Map<number, Lit[]>;
  /** Numbers within lines that it came from and goes to, by the place of the step. */
  fromNumbers: Map<number, number[]>;
  toNumbers: Map<number, number[]>;
  /** Readings that it came from, from 0. */
  readings: number[];
}

type Rule = WorkingStep["origins"][number];

/** Where a number came from and where it goes. */
export function trace(steps: WorkingStep[], spot: Spot): Traced {
  const own = steps[spot.step];
  const traced: Traced = { from: new Map(), to: new Map(), fromNumbers: new Map(), toNumbers: new Map(), readings: [] };
  if (!own) return traced;
  const number = spot.number === undefined ? undefined : own.numbers[spot.number];
  if (number && number.step !== null) fromNumber(steps, number.step, number, traced);
  else fromRules(steps, own, spot, traced);
  // What is put in is used here, nowhere else.
  if (number && !number.own) return traced;
  for (let later = spot.step + 1; later < steps.length; later++) {
    const used = numbersFrom(steps[later]!, spot);
    if (used.length > 0) put(traced.toNumbers, later, ...used);
    else if (!steps[later]!.numbers.some((one) => one.step === spot.step))
      for (const rule of steps[later]!.origins)
        if (rule.step === own.name && lastNamed(steps, rule.step, later) === spot.step) {
          const lit = reached(rule, spot);
          if (lit) put(traced.to, later, lit);
        }
  }
  return traced;
}

export const isIn = (lit: Lit[] | undefined, row: number, column: number) =>
  lit !== undefined && lit.some((one) => (one.row === null || one.row === row) && (one.column === null || one.column === column));

/** Whether its lines are a number each, which the step itself makes. */
export const isList = (step: WorkingStep) => step.numbers.length > 0 && step.numbers.every((one) => one.own);

function fromNumber(steps: WorkingStep[], step: number, { row, column }: { row: number; column: number }, traced: Traced) {
  if (isList(steps[step]!)) put(traced.fromNumbers, step, row);
  else put(traced.from, step, { row, column });
}

function fromRules(steps: WorkingStep[], own: WorkingStep, spot: Spot, traced: Traced) {
  for (const rule of own.origins) {
    if (rule.step === "readings") {
      const reading = own.grid && own.grid.readings[own.grid.rows.indexOf(spot.row)];
      if (rule.row === "row" && reading !== undefined && reading !== null) traced.readings.push(reading);
      continue;
    }
    const at = lastNamed(steps, rule.step, spot.step);
    if (at >= 0) put(traced.from, at, { row: placeOf(rule.row, spot), column: placeOf(rule.column, spot) });
  }
}

/** The numbers of a later step's lines that are the one at this spot. */
function numbersFrom(step: WorkingStep, spot: Spot): number[] {
  return step.numbers.flatMap((one, place) =>
    one.step === spot.step && one.row === spot.row && one.column === spot.column ? [place] : [],
  );
}

function lastNamed(steps: WorkingStep[], name: string, before: number) {
  for (let at = before - 1; at >= 0; at--) if (steps[at]!.name === name) return at;
  return -1;
}

function placeOf(rule: Rule["row"], spot: Spot) {
  return rule === "row" ? spot.row : rule === "column" ? spot.column : rule;
}

/** The cells of a later step that use a number, by their own rule; null for none. */
function reached(rule: Rule, spot: Spot): Lit | null {
  const lit: Lit = { row: null, column: null };
  for (const [side, place] of [
    [rule.row, spot.row],
    [rule.column, spot.column],
  ] as const) {
    if (side === "row") lit.row = place;
    else if (side === "column") lit.column = place;
    else if (side !== null && side !== place) return null;
  }
  return lit;
}

function put<T>(into: Map<number, T[]>, step: number, ...lit: T[]) {
  into.set(step, [...(into.get(step) ?? []), ...lit]);
}
