import { Sheet } from "../ui/Sheet";

const GROUPS: { title: string; keys: [string, string][] }[] = [
  {
    title: "Table",
    keys: [
      ["Arrows, Home, End, Page", "move; with Shift select a block; with Ctrl to the end"],
      ["Enter, Tab", "accept and go down, go right; with Shift the other way"],
      ["Typing", "replaces the cell; F2 edits it; Escape restores it"],
      ["Delete", "clears the selected cells"],
      ["Ctrl+C, Ctrl+X, Ctrl+V", "copy, cut and paste a block"],
      ["Ctrl+D", "fill down: the first of the selected rows into the others"],
      ["Insert, Ctrl+Delete", "insert rows, delete the selected rows"],
      ["Ctrl+.", "set the selected readings aside, or use them again"],
      ["Escape, then Tab", "leave the table"],
    ],
  },
  {
    title: "Plot",
    keys: [
      ["+, −", "zoom; also the wheel or two fingers"],
      ["Arrows", "move the view; with the tool “Move a reading”, the selected reading; with Shift by ten steps"],
      [
        "Tab",
        "to the labels of the curves, the squares of one set by hand and the asked value: arrows move them, with Shift by ten; Delete resets a label",
      ],
      ["P", "show or hide the picture under the plot"],
      ["Arrows, Enter", "with a tool that picks, point by pixels and pick; with Shift by ten"],
      ["Escape", "back to “Pan and select”"],
      ["0", "back to all readings"],
    ],
  },
  {
    title: "Formula",
    keys: [
      ["Tab, arrows", "accept the name that is offered, or choose another one"],
      ["Enter", "apply the formula and fit it; Escape restores it"],
    ],
  },
  {
    title: "Workings",
    keys: [
      ["N", "uncover the next line"],
      ["Arrows", "go from number to number of a table or a matrix, and see where each comes from"],
    ],
  },
  {
    title: "Anywhere",
    keys: [
      ["Alt+1 … Alt+6", "plot, residuals, compare, resample, workings, report"],
      ["Ctrl+Z, Ctrl+Y", "undo, redo"],
      ["Ctrl+V", "preview and import a copied table; a file can be dropped on the window"],
      ["?", "this list"],
    ],
  },
];

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Sheet title="Keyboard shortcuts" width="w-[min(34rem,92vw)]" open={open} onClose={() => onOpenChange(false)}>
      {GROUPS.map(({ title, keys }) => (
        <section key={title}>
          <h3 className="text-note font-semibold text-mute">{title}</h3>
          <dl className="mt-1 grid grid-cols-[11.5rem_1fr] gap-x-3 gap-y-1 text-plain max-sm:grid-cols-1">
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
