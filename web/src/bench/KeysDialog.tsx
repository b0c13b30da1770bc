import { Sheet } from "../ui/Sheet";

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
      ["Tab", "to the labels of the curves, the squares of one set by hand and the asked value: arrows move them, with Shift by ten; Delete puts a label back"],
      ["Escape", "puts the tool down"],
      ["0", "back to all readings"],
    ],
  },
  {
    title: "Formula",
    keys: [
      ["Tab, arrows", "take the name that is offered, or choose another one"],
      ["Enter", "keep the formula and fit it; Escape takes it back"],
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
    <Sheet title="Keys" width="w-[min(34rem,92vw)]" open={open} onClose={() => onOpenChange(false)}>
          {GROUPS.map(({ title, keys }) => (
            <section key={title}>
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
    </Sheet>
  );
}
