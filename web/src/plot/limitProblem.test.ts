import { describe, expect, it } from "vitest";

import { limitProblem } from "./limitProblem";

const axis = { low: null, high: null, seen: [0, 10] as [number, number], logarithmic: false };

describe("A limit of an axis", () => {
  it("is fine between, and where the other end is free", () => {
    expect(limitProblem("low", 20, axis)).toBe("");
    expect(limitProblem("low", 2, { ...axis, high: 5 })).toBe("");
    expect(limitProblem("high", 2, { ...axis, low: -5 })).toBe("");
  });
  it("that turns the axis round is named", () => {
    expect(limitProblem("low", 5, { ...axis, high: 5 })).toContain("not below 5");
    expect(limitProblem("high", 1, { ...axis, low: 2 })).toContain("not above 2");
  });
  it("at or below zero has no place on a logarithmic axis", () => {
    expect(limitProblem("low", 0, { ...axis, logarithmic: true })).toContain("above 0");
  });
  it("and ticks are as many as can be read", () => {
    expect(limitProblem("step", 0, axis)).toContain("more than 0");
    expect(limitProblem("step", 0.001, axis)).toContain("10000 ticks");
    expect(limitProblem("step", 0.5, axis)).toBe("");
    expect(limitProblem("step", 0.001, { ...axis, low: 0, high: 0.1 })).toBe("");
  });
});
