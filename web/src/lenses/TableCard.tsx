import type { ReactNode } from "react";

import { CopyTable } from "../ui/CopyTable";

interface Props {
  title: string;
  /** What is scrolled sideways where it is narrow, for those who cannot see it. */
  label: string;
  copy: { label: string; what: string; rows: () => string[][] };
  /** A choice beside the title. */
  control?: ReactNode;
  /** What is said below the table. */
  below?: ReactNode;
  children: ReactNode;
}

/** A table of a lens with its title and a way to copy it; `children` are its head and body. */
export function TableCard({ title, label, copy, control, below, children }: Props) {
  return (
    <div className="border border-rule bg-sheet">
      <div className="flex items-center justify-between px-2.5 py-1">
        <h2 className="text-note font-semibold text-mute">{title}</h2>
        <span className="flex items-center gap-2">
          {control}
          <CopyTable {...copy} />
        </span>
      </div>
      <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={label}>
        <table className="numerals w-full text-right text-plain">
          <caption className="sr-only">{title}</caption>
          {children}
        </table>
      </div>
      {below}
    </div>
  );
}
