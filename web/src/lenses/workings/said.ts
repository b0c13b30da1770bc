import type { WorkingStep } from "../../api/client";
import { isList, type Spot, type Traced } from "./origins";

/** For a screen reader: the number of a line that is pointed at, and where it came from. */
export function saidOf(steps: WorkingStep[], spot: Spot, traced: Traced): string {
  const readings = traced.readings.length > 0 ? `from reading ${traced.readings.map((row) => row + 1).join(", ")}` : "";
  const number = spot.number === undefined ? undefined : steps[spot.step]?.numbers[spot.number];
  if (!number) return readings && `F${readings.slice(1)}`;
  const own = steps[spot.step]!;
  const said = isList(own) ? (own.lines[spot.number!]?.text ?? "") : number.text;
  return [said, number.step === null ? readings : sourceOf(steps[number.step]!, number)].filter(Boolean).join(", ");
}

function sourceOf(step: WorkingStep, at: { row: number; column: number }): string {
  const head = step.grid?.heads[step.grid.columns.indexOf(at.column)]?.text;
  if (step.grid) return `from the sum of ${head ?? "a column"}`;
  return `from ${step.lines[isList(step) ? at.row : 0]?.text ?? step.sentence}`;
}
