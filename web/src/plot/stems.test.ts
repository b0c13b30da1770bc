import { describe, expect, it } from "vitest";

import { STATUS } from "../study/status";
import { makeScale } from "./scales";
import { steadily, stemsOf } from "./stems";

const x = makeScale([0, 10], [0, 100]);
const strip = (low: number, high: number) => makeScale([low, high], [50, 0]);

function stems(residuals: (number | null)[], y = strip(-5, 5), apart = new Set<number>()) {
  const none = { x_error: null, y_error: null, series_of: null };
  const placed = { ...none, status: residuals.map(() => STATUS.used), x: residuals.map((_, row) => row), y: residuals.map(() => 0) };
  return stemsOf({ placed, residuals, x, y, apart });
}

describe("stems of residuals", () => {
  it("lie where the scales say, kept near the strip, without those that are drawn by themselves", () => {
    const { px, py } = stems([1, null, 500, -2], strip(-5, 5), new Set([3]));
    expect([...px]).toEqual([0, NaN, 20, NaN]);
    expect([...py]).toEqual([20, NaN, -6, NaN]);
  });

  it("stay the same until one of them is seen to move", () => {
    const steady = steadily();
    const first = steady(stems([1, 2, 3]));
    expect(steady(stems([1.02, 2.02, 3.02]))).toBe(first);
    expect(steady(stems([1.05, 2.05, 3.05]))).toBe(first); // a quarter of a pixel
    const moved = steady(stems([1.1, 2.1, 3]));
    expect(moved).not.toBe(first); // half a pixel, from where they were drawn
    expect(steady(stems([1.1, 2.1]))).not.toBe(moved);
  });

  it("are new on another strip", () => {
    const steady = steadily();
    const first = steady(stems([0, 0]));
    expect(steady(stems([0, 0], strip(-1, 5)))).not.toBe(first);
  });
});
