import { useEffect, useRef } from "react";

export interface Dots {
  x: Int16Array;
  y: Int16Array;
  /** CSS variable of the colour. */
  color: string;
  radius: number;
  hollow?: boolean;
}

/** Many marks at once, on a canvas that lies under the drawing. Filled ones are set pixel by pixel, which is fastest. */
export function CanvasDots({ width, height, groups }: { width: number; height: number; groups: Dots[] }) {
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
    }
    const styles = getComputedStyle(element);
    const image = context.createImageData(across, down);
    const pixels = new Uint32Array(image.data.buffer);
    for (const { x, y, color, radius, hollow } of groups) {
      if (hollow) continue;
      const paint = packed(styles.getPropertyValue(color));
      const reach = Math.max(1, Math.round(radius * ratio));
      for (let i = 0; i < x.length; i++) {
        const cx = Math.round(x[i]! * ratio);
        const cy = Math.round(y[i]! * ratio);
        for (let dy = -reach; dy <= reach; dy++) {
          const side = Math.abs(dy) === reach ? reach - 1 : reach;
          const from = (cy + dy) * across + cx;
          for (let dx = -side; dx <= side; dx++) pixels[from + dx] = paint;
        }
      }
    }
    context.putImageData(image, 0, 0);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    for (const { x, y, color, radius, hollow } of groups) {
      if (!hollow) continue;
      context.strokeStyle = styles.getPropertyValue(color);
      for (let i = 0; i < x.length; i++) {
        context.beginPath();
        context.arc(x[i]!, y[i]!, radius, 0, 6.2832);
        context.stroke();
      }
    }
  }, [width, height, groups]);
  return <canvas ref={canvas} className="pointer-events-none absolute inset-0" style={{ width, height }} aria-hidden="true" />;
}

/** A colour such as #1c2a30 as the four bytes of a pixel. */
function packed(color: string): number {
  const digits = color.trim().replace("#", "");
  const [red, green, blue] = [0, 2, 4].map((at) => parseInt(digits.slice(at, at + 2), 16)) as [number, number, number];
  return ((255 << 24) | (blue << 16) | (green << 8) | red) >>> 0;
}
