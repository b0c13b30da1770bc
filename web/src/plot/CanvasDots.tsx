import { useEffect, useRef } from "react";

export interface Dots {
  x: number[];
  y: number[];
  /** CSS variable of the colour. */
  color: string;
  radius: number;
  hollow?: boolean;
}

/** Many marks at once, on a canvas that lies under the drawing. */
export function CanvasDots({ width, height, groups }: { width: number; height: number; groups: Dots[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = height * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    for (const { x, y, color, radius, hollow } of groups) {
      const paint = getComputedStyle(element).getPropertyValue(color);
      context.fillStyle = context.strokeStyle = paint;
      for (let i = 0; i < x.length; i++) {
        const px = x[i]!;
        const py = y[i]!;
        context.beginPath();
        context.arc(px, py, radius, 0, 6.2832);
        if (hollow) context.stroke();
        else context.fill();
      }
    }
  }, [width, height, groups]);
  return <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height }} aria-hidden="true" />;
}
