import { useEffect, useRef } from "react";

/** Draws on a cleared canvas in CSS pixels. `color`: the value of a CSS variable; `ratio`: device pixels in one. */
export type Paint = (context: CanvasRenderingContext2D, color: (name: string) => string, ratio: number) => void;

/** A canvas under the drawing, for more marks than elements could follow a drag; painted anew when `paint` is another one. */
export function CanvasLayer({ width, height, paint }: { width: number; height: number; paint: Paint }) {
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
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const styles = getComputedStyle(element);
    paint(context, (name) => styles.getPropertyValue(name), ratio);
  }, [width, height, paint]);
  return <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height }} aria-hidden="true" />;
}
