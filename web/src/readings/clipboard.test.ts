import { describe, expect, it } from "vitest";

import { blockToText, isPlain, linesAsCells, textToBlock } from "./clipboard";

describe("a pasted text", () => {
  it("is cut by tabs, else by semicolons, else by spaces where every line has as many parts", () => {
    expect(textToBlock("1\t2\r\n3\t\n")).toEqual([
      ["1", "2"],
      ["3", ""],
    ]);
    expect(textToBlock("1;2\n3 ; 4")).toEqual([
      ["1", "2"],
      ["3", "4"],
    ]);
    expect(textToBlock("1 2\n3 4")).toEqual([
      ["1", "2"],
      ["3", "4"],
    ]);
    expect(textToBlock("1 2\n3")).toEqual([["1 2"], ["3"]]);
    expect(textToBlock('"a ""b"""\t2')).toEqual([['a "b"', "2"]]);
  });

  it("comes back as it went", () => {
    const block = [
      ["1", "x y"],
      ["", "−2"],
    ];
    expect(textToBlock(blockToText(block))).toEqual(block);
  });

  it.each([
    ["1\t2\n3\t4", true],
    ["0,5", true],
    ["1.5\n2.5", true],
    ["0,5\n1,5", false],
    ["12 500\n13 000", false],
    ["1,234\t5", false],
    ["a\t2\n3\t4", false],
    ["2×10^3\t1e-5\n3\t4", true],
  ])("%j goes straight into the cells: %s", (text, plain) => {
    expect(isPlain(text)).toBe(plain);
  });
});

describe("a list of words", () => {
  it("has one cell a line, whatever stands in it", () => {
    expect(linesAsCells('first ebb\r\n±0.5; 2 %\n"a ""b"""\n\n')).toEqual([["first ebb"], ["±0.5; 2 %"], ['a "b"']]);
  });
});
