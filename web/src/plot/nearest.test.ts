import { describe, expect, it } from "vitest";

import { nearestMark } from "./nearest";
import { LOG, makeScale } from "./scales";

const x = makeScale([0, 10], [0, 100]);
const y = makeScale([0, 10], [100, 0]);
const marks = { xs: [1, 2, null, 9, 2], ys: [1, 2, 5, null, 2.4], x, y };

describe("The nearest mark", () => {
  it("is the one with the least distance on the screen", () => {
    expect(nearestMark({ px: 11, py: 88 }, marks, 16)).toBe(0);
    expect(nearestMark({ px: 20, py: 79 }, marks, 16)).toBe(1);
    expect(nearestMark({ px: 20, py: 77 }, marks, 16)).toBe(4);
  });
  it("is none beyond the reach, and none without both numbers", () => {
    expect(nearestMark({ px: 60, py: 40 }, marks, 16)).toBeNull();
    expect(nearestMark({ px: 90, py: 50 }, marks, 16)).toBeNull();
    expect(nearestMark({ px: 26, py: 90 }, marks, 16)).toBe(1);
    expect(nearestMark({ px: 26, py: 90 }, marks, 11)).toBeNull();
  });
  it("is only one of those that count", () => {
    expect(nearestMark({ px: 20, py: 79 }, marks, 16, (at) => at !== 1)).toBe(4);
  });
  it("has no place where a logarithm has none", () => {
    expect(nearestMark({ px: 0, py: 0 }, { xs: [-1], ys: [1], x: makeScale([1, 10], [0, 100], LOG), y }, 1e9)).toBeNull();
  });
});
