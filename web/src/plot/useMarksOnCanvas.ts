import { useMemo } from "react";

import type { Placed, PlotSettings } from "../api/client";
import { inkOf } from "../fits/looks";
import type { Layer, Paint } from "./CanvasLayer";
import { paintDots } from "./paintDots";
import { MARK, paintMarks, paintStems } from "./paintMarks";
import type { Scale } from "./scales";
import { steadily, STEM, stemsOf } from "./stems";
import { useDots } from "./useDots";

/** From this many readings on they are drawn on a canvas, */
const CROWDED = 300;
/** and from this many on as dots. */
const MANY = 2000;
const LIT_AS_MARKS = 200;

interface Wanted {
  placed: Placed;
  plot: PlotSettings;
  /** Of the leading fit, of this letter. */
  residuals: (number | null)[] | undefined;
  letter: string | undefined;
  x: Scale;
  y: Scale;
  residual: Scale;
  /** Of the frame. */
  height: number;
  lit: [number, number] | null;
  caught: Set<number>;
  aside: Set<number>;
  assumed: Set<number>;
}

/** A layer over an area with room for the marks at its edges; none for nothing. */
function over(paint: Paint | null, [bottom, top]: [number, number], room: number): Layer[] {
  return paint ? [{ paint, top: Math.floor(top - room), bottom: Math.ceil(bottom + room) }] : [];
}

/**
 * What is drawn on canvases where there are too many readings for an element each, layer by layer, and the `single` rows
 * that are elements all the same; null: all of them. `many`: whether the rest are mere dots.
 */
export function useMarksOnCanvas({ placed, plot, residuals, letter, x, y, residual, height, lit, caught, aside, assumed }: Wanted) {
  const many = placed.status.length > MANY;
  const crowded = !many && placed.status.length > CROWDED;
  // Of very many readings only a few chosen ones are drawn as marks; a large choice is on the canvas like the rest.
  const litOnCanvas = many && lit !== null && lit[1] - lit[0] >= LIT_AS_MARKS;
  const single = useMemo(() => {
    if (!many && !crowded) return null;
    const chosen = lit && !litOnCanvas ? Array.from({ length: lit[1] - lit[0] + 1 }, (_, i) => lit[0] + i) : [];
    return new Set(many ? chosen : [...chosen, ...caught, ...aside, ...assumed]);
  }, [many, crowded, lit, litOnCanvas, caught, aside, assumed]);
  const dots = useDots({
    placed,
    residuals,
    ink: inkOf(letter ?? "A"),
    x,
    y,
    residual,
    lit: litOnCanvas ? lit : null,
    caught,
    on: many,
  });

  const marks = useMemo(
    () => (crowded && single ? paintMarks({ placed, plot, x, y, apart: single }) : null),
    [crowded, placed, plot, x, y, single],
  );
  const steady = useMemo(() => steadily(), []);
  const places = useMemo(
    () => (crowded && single && residuals ? steady(stemsOf({ placed, residuals, x, y: residual, apart: single })) : null),
    [crowded, placed, residuals, x, residual, single, steady],
  );
  const stems = useMemo(() => places && paintStems(places, inkOf(letter ?? "A")), [places, letter]);
  const together = useMemo(() => (many ? paintDots(dots) : null), [many, dots]);
  const layers: Layer[] = [...over(together, [height, 0], 0), ...over(marks, y.range(), MARK), ...over(stems, residual.range(), STEM)];
  return { many, crowded, single, layers };
}
