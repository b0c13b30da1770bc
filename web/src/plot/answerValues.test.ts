import { describe, expect, it } from "vitest";

import { placeValues, type ValuePlace } from "./answerValues";
import { makeScale } from "./scales";

const answer = (x: number, y: number, short = "12.34 cm") => ({ mark: { x, y }, short });
const x = makeScale([0, 100], [50, 550]);
const y = makeScale([0, 100], [400, 0]);
const apart = (places: (ValuePlace | null)[]) => {
  const found = places.filter((place) => place !== null);
  return found.every((a, i) => found.slice(i + 1).every((b) => a.left >= b.right || b.left >= a.right || Math.abs(a.base - b.base) >= 14));
};

describe("values at answers", () => {
  it("stand before their marks, above the line that leads to them", () => {
    const [place] = placeValues([answer(50, 50)], x, y);
    expect(place!.right).toBe(x(50) - 10);
    expect(place!.base).toBeLessThan(y(50));
  });
  it("stand behind marks at the left edge", () => {
    expect(placeValues([answer(1, 50)], x, y)[0]!.left).toBe(x(1) + 10);
  });
  it("never lie over one another, however close the marks are", () => {
    for (const close of [0, 0.5, 1, 2, 3, 5])
      for (const count of [2, 3, 4])
        expect(
          apart(
            placeValues(
              Array.from({ length: count }, (_, i) => answer(80 + close * i, 3 + close * i)),
              x,
              y,
            ),
          ),
        ).toBe(true);
  });
  it("stay inside the plot, and are left out where there is no room", () => {
    for (const [px, py] of [
      [0, 0],
      [100, 100],
      [0, 100],
      [100, 0],
    ] as const)
      for (const place of placeValues([answer(px, py), answer(px, py)], x, y)) {
        expect(place!.left).toBeGreaterThanOrEqual(50);
        expect(place!.right).toBeLessThanOrEqual(550);
        expect(place!.base).toBeLessThanOrEqual(400);
      }
    const many = placeValues(
      Array.from({ length: 30 }, () => answer(50, 50)),
      x,
      y,
    );
    expect(many.some((place) => place === null)).toBe(true);
    expect(apart(many)).toBe(true);
  });
  it("cover no reading", () => {
    const at: [number, number] = [x(80), y(50)];
    for (const [dx, dy] of [
      [-30, -10],
      [-60, -8],
      [25, -9],
      [0, -20],
    ] as const) {
      const [place] = placeValues([answer(80, 50)], x, y, [[at[0] + dx, at[1] + dy]]);
      const covered = place!.left < at[0] + dx && at[0] + dx < place!.right && place!.base - 10 < at[1] + dy && at[1] + dy < place!.base;
      expect(covered).toBe(false);
    }
  });
  it("are none without a mark or a value", () => {
    expect(placeValues([answer(50, 50, ""), { mark: null, short: "3" }], x, y)).toEqual([null, null]);
    expect(placeValues([answer(NaN, 50)], x, y)).toEqual([null]);
  });
});
