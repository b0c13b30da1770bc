/** The name with its ridge line. */
export function Mark() {
  return (
    <span className="inline-flex items-center gap-2">
      <svg viewBox="0 0 32 22" width="30" height="20" aria-hidden="true">
        <path
          d="M2 19l8-13 6 7 5-8 8 14"
          fill="none"
          stroke="var(--color-lichen)"
          strokeWidth="2.4"
          strokeLinejoin="round"
          strokeLinecap="round"
        />
        <circle cx="10" cy="6" r="2.4" fill="#fcfbf7" />
        <circle cx="21" cy="5" r="2.4" fill="#fcfbf7" />
      </svg>
      <span className="font-book text-lead font-semibold">Ridge</span>
    </span>
  );
}
