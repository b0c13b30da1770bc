import type { Placed } from "../api/client";
import { isDrawnRow } from "../study/status";
import type { Domain } from "../study/view";
import { columnsOf } from "./columns";
import type { Shapes } from "./domains";
import { both, type Pair, rising } from "../ui/pairs";
import { drawable, type Shape } from "./scales";

export interface Beyond {
  left: number;
  right: number;
  above: number;
  below: number;
}

/** How many readings lie beyond each edge of the view; one in a corner counts at both of its edges. */
export function countBeyond(placed: Placed, view: Domain, shapes: Shapes): Beyond {
  const { x, y, status } = columnsOf(placed);
  const count = { left: 0, right: 0, above: 0, below: 0 };
  const [x0, x1] = view.x;
  const [y0, y1] = view.y;
  for (let row = 0; row < status.length; row++) {
    const own = status[row];
    if (!isDrawnRow(own) || !hasPlace(shapes, x[row]!, y[row]!)) continue;
    // Comparisons with NaN are false: a row without a value counts nowhere.
    if (x[row]! < x0) count.left++;
    else if (x[row]! > x1) count.right++;
    if (y[row]! > y1) count.above++;
    else if (y[row]! < y0) count.below++;
  }
  // Where an axis falls, as one of reciprocals, the smaller values stand on the other side.
  if (falls(shapes.x, view.x)) [count.left, count.right] = [count.right, count.left];
  if (falls(shapes.y, view.y)) [count.above, count.below] = [count.below, count.above];
  return count;
}

const falls = (shape: Shape, [low, high]: Pair<number>) => shape.forward(low) > shape.forward(high);

/** The view widened towards one edge until the readings beyond it are in. */
export function bringIn(placed: Placed, view: Domain, edge: keyof Beyond, shapes: Shapes): Domain {
  const sideways = edge === "left" || edge === "right";
  const shape = sideways ? shapes.x : shapes.y;
  const [low, high] = rising(both(sideways ? view.x : view.y, shape.forward));
  let [least, most] = [low, high];
  placed.status.forEach((status, row) => {
    const [vx, vy] = [placed.x[row], placed.y[row]];
    if (!isDrawnRow(status) || vx == null || vy == null || !hasPlace(shapes, vx, vy)) return;
    const even = shape.forward(sideways ? vx : vy);
    if (edge === "left" || edge === "below") least = Math.min(least, even);
    else most = Math.max(most, even);
  });
  // Some room beyond the outermost reading, counted where the axis is drawn evenly.
  const room = 0.06 * (most - least);
  const ends = (room: number) => rising(both([least < low ? least - room : least, most > high ? most + room : most], shape.backward));
  const next = [ends(room), ends(0)].find((one) => drawable(one, shape));
  if (!next) return view;
  return sideways ? { x: next, y: view.y } : { x: view.x, y: next };
}

/** Whether a reading can be drawn on these axes; without a value of its own it counts as one that can. */
const hasPlace = (shapes: Shapes, x: number, y: number) =>
  (Number.isNaN(x) || Number.isFinite(shapes.x.forward(x))) && (Number.isNaN(y) || Number.isFinite(shapes.y.forward(y)));
