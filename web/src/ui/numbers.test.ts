import { describe, expect, it } from "vitest";

import { inField, readNumber, toStep } from "./numbers";

describe("numbers in fields", () => {
  it.each([
    ["0,5", 0.5],
    ["−3", -3],
    ["1e-30", 1e-30],
    ["", null],
    ["1,2,3", null],
    ["soon", null],
  ])("%j is read as %s", (text, value) => {
    expect(readNumber(text)).toBe(value);
  });

  it("are clock times where a clock shows them", () => {
    expect(readNumber("13:30", "h:min")).toBe(13.5);
    expect(readNumber("-0:30", "h:min")).toBe(-0.5);
    expect(readNumber("1:00:36", "h:min:s")).toBeCloseTo(1.01, 12);
    expect(readNumber("1:75", "h:min")).toBeNull();
  });

  it("come back as they went", () => {
    for (const value of [0, -1.25, 1e-30, 123456.789]) expect(readNumber(inField(value))).toBe(value);
    for (const [value, clock] of [
      [13.5, "h:min"],
      [-0.5, "h:min"],
      [1.01, "h:min:s"],
    ] as const)
      expect(readNumber(inField(value, clock), clock)).toBeCloseTo(value, 9);
  });

  it("set by hand have the decimals of their step", () => {
    expect([toStep(1.234, 0.05), toStep(-0.01, 0.5), toStep(7, 2)]).toEqual(["1.25", "0.0", "8"]);
  });
});
