import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";

import type { HeldColumn } from "../study/changes";
import { useLooking } from "../study/context";
import { Symbol } from "../ui/Symbol";
import { ColumnForm } from "./ColumnForm";
import { ROLES } from "./roles";

const NAMELESS: Record<string, string> = {
  x: "x column",
  y: "y column",
  y_error: "uncertainty",
  x_error: "uncertainty",
  weight: "weight",
  count: "repeats",
  series: "series",
  other: "label",
};
/** What stands for a column without a symbol. */
const SHORT: Record<string, ReactNode> = { x: <Symbol text="x" />, y: <Symbol text="y" />, y_error: "±", x_error: "±", count: "×" };

/** A column's symbol, unit and name; pressing it opens them for change. */
export function ColumnHeader({ column }: { column: HeldColumn }) {
  const [open, setOpen] = useState(false);
  const looking = useLooking();
  const word = ROLES.find(([role]) => role === column.role)?.[1] ?? column.role;
  if (looking) {
    return (
      <span role="columnheader" className="border-l border-rule/70 px-2 py-1 text-right leading-tight">
        <Heading column={column} />
      </span>
    );
  }
  return (
    <span role="columnheader" className="border-l border-rule/70">
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <button
            aria-label={`Column ${column.name || column.symbol || word}, ${word}: change name, symbol, unit, role or formula`}
            title={column.problem || undefined}
            className="block size-full px-2 py-1 text-right leading-tight hover:bg-well"
          >
            <Heading column={column} />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            className="floating max-h-[82vh] w-80 overflow-auto"
            aria-label={`Column ${column.name || word}`}
          >
            <ColumnForm column={column} onDone={() => setOpen(false)} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

function Heading({ column }: { column: HeldColumn }) {
  return (
    <>
      <span className="block truncate">
        {column.problem && <span className="float-left font-semibold text-amber">!</span>}
        {column.symbol ? <Symbol text={column.symbol} /> : <span className="text-mute">{SHORT[column.role]}</span>}
        {column.over && <span> / {column.over}</span>}
        {!column.symbol && !column.over && " "}
      </span>
      <span className="line-clamp-2 text-note break-words text-mute">
        {column.formula ? `= ${column.formula}` : column.name || NAMELESS[column.role]}
        {column.uncertainty && givenUncertainty(column.uncertainty)}
      </span>
    </>
  );
}

/** As it was given; a plain number or percentage stands for a standard uncertainty. */
const givenUncertainty = (text: string) => (/^[\d.,\s]+%?$/.test(text) ? ` ± ${text}` : ` (${text})`);
