import { describe, expect, it } from "vitest";

import { enlarged } from "./enlarged";

describe("how much larger residuals are drawn", () => {
  it.each([
    [1, 1, 1],
    [0.6, 1, 1],
    [0.5, 1, 2],
    [0.21, 1, 2],
    [0.2, 1, 5],
    [0.1, 1, 10],
    [3e-32, 1e-30, 20],
    [1, 999, 500],
    [1, 1000, 1000],
    [0, 1, 1],
    [0, 0, 1],
    [2, 1, 1],
  ])("of %f where the largest of all is %f: %f times", (own, common, factor) => {
    expect(enlarged(own, common)).toBeCloseTo(factor, 12);
  });
  it("never leaves the strip, and fills at least two fifths of it", () => {
    for (let place = 1; place < 400; place++) {
      const own = 10 ** (-place / 37);
      const factor = enlarged(own, 1);
      expect(factor * own).toBeLessThanOrEqual(1 + 1e-9);
      expect(factor * own).toBeGreaterThan(0.4 - 1e-9);
    }
  });
});
