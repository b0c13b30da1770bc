const HALF = 22;

/** The residual of a reading: a bar to the right for above, to the left for below. */
export function OffBar({ share, hollow }: { share: number | null; hollow: boolean }) {
  if (share === null) return <span className="sr-only">no residual</span>;
  const length = Math.min(Math.abs(share), 1) * HALF;
  const clipped = Math.abs(share) > 1;
  const side = share > 0 ? "above" : "below";
  return (
    <svg viewBox="0 0 56 26" className="block size-full" role="img" aria-label={share === 0 ? "on the curve" : `${side} the curve`}>
      <line x1="28" x2="28" y1="7" y2="19" stroke="var(--color-edge)" />
      <rect
        x={share > 0 ? 28 : 28 - length}
        y="10"
        width={length}
        height="6"
        fill={hollow ? "var(--color-sheet)" : "var(--color-pine)"}
        stroke={hollow ? "var(--color-mute)" : "none"}
      />
      {clipped && <path d={share > 0 ? "M51 9l4 4-4 4" : "M5 9l-4 4 4 4"} fill="none" stroke="var(--color-mute)" />}
    </svg>
  );
}
