import type { Answer } from "../api/client";
import type { Scale } from "./scales";

const LETTER = 7; // px of one figure in the size of the values
const HEIGHT = 14;
const GAP = 10;
const MOST_READINGS = 400;

/** Where the value of an answer is written: from `left` to `right` on its `base` line. */
export interface ValuePlace {
  left: number;
  right: number;
  base: number;
}

/** An answer with several results as so many with one. */
export function singly(answer: Answer): Answer[] {
  const rows = answer.rows ?? [];
  return rows.length > 1 ? rows.map((row) => ({ ...answer, mark: row.mark, asked: row.asked, asked_at: "", short: row.short })) : [answer];
}

interface Marked {
  mark?: { x: number; y: number } | null | undefined;
  short?: string | undefined;
}

/**
 * Places for the values of answers at their marks, one over the other where marks lie close together: before or behind the mark,
 * above or below it, inside the plot and on no reading (given in pixels). Null for one that has no mark or value, and where there is no place that is free.
 */
export function placeValues(answers: Marked[], x: Scale, y: Scale, readings: [number, number][] = []): (ValuePlace | null)[] {
  const taken: ValuePlace[] = [];
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  const own = answers.flatMap(({ mark }): [number, number][] => (mark ? [[x(mark.x), y(mark.y)]] : []));
  const marks = [...own, ...readings.slice(0, MOST_READINGS)];
  return answers.map(({ mark, short }) => {
    if (!mark || !short) return null;
    const [px, py] = [x(mark.x), y(mark.y)];
    if (!Number.isFinite(px) || !Number.isFinite(py)) return null;
    const width = LETTER * short.length;
    const free = [-7, GAP + 8, -7 - HEIGHT, GAP + 8 + HEIGHT, -7 - 2 * HEIGHT]
      .flatMap((down) => [px - GAP - width, px + GAP].map((from) => ({ left: from, right: from + width, base: py + down })))
      .find(
        (place) =>
          place.left >= left &&
          place.right <= right &&
          place.base - HEIGHT >= top &&
          place.base <= bottom &&
          !taken.some((other) => meet(place, other)) &&
          !marks.some(([mx, my]) => meet(place, { left: mx - 6, right: mx + 6, base: my + 6 })),
      );
    if (free) taken.push(free);
    return free ?? null;
  });
}

const meet = (a: ValuePlace, b: ValuePlace) => a.left < b.right && b.left < a.right && Math.abs(a.base - b.base) < HEIGHT;
