import type { Scale } from "./scales";

const FAR = 1e4;

/** Pixels joined by a line as an SVG path, broken where a place is missing. */
export function polyline(places: ([number, number] | null)[]): string {
  let pen = "M";
  let text = "";
  for (const place of places) {
    if (!place) pen = "M";
    else {
      const [px, py] = place;
      text += `${pen}${px.toFixed(1)} ${Math.max(-FAR, Math.min(FAR, py)).toFixed(1)}`;
      pen = "L";
    }
  }
  return text;
}

/** A curve as an SVG path, broken where it has no value or where `keep` says so. */
export const pathOf = (xs: number[], ys: (number | null)[], x: Scale, y: Scale, keep: (at: number) => boolean = () => true): string =>
  polyline(
    xs.map((at, i): [number, number] | null => {
      const value = ys[i];
      return value == null || !keep(at) ? null : [x(at), y(value)];
    }),
  );
