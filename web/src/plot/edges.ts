import type { Analysis } from "../api/client";
import { STATUS } from "../study/context";
import type { Domain } from "../study/view";

export interface Beyond {
  left: number;
  right: number;
  above: number;
  below: number;
}

/** How many readings lie beyond each edge of the view; one in a corner counts at both of its edges. */
export function countBeyond(analysis: Analysis, view: Domain): Beyond {
  const count = { left: 0, right: 0, above: 0, below: 0 };
  analysis.status.forEach((status, row) => {
    const x = analysis.x[row];
    const y = analysis.y[row];
    if ((status !== STATUS.used && status !== STATUS.aside) || x == null || y == null) return;
    if (x < view.x[0]) count.left++;
    if (x > view.x[1]) count.right++;
    if (y > view.y[1]) count.above++;
    if (y < view.y[0]) count.below++;
  });
  return count;
}

/** The view widened towards one edge until the readings beyond it are in. */
export function bringIn(analysis: Analysis, view: Domain, edge: keyof Beyond): Domain {
  const sideways = edge === "left" || edge === "right";
  const values: number[] = [];
  analysis.status.forEach((status, row) => {
    const value = sideways ? analysis.x[row] : analysis.y[row];
    if ((status === STATUS.used || status === STATUS.aside) && value != null) values.push(value);
  });
  const [low, high] = sideways ? view.x : view.y;
  const outermost = values.reduce((a, b) => (edge === "left" || edge === "below" ? Math.min(a, b) : Math.max(a, b)), low);
  const room = 0.06 * (Math.max(high, outermost) - Math.min(low, outermost));
  const next: [number, number] = edge === "left" || edge === "below" ? [outermost - room, high] : [low, outermost + room];
  return sideways ? { x: next, y: view.y } : { x: view.x, y: next };
}
