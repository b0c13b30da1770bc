import { describe, expect, it } from "vitest";

import { makeScale } from "../plot/scales";
import { moved, scaled, turned } from "./laying";
import { apply, corners, followedBy, inPlot, inverse, type Matrix, onScreen, placed } from "./matrix";
import { missing, ofKind, scaleChange } from "./scaling";

const SIZE = { width: 100, height: 40 };
const PLACE = { x: 5, y: 2, width: 10, height: 4, turn: 0 };
const close = (found: readonly number[], wanted: readonly number[]) => found.forEach((one, i) => expect(one).toBeCloseTo(wanted[i]!, 9));

describe("where a picture lies", () => {
  it("is what the server says of the same place", () => {
    close(placed(PLACE, SIZE), [0.1, 0, 0, -0.1, 0, 4]);
    close(apply(placed({ ...PLACE, turn: 90 }, SIZE), [100, 20]), [5, 7]);
  });

  it("goes there and back, one step after the other", () => {
    const one: Matrix = [2, 1, -3, 4, 5, 6];
    const other: Matrix = [0.5, 0, 0.25, -2, 7, 1];
    close(apply(followedBy(one, other), [3, -2]), apply(other, apply(one, [3, -2])));
    close(apply(inverse(one), apply(one, [9, 8])), [9, 8]);
  });

  it("counts powers of ten as the axes do", () => {
    close(apply(inPlot([-3, 2], [false, false]), [5, 7]), [0.005, 700]);
    close(apply(inPlot([-3, 2], [true, true]), [5, 7]), [2, 9]);
  });

  it("is drawn by the scales of the plot, also a logarithmic one", () => {
    const x = makeScale([0, 10], [60, 560]);
    const y = makeScale([0, 4], [400, 0]);
    close(apply(followedBy(placed(PLACE, SIZE), onScreen(x, y)), [50, 20]), [x(5), y(2)]);
  });
});

describe("a hand on a picture", () => {
  const table: Matrix = [50, 0, 0, -100, 60, 400];
  const at = corners(SIZE).map((corner) => apply(followedBy(placed(PLACE, SIZE), table), corner));

  it("moves its middle", () => {
    const found = moved(PLACE, [110, 300], table);
    close([found.x, found.y, found.width], [1, 1, 10]);
  });

  it("scales it about the other corner", () => {
    const [corner, , other] = at as [[number, number], [number, number], [number, number]];
    const half: [number, number] = [(corner[0] + other[0]) / 2, (corner[1] + other[1]) / 2];
    const found = scaled(PLACE, corner, other, half, table);
    close([found.width, found.height], [5, 2]);
    close(apply(followedBy(placed(found, SIZE), table), [100, 40]), other);
  });

  it("turns it against the clock, and holds it upright when it nearly is", () => {
    expect(turned(PLACE, [90, 100], [100, 100]).turn).toBe(90);
    expect(turned(PLACE, [101, 20], [100, 100]).turn).toBeCloseTo(0, 12);
    expect(turned(PLACE, [180, 20], [100, 100]).turn).toBe(-45);
  });
});

describe("a scale that is being made", () => {
  const none = { kind: "none" as const, places: [], values: [], next: 0, log_x: false, log_y: false, follow: true };

  it("says what is missing, mark by mark", () => {
    const axes = ofKind(none, "axes");
    expect(missing(axes)).toBe("Press on the picture: x, first mark.");
    const placedOnes = { ...axes, places: axes.places.map((): [number, number] => [1, 2]) };
    expect(missing(placedOnes)).toBe("Type the value of x, first mark.");
    expect(missing({ ...placedOnes, values: ["0", "1", "0", "1"] })).toBe("");
    const length = { ...ofKind(none, "length"), places: [[0, 0] as [number, number], [3, 4] as [number, number]] };
    expect(missing(length)).toBe("Type how long it is.");
  });

  it("makes the change that it is", () => {
    expect(scaleChange(none)).toEqual({ kind: "scale_picture", scale: null, log_x: false, log_y: false, follow: true });
    const length = { ...ofKind(none, "length"), places: [[0, 0] as [number, number], [3, 4] as [number, number]], values: ["", " 5 "] };
    expect(scaleChange({ ...length, log_x: true })).toMatchObject({ scale: { x_marks: [{ px: 0 }, { px: 3, value: "5" }] }, log_x: false });
  });
});
