import type { Box } from "./useBoxTool";

/** The rectangle that is being dragged. */
export function DraggedBox({ box: { x0, y0, x1, y1 } }: { box: Box }) {
  return (
    <rect
      data-testid="box"
      x={Math.min(x0, x1)}
      y={Math.min(y0, y1)}
      width={Math.abs(x1 - x0)}
      height={Math.abs(y1 - y0)}
      fill="var(--color-lichen)"
      fillOpacity="0.25"
      stroke="var(--color-ink)"
      strokeDasharray="4 3"
    />
  );
}
