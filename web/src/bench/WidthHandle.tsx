const LEAST = 220;
const MOST = 620;

/** The right edge of the readings: dragged, or moved with the arrow keys, it widens them. */
export function WidthHandle({ width, onWidth }: { width: number; onWidth: (width: number) => void }) {
  const set = (next: number) => onWidth(Math.round(Math.min(MOST, Math.max(LEAST, next))));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the readings"
      aria-valuenow={width}
      aria-valuemin={LEAST}
      aria-valuemax={MOST}
      tabIndex={0}
      className="absolute inset-y-3 right-0.5 w-2 cursor-col-resize touch-none rounded hover:bg-rule max-bench:hidden"
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        if (event.currentTarget.hasPointerCapture(event.pointerId)) set(width + event.movementX);
      }}
      onKeyDown={(event) => {
        if (event.key === "ArrowLeft" || event.key === "ArrowRight") {
          event.preventDefault();
          set(width + (event.key === "ArrowRight" ? 16 : -16));
        }
      }}
    />
  );
}
