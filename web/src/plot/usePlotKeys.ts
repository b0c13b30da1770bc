import type { KeyboardEvent } from "react";

import { setView } from "../study/view";

const ZOOM = 1.3;
const MOVE = 40;

/** Keys on the plot: those of the tool in hand first, then plus and minus, 0 and the arrows. */
export function usePlotKeys(
  tool: (event: KeyboardEvent) => boolean,
  { by, pan }: { by: (factor: number) => void; pan: (dx: number, dy: number) => void },
) {
  const steps: Record<string, () => void> = {
    "+": () => by(ZOOM),
    "=": () => by(ZOOM),
    "-": () => by(1 / ZOOM),
    "0": () => setView({ domain: null }),
    ArrowLeft: () => pan(MOVE, 0),
    ArrowRight: () => pan(-MOVE, 0),
    ArrowUp: () => pan(0, MOVE),
    ArrowDown: () => pan(0, -MOVE),
  };
  return (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const step = tool(event) ? () => undefined : steps[event.key];
    if (!step) return;
    event.preventDefault();
    step();
  };
}
