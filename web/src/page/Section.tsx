import type { ReactNode } from "react";

interface Props {
  title: string;
  aside?: ReactNode;
  /** Whether it holds nothing that belongs on paper. */
  empty?: boolean;
  children: ReactNode;
}

/** A part of the page under its small heading and hairline. */
export function Section({ title, aside, empty, children }: Props) {
  return (
    <section className={`mt-4 ${empty ? "no-print" : ""}`} aria-label={title}>
      <div className="flex items-center gap-3">
        <h2 className="text-note font-semibold text-mute">{title}</h2>
        <span className="h-px grow bg-rule" />
        {aside}
      </div>
      <div className="mt-1.5">{children}</div>
    </section>
  );
}
