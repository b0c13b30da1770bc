import { expect, test } from "vitest";

import type { Analysis, Moving } from "../api/client";
import { withMoved } from "./moving";

const analysis = {
  x: [1, 2, 3],
  y: [4, 5, 6],
  status: [1, 1, 1],
  summary: "3 used",
  fits: [
    { kind: "fit", letter: "A", how_well: "well", curve: null, residuals: [0, 0, 0], r_squared: "0.9", typical_miss: "1", deviation: 1 },
    { kind: "refused", letter: "B", refusal: "no" },
  ],
  answers: [{ key: "k", sentence: "so", mark: { x: 1, y: 1 }, short: "1", rows: [] }],
  unknowns: [],
} as unknown as Analysis;

const moving = {
  rows: [{ row: 1, x: 2.5, y: 7, status: 1 }],
  fits: [
    { letter: "A", curve: { x: [0], y: [1], low: [], high: [] }, residuals: [1, 2, 3], r_squared: "0.8", typical_miss: "2", deviation: 2 },
  ],
  answers: [{ key: "k", mark: { x: 2, y: 3 }, short: "3", marks: [] }],
  unknowns: [],
} as unknown as Moving;

test("what is drawn moves, what is said stays until the hand rests", () => {
  const moved = withMoved(analysis, moving);
  expect([moved.x, moved.y, moved.summary]).toEqual([[1, 2.5, 3], [4, 7, 6], "3 used"]);
  expect(moved.fits[0]).toMatchObject({ how_well: "well", residuals: [1, 2, 3], r_squared: "0.8", deviation: 2, curve: { x: [0] } });
  expect(moved.fits[1]).toBe(analysis.fits[1]);
  expect(moved.answers[0]).toMatchObject({ sentence: "so", short: "3", mark: { x: 2 } });
  expect(analysis.x).toEqual([1, 2, 3]);
});

test("readings that stay are the same ones", () => {
  const moved = withMoved(analysis, { ...moving, rows: [] });
  expect(moved.x).toBe(analysis.x);
  expect(moved.status).toBe(analysis.status);
});
