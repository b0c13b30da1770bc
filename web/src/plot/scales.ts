import { scaleLinear } from "d3-scale";
import { both, rising } from "../ui/pairs";

/** What is done to values before they are drawn evenly. `own`: whether ticks count in the new values instead of the old. */
export interface Shape {
  forward: (value: number) => number;
  backward: (value: number) => number;
  kind: "linear" | "log" | "other";
}

export const LINEAR: Shape = { forward: (value) => value, backward: (value) => value, kind: "linear" };
export const LOG: Shape = { forward: Math.log10, backward: (value) => 10 ** value, kind: "log" };

/** The coordinates in which a model is straight, as the server names them. */
export function straightShape(what: string, shift: number, power: number): Shape {
  if (what === "ln") return { forward: (value) => Math.log(value - shift), backward: (value) => Math.exp(value) + shift, kind: "other" };
  if (what === "reciprocal") return { forward: (value) => 1 / value, backward: (value) => 1 / value, kind: "other" };
  if (what === "power") {
    return {
      forward: (value) => value ** power,
      backward: (value) => (value < 0 && power % 2 === 1 ? -((-value) ** (1 / power)) : value ** (1 / power)),
      kind: "other",
    };
  }
  return LINEAR;
}

export interface Scale {
  (value: number): number;
  domain: [number, number];
  range: () => [number, number];
  invert: (pixel: number) => number;
  shape: Shape;
  /** The stretch in the values that are drawn evenly. */
  even: [number, number];
}

const FAR = 1e5;

export function makeScale(domain: [number, number], range: [number, number], shape: Shape = LINEAR): Scale {
  const even = rising(both(domain, shape.forward));
  const linear = scaleLinear().domain(even).range(range);
  const place = (value: number) => {
    const at = linear(shape.forward(value));
    return at > FAR ? FAR : at < -FAR ? -FAR : at;
  };
  return Object.assign(place, { domain, range: () => range, invert: (pixel: number) => shape.backward(linear.invert(pixel)), shape, even });
}

/** The stretch that a scale shows once its pixels are moved, in rising order. */
export function moved(scale: Scale, back: (pixel: number) => number): [number, number] {
  return rising(both(scale.range(), (pixel) => scale.invert(back(pixel))));
}

/** Whether a stretch can be drawn at all: its numbers leave room for sums and differences. */
export function drawable([low, high]: [number, number], shape: Shape = LINEAR): boolean {
  const span = high - low;
  if (!(span > 1e-290 && span < 1e290 && low + span / 1000 > low)) return false;
  const [a, b] = [shape.forward(low), shape.forward(high)];
  return Number.isFinite(a) && Number.isFinite(b) && a !== b;
}
