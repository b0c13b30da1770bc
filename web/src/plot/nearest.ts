import type { Scale } from "./scales";

/** A place on a drawing, in its own units. */
export interface Pixel {
  px: number;
  py: number;
}

/** Where a pointer stands on a drawing, in the units of its viewBox. */
export function pixelOf(event: { clientX: number; clientY: number }, svg: SVGSVGElement): Pixel {
  const box = svg.getBoundingClientRect();
  const { width, height } = svg.viewBox.baseVal;
  return { px: ((event.clientX - box.left) / box.width) * width, py: ((event.clientY - box.top) / box.height) * height };
}

/** Which of the marks stands nearest to a pixel; null where none of them is nearer than `reach`. */
export function nearestMark(
  { px, py }: Pixel,
  marks: { xs: (number | null)[]; ys: (number | null)[]; x: Scale; y: Scale },
  reach: number,
  counts: (at: number) => boolean = () => true,
): number | null {
  let best = reach;
  let found: number | null = null;
  for (let at = 0; at < marks.xs.length; at++) {
    const [vx, vy] = [marks.xs[at], marks.ys[at]];
    if (vx == null || vy == null || !counts(at)) continue;
    const distance = Math.hypot(marks.x(vx) - px, marks.y(vy) - py);
    if (distance < best) [best, found] = [distance, at];
  }
  return found;
}
