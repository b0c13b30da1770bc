import { useEffect, useRef } from "react";

/** Draws on a cleared canvas in CSS pixels of the plot's frame. `color`: the value of a CSS variable; `ratio`: device pixels in one. */
export type Paint = (context: CanvasRenderingContext2D, color: (name: string) => string, ratio: number) => void;

/** What is painted, and on which lines of the frame: what is painted at each move of a hand keeps to few, since all of a canvas is drawn anew. */
export interface Layer {
  paint: Paint;
  top: number;
  bottom: number;
}

/** A canvas under the drawing, for more marks than elements could follow a drag; painted anew when `paint` is another one. */
export function CanvasLayer({ width, layer: { paint, top, bottom } }: { width: number; layer: Layer }) {
  const height = bottom - top;
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context) return;
    const ratio = window.devicePixelRatio || 1;
    const [across, down] = [Math.round(width * ratio), Math.round(height * ratio)];
    if (element.width !== across || element.height !== down) {
      element.width = across;
      element.height = down;
    } else {
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, across, down);
    }
    context.setTransform(ratio, 0, 0, ratio, 0, -top * ratio);
    const styles = getComputedStyle(element);
    paint(context, (name) => styles.getPropertyValue(name), ratio);
  }, [width, height, top, paint]);
  return <canvas ref={canvas} className="pointer-events-none absolute left-0" style={{ top, width, height }} aria-hidden="true" />;
}
