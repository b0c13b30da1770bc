import type { PicturePlace } from "../api/client";
import type { Scale } from "../plot/scales";
import type { PicturePixel } from "../study/view";

/** (a, b, c, d, e, f) as in SVG: (x, y) goes to (a·x + c·y + e, b·x + d·y + f). */
export type Matrix = readonly [number, number, number, number, number, number];

export const apply = ([a, b, c, d, e, f]: Matrix, [x, y]: PicturePixel): PicturePixel => [a * x + c * y + e, b * x + d * y + f];

/** First one, then the other. */
export const followedBy = ([a, b, c, d, e, f]: Matrix, [A, B, C, D, E, F]: Matrix): Matrix => [
  A * a + C * b,
  B * a + D * b,
  A * c + C * d,
  B * c + D * d,
  A * e + C * f + E,
  B * e + D * f + F,
];

export function inverse([a, b, c, d, e, f]: Matrix): Matrix {
  const size = a * d - b * c;
  return [d / size, -b / size, -c / size, a / size, (c * f - d * e) / size, (b * e - a * f) / size];
}

/** From the pixels of a picture of this size to the numbers of the table, as it is placed; `Placing.matrix` of the server. */
export function placed({ x, y, width, height, turn = 0 }: PicturePlace, size: { width: number; height: number }): Matrix {
  const [across, up] = [width / size.width, height / size.height];
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const [a, b, c, d] = [across * cos, up * sin, across * sin, -up * cos];
  return [a, b, c, d, x - (a * size.width + c * size.height) / 2, y - (b * size.width + d * size.height) / 2];
}

/** From numbers of the table to those of the plot: times ten to the exponents, of a logarithmic axis so much farther on. */
export function inPlot(exponents: [number, number], log: [boolean, boolean]): Matrix {
  const [tx, ty] = [log[0] ? 1 : 10 ** exponents[0], log[1] ? 1 : 10 ** exponents[1]];
  return [tx, 0, 0, ty, log[0] ? exponents[0] : 0, log[1] ? exponents[1] : 0];
}

/** From places along the axes to pixels of the drawing. */
export function onScreen(x: Scale, y: Scale): Matrix {
  const [left, right] = x.range();
  const [floor, top] = y.range();
  const across = (right - left) / (x.even[1] - x.even[0]);
  const up = (top - floor) / (y.even[1] - y.even[0]);
  return [across, 0, 0, up, left - x.even[0] * across, floor - y.even[0] * up];
}

/** The four corners of a picture, from the upper left one with the clock. */
export const corners = ({ width, height }: { width: number; height: number }): PicturePixel[] => [
  [0, 0],
  [width, 0],
  [width, height],
  [0, height],
];
