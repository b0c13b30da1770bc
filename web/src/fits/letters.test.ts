import { describe, expect, it } from "vitest";

import { wrongWith } from "./letters";

describe("a letter for a parameter", () => {
  it.each(["m", "h_0", "ω", "Δ1"])("%s can be one", (letter) => expect(wrongWith(letter, ["t", "h"])).toBe(""));
  it.each(["", "2", "_a", "a b", "a-b"])("'%s' cannot", (letter) => expect(wrongWith(letter, [])).toContain("A letter"));
  it("stands for one thing", () => expect(wrongWith("t", ["t", "h"])).toBe("t already stands for something else beside it."));
});
