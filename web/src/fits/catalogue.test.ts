import { describe, expect, it } from "vitest";

import type { Offer } from "../api/client";
import { matching } from "./catalogue";

const offer = (key: string, name: string, synonyms: string[]) => ({ key, name, synonyms }) as Offer;
const offers = [
  offer("exponential", "exponential", ["decay", "half-life"]),
  offer("sinusoid", "sinusoid", ["sine", "tide"]),
  offer("line", "line", ["straight line"]),
];
const found = (wanted: string) => [...matching(offers, wanted)];

describe("A model is found", () => {
  it("by its own name, whatever its case", () => expect(found(" EXPO")).toEqual([["exponential", ""]]));
  it("by what it is for, which is then told", () => {
    expect(found("half")).toEqual([["exponential", "half-life"]]);
    expect(found("tide")).toEqual([["sinusoid", "tide"]]);
  });
  it("by its own name before another one", () => {
    expect(found("line")).toEqual([["line", ""]]);
    expect(found("sin")).toEqual([["sinusoid", ""]]);
  });
  it("always, where nothing is looked for", () => expect(matching(offers, "").size).toBe(3));
  it("not at all, where no name has it", () => expect(found("quaint")).toEqual([]));
});
