import type { Picture } from "../api/client";
import { exponentsOf, type HeldStudy } from "../study/changes";
import { inSign } from "../ui/decimalSign";
import { apply, corners } from "./matrix";

/** The stretches of both axes that a picture takes, in the values that are drawn evenly; null while it has no place. */
export function extentOf({ matrix, laid }: Picture): { x: [number, number]; y: [number, number] } | null {
  if (!matrix) return null;
  const [a, b, c, d, e, f] = matrix;
  const at = corners(laid).map((corner) => apply([a!, b!, c!, d!, e!, f!], corner));
  const [xs, ys] = [at.map(([x]) => x), at.map(([, y]) => y)];
  return { x: [Math.min(...xs), Math.max(...xs)], y: [Math.min(...ys), Math.max(...ys)] };
}

/** The least and the greatest x of a picture, as typed in the table. */
export function edgesOf(picture: Picture, study: HeldStudy): [string, string] | null {
  const extent = extentOf(picture);
  if (!extent) return null;
  const [exponent] = exponentsOf(study);
  const typed = (even: number) => inSign(String(Number(((picture.laid.log_x ? 10 ** even : even) / 10 ** exponent).toPrecision(5))));
  return [typed(extent.x[0]), typed(extent.x[1])];
}
