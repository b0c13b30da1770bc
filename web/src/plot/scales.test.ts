import { describe, expect, it } from "vitest";

import { drawable, LOG, makeScale, moved, straightShape } from "./scales";
import { groupDigits, tickText } from "../ui/numbers";
import { minorsOf, ticksOf } from "./ticks";

const linear = makeScale([0, 10], [0, 100]);

describe("a scale", () => {
  it("goes there and back, also logarithmic and upside down", () => {
    for (const scale of [linear, makeScale([1, 1000], [300, 0], LOG), makeScale([1, 9], [0, 60], straightShape("reciprocal", 0, 1))]) {
      for (const value of [1.5, 4, 8]) expect(scale.invert(scale(value))).toBeCloseTo(value, 10);
    }
    expect(makeScale([1, 1000], [0, 300], LOG)(10)).toBeCloseTo(100, 10);
  });

  it("stays within what a drawing can hold", () => {
    expect(linear(1e300)).toBe(1e5);
    expect(linear(-1e300)).toBe(-1e5);
  });

  it("moved by pixels shows another stretch, in rising order", () => {
    expect(moved(linear, (pixel) => pixel - 20)).toEqual([-2, 8]);
    expect(moved(makeScale([0, 10], [100, 0]), (pixel) => pixel)).toEqual([0, 10]);
  });

  it.each([
    ["ln", 2, 1, 5],
    ["reciprocal", 0, 1, 4],
    ["power", 0, 2, 3],
    ["power", 0, 3, -3],
    ["power", 0, 0.5, 9],
    ["none", 0, 1, -7],
  ])("straightened by %s goes there and back", (what, shift, power, value) => {
    const shape = straightShape(what, shift, power);
    expect(shape.backward(shape.forward(value))).toBeCloseTo(value, 10);
  });

  it("cannot be drawn without room", () => {
    expect(drawable([0, 1])).toBe(true);
    expect(drawable([1, 1])).toBe(false);
    expect(drawable([0, 1e300])).toBe(false);
    expect(drawable([-1, 1], LOG)).toBe(false);
  });
});

describe("ticks", () => {
  it("have as many decimals as their step, true minus signs and powers of ten", () => {
    expect([tickText(-0.5, 0.25), tickText(3, 1), tickText(1234567, 1e5), tickText(0, 1), tickText(12500, 500)]).toEqual([
      "−0.50",
      "3",
      "1.2×10⁶",
      "0",
      "12\u202f500",
    ]);
    expect(groupDigits(1234)).toBe("1234");
  });

  it("stand where they say", () => {
    for (const tick of ticksOf(linear, 5)) expect(linear.invert(tick.at)).toBeCloseTo(Number(tick.text), 10);
    expect(ticksOf(linear, 5, 4).map((tick) => tick.text)).toEqual(["0", "4", "8"]);
  });

  it("of a wish for thousands are the usual ones", () => {
    expect(ticksOf(linear, 5, 0.001).length).toBeLessThan(20);
  });

  it("of a clock are hours and minutes", () => {
    expect(ticksOf(makeScale([0, 6], [0, 100]), 6, null, true).map((tick) => tick.text)).toEqual([
      "0:00",
      "1:00",
      "2:00",
      "3:00",
      "4:00",
      "5:00",
      "6:00",
    ]);
  });

  it("of a logarithm are powers of ten, with eight digits between", () => {
    const scale = makeScale([1, 1000], [0, 300], LOG);
    const ticks = ticksOf(scale, 6);
    expect(ticks.map((tick) => tick.key)).toEqual([1, 10, 100, 1000]);
    expect(minorsOf(scale, ticks).length).toBe(24);
  });
});
