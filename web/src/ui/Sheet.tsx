import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ReactNode, useRef } from "react";

import { returnFocus } from "./lastFocus";

interface Props {
  title: string;
  /** A line under the title. */
  note?: ReactNode;
  /** Classes that give the width. */
  width: string;
  open?: boolean;
  onClose: () => void;
  children: ReactNode;
}

/** A dialog over the page: its title, a way to close it, and what it holds. */
export function Sheet({ title, note, width, open = true, onClose, children }: Props) {
  const opener = useRef<HTMLElement | null>(null);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-bar/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            opener.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            returnFocus(opener.current);
          }}
          className={`fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-(--radius) border border-edge bg-sheet p-5 text-plain ${width}`}
        >
          <div className="flex items-start justify-between gap-3">
            <div className="min-w-0">
              <Dialog.Title className="truncate font-book text-lead font-semibold">{title}</Dialog.Title>
              {note}
            </div>
            <Dialog.Close className="icon-button" aria-label="Close">
              <X size={16} />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
