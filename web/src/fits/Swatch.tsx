import { lookOf } from "./looks";

/** A fit's letter with a stretch of its line. */
export function Swatch({ letter }: { letter: string }) {
  const { color, dash } = lookOf(letter);
  return (
    <span className="inline-flex items-center gap-1.5">
      <span className="font-semibold" style={{ color }}>
        {letter}
      </span>
      <svg width="26" height="8" aria-hidden="true">
        <line x1="1" x2="25" y1="4" y2="4" stroke={color} strokeWidth="2.4" strokeDasharray={dash} />
      </svg>
    </span>
  );
}
