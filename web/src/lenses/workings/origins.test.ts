import { expect, test } from "vitest";

import type { WorkingStep } from "../../api/client";
import { isIn, trace } from "./origins";
import { saidOf } from "./said";

const step = (name: string, origins: WorkingStep["origins"] = [], readings: number[] = []): WorkingStep => ({
  name,
  kind: "matrix",
  sentence: "",
  lines: [],
  numbers: [],
  folded: false,
  holds: null,
  latex: "",
  origins,
  grid: {
    look: "matrix",
    symbol: { text: "", latex: "" },
    heads: [],
    labels: [],
    rows: readings.map((_, row) => row),
    columns: [0, 1],
    count: readings.length,
    readings,
    cells: [],
    sums: [],
    bar: 0,
    marked: [],
    marked_row: null,
    zero_rows: 0,
    latex: "",
  },
});

const steps = [
  step("design-matrix", [{ step: "readings", row: "row", column: null }], [4, 7]),
  step("normal-matrix", [
    { step: "design-matrix", row: null, column: "row" },
    { step: "design-matrix", row: null, column: "column" },
  ]),
  step("fitted", [{ step: "design-matrix", row: "row", column: null }]),
];

test("a reading's row lights the reading", () => {
  expect(trace(steps, { step: 0, row: 1, column: 0 }).readings).toEqual([7]);
});

test("an entry of the normal matrix comes from two columns", () => {
  const from = trace(steps, { step: 1, row: 0, column: 1 }).from.get(0);
  expect(isIn(from, 5, 0)).toBe(true);
  expect(isIn(from, 5, 1)).toBe(true);
});

test("an entry goes where its row and its column are used", () => {
  const { to } = trace(steps, { step: 0, row: 1, column: 0 });
  expect(isIn(to.get(1), 0, 1)).toBe(true);
  expect(isIn(to.get(1), 1, 0)).toBe(true);
  expect(isIn(to.get(1), 1, 1)).toBe(false);
  expect(isIn(to.get(2), 1, 0)).toBe(true);
  expect(isIn(to.get(2), 0, 0)).toBe(false);
});

test("what repeats a name is the step before", () => {
  const twice = [...steps.slice(0, 1), ...steps];
  expect([...trace(twice, { step: 2, row: 0, column: 0 }).from.keys()]).toEqual([1]);
  expect(trace(twice, { step: 0, row: 0, column: 0 }).to.size).toBe(0);
});

const made = (step: number | null, row: number, column: number, own = false) => ({ text: "6", own, step, row, column });

const sums: WorkingStep[] = [
  { ...step("table", [{ step: "readings", row: "row", column: null }], [4, 7]) },
  { ...step("sums", [{ step: "table", row: null, column: null }]), grid: null, numbers: [made(null, 0, 0, true), made(0, 2, 1, true)] },
  { ...step("slope", [{ step: "sums", row: null, column: null }]), grid: null, numbers: [made(1, 0, 0), made(1, 1, 0)] },
  { ...step("intercept", [{ step: "sums", row: null, column: null }]), grid: null, numbers: [made(2, 0, 0), made(1, 1, 0)] },
];

test("a number of an equation comes from the one line that made it, not from the others", () => {
  const { fromNumbers, from, to } = trace(sums, { step: 2, row: 0, column: 0, number: 1 });
  expect(fromNumbers.get(1)).toEqual([1]);
  expect(from.size).toBe(0);
  expect(to.size).toBe(0);
});

test("a sum comes from the foot of its column and goes to each equation that uses it", () => {
  const { from, toNumbers, to } = trace(sums, { step: 1, row: 1, column: 0, number: 1 });
  expect(isIn(from.get(0), 2, 1)).toBe(true);
  expect(isIn(from.get(0), 2, 0)).toBe(false);
  expect([...toNumbers]).toEqual([
    [2, [1]],
    [3, [1]],
  ]);
  expect(to.size).toBe(0);
});

test("the foot of a column goes to its sum, an equation to where its result is put in", () => {
  expect([...trace(sums, { step: 0, row: 2, column: 1 }).toNumbers]).toEqual([[1, [1]]]);
  expect([...trace(sums, { step: 2, row: 0, column: 0 }).toNumbers]).toEqual([[3, [0]]]);
  expect(trace(sums, { step: 3, row: 0, column: 0, number: 0 }).from.has(2)).toBe(true);
});

test("what a screen reader is told", () => {
  const spot = { step: 1, row: 1, column: 0, number: 1 };
  const worded = sums.map((one) => ({
    ...one,
    lines: [
      { text: "n = 2", latex: "", marked: "" },
      { text: "Σx = 6", latex: "", marked: "" },
    ],
  }));
  expect(saidOf(worded, spot, trace(worded, spot))).toBe("Σx = 6, from the sum of a column");
  const put = { step: 2, row: 0, column: 0, number: 1 };
  expect(saidOf(worded, put, trace(worded, put))).toBe("6, from Σx = 6");
});
