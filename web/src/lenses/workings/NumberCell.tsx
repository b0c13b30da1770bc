import type { WorkingStep } from "../../api/client";

type Cell = NonNullable<NonNullable<WorkingStep["grid"]>["cells"][number][number]>;

/** A number as it is written by hand: a fraction stands on its line. What stands behind a decimal is told on hover. */
export function NumberCell({ cell }: { cell: Cell }) {
  if (!cell.top) return <span title={cell.exact ? `exactly ${cell.exact}` : undefined}>{cell.text}</span>;
  return (
    <>
      <span className="sr-only">{cell.text}</span>
      <span aria-hidden="true" className="inline-flex items-center gap-0.5">
        {cell.minus && "−"}
        <span className="inline-flex flex-col text-center text-[0.86em] leading-[1.25]">
          <span className="border-b border-current px-0.5">{cell.top}</span>
          <span className="px-0.5">{cell.bottom}</span>
        </span>
      </span>
    </>
  );
}
