import type { Placed } from "../api/client";
import { isDrawnRow } from "../study/status";
import type { Domain } from "../study/view";
import { columnsOf } from "./columns";

export interface Beyond {
  left: number;
  right: number;
  above: number;
  below: number;
}

/** How many readings lie beyond each edge of the view; one in a corner counts at both of its edges. */
export function countBeyond(placed: Placed, view: Domain): Beyond {
  const { x, y, status } = columnsOf(placed);
  const count = { left: 0, right: 0, above: 0, below: 0 };
  const [x0, x1] = view.x;
  const [y0, y1] = view.y;
  for (let row = 0; row < status.length; row++) {
    const own = status[row];
    if (!isDrawnRow(own)) continue;
    // Comparisons with NaN are false: a row without a value counts nowhere.
    if (x[row]! < x0) count.left++;
    else if (x[row]! > x1) count.right++;
    if (y[row]! > y1) count.above++;
    else if (y[row]! < y0) count.below++;
  }
  return count;
}

/** The view widened towards one edge until the readings beyond it are in. */
export function bringIn(placed: Placed, view: Domain, edge: keyof Beyond): Domain {
  const sideways = edge === "left" || edge === "right";
  const values: number[] = [];
  placed.status.forEach((status, row) => {
    const value = sideways ? placed.x[row] : placed.y[row];
    if (isDrawnRow(status) && value != null) values.push(value);
  });
  const [low, high] = sideways ? view.x : view.y;
  const outermost = values.reduce((a, b) => (edge === "left" || edge === "below" ? Math.min(a, b) : Math.max(a, b)), low);
  const room = 0.06 * (Math.max(high, outermost) - Math.min(low, outermost));
  const next: [number, number] = edge === "left" || edge === "below" ? [outermost - room, high] : [low, outermost + room];
  return sideways ? { x: next, y: view.y } : { x: view.x, y: next };
}
