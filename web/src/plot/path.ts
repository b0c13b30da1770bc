import type { Scale } from "./scales";

const FAR = 1e4;

/** A curve as an SVG path, broken where it has no value or where `keep` says so. */
export function pathOf(xs: number[], ys: (number | null)[], x: Scale, y: Scale, keep: (at: number) => boolean = () => true): string {
  let pen = "M";
  let text = "";
  xs.forEach((at, i) => {
    const value = ys[i];
    if (value == null || !keep(at)) pen = "M";
    else {
      text += `${pen}${x(at).toFixed(1)} ${Math.max(-FAR, Math.min(FAR, y(value))).toFixed(1)}`;
      pen = "L";
    }
  });
  return text;
}
