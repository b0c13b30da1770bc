import type { Analysis, PlotSettings } from "../api/client";
import { isDrawnRow } from "../study/status";
import type { Domain } from "../study/view";
import { LINEAR, LOG, type Shape, straightShape } from "./scales";
import { both, rising } from "../ui/pairs";

export interface Shapes {
  x: Shape;
  y: Shape;
}

/** How the axes are drawn: evenly, logarithmic, or so that the leading model is straight. */
export function shapesOf(plot: PlotSettings, straight: Analysis["straight"]): Shapes {
  if (plot.straighten && straight) {
    return { x: straightShape(straight.x, straight.x_shift, straight.x_power), y: straightShape(straight.y, straight.y_shift, 1) };
  }
  return { x: plot.x_scale === "log" ? LOG : LINEAR, y: plot.y_scale === "log" ? LOG : LINEAR };
}

/**
 * The view as the settings want it: from the readings in the axes' own coordinates, and the stretches of the picture `under` them, then
 * the typed limits.
 */
export function settledView(view: Domain, plot: PlotSettings, shapes: Shapes, analysis: Analysis, under: Domain | null = null): Domain {
  const bare = under !== null && !analysis.status.some(isDrawnRow);
  const stretch = (axis: "x" | "y"): [number, number] => {
    const shape = shapes[axis];
    const own = shape === LINEAR ? view[axis] : evenView(analysis[axis], shape, analysis, view[axis]);
    if (!under) return own;
    const picture = both(under[axis], shape.backward);
    return bare ? picture : [Math.min(own[0], picture[0]), Math.max(own[1], picture[1])];
  };
  const [x, y] = [stretch("x"), stretch("y")];
  const typed = (axis: [number, number], low: number | null | undefined, high: number | null | undefined): [number, number] => {
    const next: [number, number] = [low ?? axis[0], high ?? axis[1]];
    return next[0] < next[1] ? next : axis;
  };
  // Limits are typed for an even or logarithmic axis; where the model is straightened they have no place.
  if (plot.straighten && analysis.straight) return { x, y };
  const positive = (value: number | null | undefined, shape: Shape) => (shape === LOG && value != null && value <= 0 ? null : value);
  return {
    x: typed(x, positive(plot.x_low, shapes.x), positive(plot.x_high, shapes.x)),
    y: typed(y, positive(plot.y_low, shapes.y), positive(plot.y_high, shapes.y)),
  };
}

/** All readings with some room, counted where they are drawn evenly; those that have no place there are left out. */
function evenView(values: (number | null)[], shape: Shape, analysis: Analysis, otherwise: [number, number]): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  values.forEach((value, row) => {
    const status = analysis.status[row];
    if (value === null || !isDrawnRow(status)) return;
    const even = shape.forward(value);
    if (!Number.isFinite(even)) return;
    low = Math.min(low, even);
    high = Math.max(high, even);
  });
  if (!(low <= high)) return shape === LOG ? [1, 10] : otherwise;
  const room = low === high ? 0.5 : 0.07 * (high - low);
  const ends = both([low - room, high + room], shape.backward);
  // A reciprocal or a root has no place below zero: there the axis ends near it, or at it.
  if (low > 0 && low - room <= 0) ends[0] = shape.backward(low / 2);
  if (!(shape.forward(ends[0]) < low)) ends[0] = shape.backward(low);
  return rising(ends);
}

/** Both axes in the same scale: the one that would be stretched shows more. */
export function equalised(view: Domain, width: number, height: number): Domain {
  const perPixel = Math.max((view.x[1] - view.x[0]) / width, (view.y[1] - view.y[0]) / height);
  const widen = ([low, high]: [number, number], pixels: number): [number, number] => {
    const middle = (low + high) / 2;
    return [middle - (perPixel * pixels) / 2, middle + (perPixel * pixels) / 2];
  };
  return { x: widen(view.x, width), y: widen(view.y, height) };
}

/** Readings that an axis cannot show: those at or below zero on a logarithmic one, say. */
export function unplaceable(analysis: Analysis, shapes: Shapes): number[] {
  if (shapes.x === LINEAR && shapes.y === LINEAR) return [];
  const rows: number[] = [];
  analysis.status.forEach((status, row) => {
    const x = analysis.x[row];
    const y = analysis.y[row];
    if (!isDrawnRow(status) || x == null || y == null) return;
    if (!Number.isFinite(shapes.x.forward(x)) || !Number.isFinite(shapes.y.forward(y))) rows.push(row);
  });
  return rows;
}
