import { describe, expect, it } from "vitest";

import type { Study } from "../api/client";
import { type HeldStudy, merge, showTyped } from "./changes";

const held = {
  row_count: 2,
  columns: [
    { key: "x", cells: ["1", "2"] },
    { key: "y", cells: ["3", "4"] },
  ],
  plot: { grid: "major", size: 4 },
  author: "a",
  date: "d",
  report: [],
} as unknown as HeldStudy;

describe("a newer state over the one that is held", () => {
  it("keeps cells that did not come, and puts in those that changed", () => {
    const newer = {
      columns: [{ key: "y" }, { key: "x", patch: [{ row: 1, text: "9" }] }, { key: "z", cells: ["5", "6"] }],
    } as unknown as Study;
    expect(merge(held, newer).columns.map((column) => column.cells)).toEqual([
      ["3", "4"],
      ["1", "9"],
      ["5", "6"],
    ]);
    expect(held.columns[0]!.cells).toEqual(["1", "2"]);
  });

  it("shares what did not change", () => {
    expect(merge(held, { columns: [{ key: "x" }] } as unknown as Study).columns[0]!.cells).toBe(held.columns[0]!.cells);
  });
});

describe("what is typed", () => {
  it("stands in the table at once, rows added as needed", () => {
    const shown = showTyped(held, { kind: "set_cells", row: 1, column: 1, block: [["7"], ["8"]] });
    expect(shown.row_count).toBe(3);
    expect(shown.columns.map((column) => column.cells)).toEqual([
      ["1", "2", ""],
      ["3", "7", "8"],
    ]);
  });

  it("waits for the server where it makes columns", () => {
    expect(showTyped(held, { kind: "set_cells", row: 0, column: 1, block: [["7", "8"]] })).toBe(held);
  });

  it("moves a reading by its keys", () => {
    const shown = showTyped(held, {
      kind: "write_cells",
      cells: [
        { row: 0, key: "y", text: "5" },
        { row: 2, key: "x", text: "6" },
      ],
    });
    expect(shown.columns.map((column) => column.cells)).toEqual([
      ["1", "2", "6"],
      ["5", "4", ""],
    ]);
  });

  it("lays plot settings over those that hold, and leaves everything else", () => {
    expect(showTyped(held, { kind: "set_plot", settings: { grid: "none" } }).plot).toEqual({ grid: "none", size: 4 });
    expect(showTyped(held, { kind: "swap_axes" })).toBe(held);
    expect(showTyped(held, { kind: "set_report", author: "b" })).toMatchObject({ author: "b", date: "d" });
  });
});
