import type { Paint } from "./CanvasLayer";

export interface Dots {
  x: Int16Array;
  y: Int16Array;
  /** CSS variable of the colour. */
  color: string;
  radius: number;
  hollow?: boolean;
}

/** Very many marks at once. Filled ones are set pixel by pixel, which is fastest. */
export const paintDots =
  (groups: Dots[]): Paint =>
  (context, color, ratio) => {
    const { width, height } = context.canvas;
    const image = context.createImageData(width, height);
    const pixels = new Uint32Array(image.data.buffer);
    for (const group of groups) {
      if (group.hollow) continue;
      const paint = packed(color(group.color));
      const reach = Math.max(1, Math.round(group.radius * ratio));
      for (let i = 0; i < group.x.length; i++) {
        const cx = Math.round(group.x[i]! * ratio);
        const cy = Math.round(group.y[i]! * ratio);
        for (let dy = -reach; dy <= reach; dy++) {
          const side = Math.abs(dy) === reach ? reach - 1 : reach;
          const from = (cy + dy) * width + cx;
          for (let dx = -side; dx <= side; dx++) pixels[from + dx] = paint;
        }
      }
    }
    context.putImageData(image, 0, 0);
    for (const { x, y, color: name, radius, hollow } of groups) {
      if (!hollow) continue;
      context.strokeStyle = color(name);
      for (let i = 0; i < x.length; i++) {
        context.beginPath();
        context.arc(x[i]!, y[i]!, radius, 0, 6.2832);
        context.stroke();
      }
    }
  };

/** A colour such as #1c2a30 as the four bytes of a pixel. */
function packed(color: string): number {
  const digits = color.trim().replace("#", "");
  const [red, green, blue] = [0, 2, 4].map((at) => parseInt(digits.slice(at, at + 2), 16)) as [number, number, number];
  return ((255 << 24) | (blue << 16) | (green << 8) | red) >>> 0;
}
