import type { Analysis, Answer } from "../api/client";
import type { Domain } from "../study/view";

/** So many measured ranges beyond the readings an answer may lie and still be taken into the view. */
const REACH = 4;

/** The view of all readings, widened for the answer that is being asked for where that stands near enough. */
export function wholeView(view: Analysis["view"], measured: [number, number] | null, asked: Answer | null): Domain {
  const domain: Domain = { x: [view.x.low, view.x.high], y: [view.y.low, view.y.high] };
  const mark = asked?.mark;
  if (!mark || !measured) return domain;
  const reach = REACH * (measured[1] - measured[0]);
  if (mark.x < measured[0] - reach || mark.x > measured[1] + reach) return domain;
  return { x: widen(domain.x, mark.x), y: widen(domain.y, mark.y) };
}

function widen([low, high]: [number, number], value: number): [number, number] {
  const room = 0.06 * (Math.max(high, value) - Math.min(low, value));
  return [value < low ? value - room : low, value > high ? value + room : high];
}
