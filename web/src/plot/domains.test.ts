import { describe, expect, it } from "vitest";

import type { Analysis, PlotSettings } from "../api/client";
import { equalised, settledView, shapesOf, unplaceable } from "./domains";

const analysed = (x: number[], straight: object | null = null) =>
  ({
    x,
    y: x,
    status: x.map(() => 1),
    straight: straight && { x: "none", y: "none", x_shift: 0, y_shift: 0, x_power: 1, ...straight },
  }) as unknown as Analysis;
const view = { x: [-1, 11] as [number, number], y: [-1, 11] as [number, number] };

function settled(plot: PlotSettings, analysis: Analysis) {
  return settledView(view, plot, shapesOf(plot, analysis.straight), analysis);
}

describe("the view", () => {
  it("is that of the readings, with the limits that are typed", () => {
    expect(settled({}, analysed([0, 10]))).toEqual(view);
    expect(settled({ x_low: 2, y_high: 5 }, analysed([0, 10]))).toEqual({ x: [2, 11], y: [-1, 5] });
    expect(settled({ x_low: 20 }, analysed([0, 10])).x).toEqual([-1, 11]);
  });

  it.each([
    ["a root", { x: "power", x_power: 0.5 }, [0, 4, 9]],
    ["a square", { x: "power", x_power: 2 }, [0, 2, 3]],
    ["a reciprocal", { x: "reciprocal" }, [0.5, 2, 40]],
    ["a logarithm", { x: "ln" }, [0.01, 2, 40]],
    ["a cube", { x: "power", x_power: 3 }, [-2, 1, 2]],
  ])("straightened by %s holds every reading", (_, straight, x) => {
    const [low, high] = settled({ straighten: true }, analysed(x, straight)).x;
    expect(low).toBeLessThanOrEqual(Math.min(...x));
    expect(high).toBeGreaterThanOrEqual(Math.max(...x));
  });

  it("leaves out and names what a logarithmic axis cannot show", () => {
    const analysis = analysed([-1, 0, 1, 100]);
    const plot: PlotSettings = { x_scale: "log" };
    const [low, high] = settled(plot, analysis).x;
    expect(low).toBeGreaterThan(0.5);
    expect(high).toBeLessThan(200);
    expect(unplaceable(analysis, shapesOf(plot, analysis.straight))).toEqual([0, 1]);
    expect(unplaceable(analysis, shapesOf({}, analysis.straight))).toEqual([]);
  });

  it("in the same scale on both axes shows more of the shorter one", () => {
    expect(equalised({ x: [0, 10], y: [0, 1] }, 100, 100)).toEqual({ x: [0, 10], y: [-4.5, 5.5] });
  });
});
