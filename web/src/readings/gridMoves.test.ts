import { describe, expect, it } from "vitest";

import { beside, movedBy } from "./gridMoves";

const size = { rows: 5, columns: 3 };

describe("Keys in the table", () => {
  it.each([
    ["ArrowDown", false, [3, 1]],
    ["ArrowDown", true, [4, 1]],
    ["ArrowUp", false, [1, 1]],
    ["ArrowUp", true, [0, 1]],
    ["ArrowLeft", false, [2, 0]],
    ["ArrowRight", true, [2, 2]],
    ["PageDown", false, [14, 1]],
    ["PageUp", false, [-10, 1]],
    ["Home", false, [2, 0]],
    ["Home", true, [0, 0]],
    ["End", false, [2, 2]],
    ["End", true, [4, 2]],
  ])("%s, with Ctrl %s, leads to %s", (key, far, [row, col]) => {
    expect(movedBy(key, far, { row: 2, col: 1 }, size)).toEqual({ row, col });
  });
  it("that write do not move", () => {
    expect(movedBy("a", false, { row: 0, col: 0 }, size)).toBeNull();
  });
  it("go on to the next line at the end of one, and out of the table at its ends", () => {
    expect(beside({ row: 1, col: 2 }, false, size)).toEqual({ row: 2, col: 0 });
    expect(beside({ row: 1, col: 0 }, true, size)).toEqual({ row: 0, col: 2 });
    expect(beside({ row: 0, col: 0 }, true, size)).toBeNull();
    expect(beside({ row: 4, col: 2 }, false, size)).toEqual({ row: 5, col: 0 });
    expect(beside({ row: 5, col: 2 }, false, size)).toBeNull();
  });
});
