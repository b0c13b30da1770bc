import { useView } from "../study/view";
import type { Scale } from "./scales";

/** A ring where the reading in hand would go; it follows the pointer before anything is computed. */
export function InHand({ x, y, size }: { x: Scale; y: Scale; size: number }) {
  const held = useView((view) => view.inHand);
  if (!held) return null;
  return (
    <circle data-testid="in-hand" cx={x(held.x)} cy={y(held.y)} r={size + 4} fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
  );
}
