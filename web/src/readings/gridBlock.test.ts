import { describe, expect, it } from "vitest";

import type { HeldColumn } from "../study/changes";
import { blockOf, clearing, deleting, existingRows, fillingDown, inserting, marking, textsOf, togglingAside } from "./gridBlock";

const column = (cells: string[], formula = "") => ({ cells, formula }) as HeldColumn;
const table = {
  columns: [column(["1", "2", "3"]), column(["2", "4", "6"], "2*x"), column(["a", "", "c"])],
  row_count: 3,
  aside: [{ row: 1, reason: "" }],
};
const block = (top: number, bottom: number, left: number, right: number) => ({ top, bottom, left, right });

describe("A block of cells", () => {
  it("is the selection, whichever corner it began at, or the active cell", () => {
    expect(blockOf({ anchor: { row: 4, col: 2 }, active: { row: 1, col: 0 } }, { row: 9, col: 9 })).toEqual(block(1, 4, 0, 2));
    expect(blockOf(null, { row: 2, col: 1 })).toEqual(block(2, 2, 1, 1));
  });
  it("has the texts of its cells, empty below the last row", () => {
    expect(textsOf(table, block(1, 3, 0, 2))).toEqual([
      ["2", "4", ""],
      ["3", "6", "c"],
      ["", "", ""],
    ]);
    expect(existingRows(table, block(1, 7, 0, 0))).toEqual([1, 2]);
    expect(existingRows(table, block(5, 7, 0, 0))).toEqual([]);
  });
});

describe("What is done with a block", () => {
  it("empties typed cells alone", () => {
    expect(clearing(table, block(0, 1, 0, 2))).toEqual({
      kind: "set_cells",
      row: 0,
      column: 0,
      block: [
        ["", "", ""],
        ["", "", ""],
      ],
    });
    expect(clearing(table, block(0, 0, 1, 2))).toMatchObject({ column: 2, block: [[""]] });
    expect(clearing(table, block(0, 2, 1, 1))).toBeNull();
    expect(clearing(table, block(1, 1, 2, 2))).toBeNull();
    expect(clearing(table, block(6, 7, 0, 2))).toBeNull();
  });
  it("fills its first row into the others, and the row above into a single one", () => {
    expect(fillingDown(table, block(0, 2, 2, 2))).toEqual({ kind: "set_cells", row: 1, column: 2, block: [["a"], ["a"]] });
    expect(fillingDown(table, block(2, 2, 0, 0))).toEqual({ kind: "set_cells", row: 2, column: 0, block: [["2"]] });
    expect(fillingDown(table, block(0, 0, 0, 0))).toBeNull();
    expect(fillingDown(table, block(0, 2, 1, 1))).toBeNull();
  });
  it("takes rows away and puts rows in", () => {
    expect(deleting(table, block(1, 9, 0, 0))).toEqual({ kind: "delete_rows", rows: [1, 2] });
    expect(deleting(table, block(3, 9, 0, 0))).toBeNull();
    expect(inserting(table, block(1, 2, 0, 0))).toEqual({ kind: "insert_rows", at: 1, count: 2 });
    expect(inserting(table, block(3, 3, 0, 0))).toEqual({ kind: "insert_rows", at: 3, count: 1 });
    expect(inserting(table, block(4, 4, 0, 0))).toBeNull();
  });
  it("sets rows aside, and uses them again only where all of them are", () => {
    expect(marking(table, block(0, 1, 0, 0), "assume_rows", "read off")).toEqual({
      kind: "assume_rows",
      marks: [
        { row: 0, reason: "read off" },
        { row: 1, reason: "read off" },
      ],
    });
    expect(togglingAside(table, block(1, 1, 0, 0))).toMatchObject({ kind: "mark_rows", marks: [{ row: 1, reason: null }] });
    expect(togglingAside(table, block(0, 1, 0, 0))).toMatchObject({ marks: [{ reason: "" }, { reason: "" }] });
    expect(togglingAside(table, block(5, 6, 0, 0))).toBeNull();
  });
});
