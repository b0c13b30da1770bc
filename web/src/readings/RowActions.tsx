import { Popover } from "radix-ui";
import { useState } from "react";

import { useStudy } from "../study/context";
import { litRows, useView } from "../study/view";
import type { GridControl } from "./useGrid";

/** What can be done with the chosen rows. */
export function RowActions({ grid }: { grid: GridControl }) {
  const study = useStudy();
  const lit = litRows(useView((view) => view.selection));
  if (!lit || lit[0] >= study.row_count) {
    return <p className="flex min-h-[28px] items-center text-[12.5px] text-mute">Choose a reading to see it everywhere.</p>;
  }
  const aside = study.aside.filter(({ row }) => row >= lit[0] && row <= lit[1]);
  const count = Math.min(lit[1], study.row_count - 1) - lit[0] + 1;
  const name = count === 1 ? `Row ${lit[0] + 1}` : `Rows ${lit[0] + 1} to ${lit[0] + count}`;
  return (
    <div role="group" aria-label={`${name}: what to do`} className="flex flex-wrap items-center gap-1.5">
      <span className="numerals mr-0.5 text-[12.5px] text-mute">{name}</span>
      {aside.length < count && <SetAside onKeep={(reason) => grid.mark(reason)} />}
      {aside.length > 0 && (
        <button className="button" onClick={() => grid.mark(null)}>
          Take back
        </button>
      )}
      <button className="button" onClick={grid.insertRows}>
        Insert
      </button>
      <button className="button" onClick={grid.deleteRows}>
        Delete
      </button>
    </div>
  );
}

function SetAside({ onKeep }: { onKeep: (reason: string) => void }) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button className="button">Set aside</button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" side="top" sideOffset={4} collisionPadding={8} className="floating w-72" aria-label="Set aside">
          <form
            className="grid gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              setOpen(false);
              onKeep(reason.trim());
              setReason("");
            }}
          >
            <label className="grid gap-1">
              Why is it set aside?
              <input
                className="field"
                value={reason}
                maxLength={200}
                placeholder="the line slipped"
                onChange={(event) => setReason(event.target.value)}
              />
            </label>
            <p className="text-[12px] text-mute">It stays in the table, drawn hollow, and no fit uses it.</p>
            <button className="button-main justify-self-end">Set aside</button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
