import type { Paint } from "./CanvasLayer";

/** Pixels of an area that are to be marked: `seen` line by line, from `left` and `top` on. */
export interface Dots {
  seen: Uint8Array;
  width: number;
  height: number;
  left: number;
  top: number;
  /** CSS variable of the colour. */
  color: string;
  radius: number;
  hollow: boolean;
}

/** Very many marks at once. Filled ones are set pixel by pixel, which is fastest. */
export const paintDots =
  (groups: Dots[]): Paint =>
  (context, color, ratio) => {
    const { width, height } = context.canvas;
    const image = context.createImageData(width, height);
    const pixels = new Uint32Array(image.data.buffer);
    for (const { seen, width: across, left, top, color: name, radius, hollow } of groups) {
      if (hollow) continue;
      const paint = packed(color(name));
      const mark = markOf(Math.max(1, Math.round(radius * ratio)), width);
      const columns = Int32Array.from({ length: across }, (_, column) => Math.round((left + column) * ratio));
      for (let line = 0, cell = 0; cell < seen.length; line++) {
        const from = Math.round((top + line) * ratio) * width;
        for (let column = 0; column < across; column++, cell++) {
          if (seen[cell] === 0) continue;
          const at = from + columns[column]!;
          for (let i = 0; i < mark.length; i++) pixels[at + mark[i]!] = paint;
        }
      }
    }
    context.putImageData(image, 0, 0);
    for (const { seen, width: across, left, top, color: name, radius, hollow } of groups) {
      if (!hollow) continue;
      context.strokeStyle = color(name);
      for (let cell = seen.indexOf(1); cell >= 0; cell = seen.indexOf(1, cell + 1)) {
        context.beginPath();
        context.arc(left + (cell % across), top + Math.floor(cell / across), radius, 0, 6.2832);
        context.stroke();
      }
    }
  };

/** Where the pixels of a round mark lie from its middle, in an image of this width. */
function markOf(reach: number, width: number): Int32Array {
  const mark: number[] = [];
  for (let dy = -reach; dy <= reach; dy++) {
    const side = Math.abs(dy) === reach ? reach - 1 : reach;
    for (let dx = -side; dx <= side; dx++) mark.push(dy * width + dx);
  }
  return Int32Array.from(mark);
}

/** A colour such as #1c2a30 as the four bytes of a pixel. */
function packed(color: string): number {
  const digits = color.trim().replace("#", "");
  const part = (at: number) => parseInt(digits.slice(at, at + 2), 16);
  return ((255 << 24) | (part(4) << 16) | (part(2) << 8) | part(0)) >>> 0;
}
