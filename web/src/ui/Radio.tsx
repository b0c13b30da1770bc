import type { ReactNode } from "react";

/** One of several choices of which only one holds. */
export function Radio({ name, checked, onPick, children }: { name: string; checked: boolean; onPick: () => void; children: ReactNode }) {
  return (
    <label className="flex items-baseline gap-1.5">
      <input type="radio" name={name} className="translate-y-[2px] accent-pine" checked={checked} onChange={onPick} />
      <span>{children}</span>
    </label>
  );
}
