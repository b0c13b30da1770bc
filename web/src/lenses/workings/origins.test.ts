import { expect, test } from "vitest";

import type { WorkingStep } from "../../api/client";
import { isIn, trace } from "./origins";

const step = (name: string, origins: WorkingStep["origins"] = [], readings: number[] = []): WorkingStep => ({
  name,
  kind: "matrix",
  sentence: "",
  lines: [],
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
