import { X } from "lucide-react";
import { Dialog } from "radix-ui";

const GROUPS: { title: string; keys: [string, string][] }[] = [
  {
    title: "Table",
    keys: [
      ["Arrows, Home, End, Page", "move; with Shift choose a block; with Ctrl to the end"],
      ["Enter, Tab", "keep and go down, go right; with Shift the other way"],
      ["Typing", "replaces the cell; F2 edits it; Escape takes it back"],
      ["Delete", "clears the chosen cells"],
      ["Ctrl+C, Ctrl+X, Ctrl+V", "copy, cut and paste a block"],
      ["Insert, Ctrl+Delete", "insert rows, delete the chosen rows"],
      ["Ctrl+.", "set the chosen readings aside, or take them back"],
      ["Escape, then Tab", "leave the table"],
    ],
  },
  {
    title: "Plot",
    keys: [
      ["+, −", "zoom; also the wheel or two fingers"],
      ["Arrows", "move the view; with “Move a reading” in hand, the chosen reading: with Shift by ten steps"],
      ["Tab", "to the labels of the curves: arrows move one, Delete puts it back"],
      ["Escape", "puts the tool down"],
      ["0", "back to all readings"],
    ],
  },
  {
    title: "Anywhere",
    keys: [
      ["Ctrl+Z, Ctrl+Y", "undo, redo"],
      ["Ctrl+V", "look through a copied table and take it in; a file can be dropped on the window"],
      ["?", "this list"],
    ],
  },
];

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-bar/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[86vh] w-[min(34rem,92vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-(--radius) border border-edge bg-sheet p-5"
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="font-book text-lg font-semibold">Keys</Dialog.Title>
            <Dialog.Close className="icon-button" aria-label="Close">
              <X size={16} />
            </Dialog.Close>
          </div>
          {GROUPS.map(({ title, keys }) => (
            <section key={title} className="mt-3">
              <h3 className="text-[12px] font-semibold text-mute">{title}</h3>
              <dl className="mt-1 grid grid-cols-[11.5rem_1fr] gap-x-3 gap-y-1 text-[13px] max-sm:grid-cols-1">
                {keys.map(([key, does]) => (
                  <div key={key} className="contents">
                    <dt className="font-medium">{key}</dt>
                    <dd className="text-mute max-sm:mb-1">{does}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
