import { Popover, Tooltip } from "radix-ui";
import { type ReactNode, useState } from "react";

import { isReturning } from "./lastFocus";
import { useLongPress } from "./useLongPress";

/** A short explanation on hover or focus; a finger that stays is told too, and then presses nothing. */
export function Hint({ text, children }: { text: ReactNode; children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const press = useLongPress(() => setOpen(true));
  return (
    <Tooltip.Root open={open} onOpenChange={(next) => setOpen(next && !isReturning())}>
      <Tooltip.Trigger asChild {...press}>
        {children}
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={5}
          collisionPadding={8}
          className="z-50 max-w-72 rounded-(--radius) bg-bar px-2.5 py-1.5 text-plain text-on-bar"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}

/** A word that explains itself: on hover, on focus, and on a tap where there is no hover. */
export function Term({ word, meaning, className = "" }: { word: ReactNode; meaning: ReactNode; className?: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          onPointerEnter={(event) => event.pointerType === "mouse" && setOpen(true)}
          onPointerLeave={(event) => event.pointerType === "mouse" && setOpen(false)}
          onFocus={(event) => event.target.matches(":focus-visible") && setOpen(true)}
          onBlur={() => setOpen(false)}
          className={`cursor-help rounded-sm text-left underline decoration-edge decoration-dotted underline-offset-[3px] ${className}`}
        >
          {word}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={5}
          collisionPadding={8}
          aria-label={typeof word === "string" ? word : "What it means"}
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          className="z-50 max-w-72 rounded-(--radius) bg-bar px-2.5 py-1.5 text-plain text-on-bar"
        >
          {meaning}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
