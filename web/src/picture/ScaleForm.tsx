import { useChange, useNaming, useStudy } from "../study/context";
import { type Scaling, setView, take, useView } from "../study/view";
import { Radio } from "../ui/Radio";
import { Check } from "../plot/settingFields";
import { PANEL } from "./panel";
import { missing, NAMES, ofKind, scaleChange } from "./scaling";

const KINDS: [Scaling["kind"], string][] = [
  ["none", "None"],
  ["length", "A known length"],
  ["axes", "Two marks on each axis"],
];
const set = (scaling: Scaling) => setView({ scaling });

/** What the pixels of the picture mean, over the plot while its marks are pressed. */
export function ScaleForm() {
  const scaling = useView((view) => view.scaling);
  const change = useChange();
  const { row_count } = useStudy();
  if (!scaling) return null;
  const open = missing(scaling);
  const apply = () => {
    if (open) return;
    change(scaleChange(scaling));
    setView({ domain: null });
    take("look");
  };
  return (
    <form
      aria-label="Scale of the picture"
      className={PANEL}
      onSubmit={(event) => {
        event.preventDefault();
        apply();
      }}
    >
      <fieldset className="flex w-full flex-wrap gap-x-4 gap-y-1">
        <legend className="sr-only">Scale of the picture</legend>
        {KINDS.map(([kind, word]) => (
          <Radio key={kind} name="scale" checked={scaling.kind === kind} onPick={() => set(ofKind(scaling, kind))}>
            {word}
          </Radio>
        ))}
      </fieldset>
      <Marks scaling={scaling} />
      {scaling.kind === "axes" && <Logs scaling={scaling} />}
      {row_count > 0 && (
        <Check checked={scaling.follow} onChange={(follow) => set({ ...scaling, follow })}>
          Readings keep their place on the picture
        </Check>
      )}
      <p role="status" className="min-w-32 grow text-note text-mute">
        {open}
      </p>
      <div className="ml-auto flex gap-1.5">
        <button type="button" className="button" onClick={() => take("look")}>
          Cancel
        </button>
        <button className="button-main" aria-disabled={open !== ""}>
          Apply
        </button>
      </div>
    </form>
  );
}

/** Each mark: where it is pressed, and its value. */
function Marks({ scaling }: { scaling: Scaling }) {
  const naming = useNaming();
  const { kind, places, values, next } = scaling;
  const type = (i: number, text: string) => set({ ...scaling, values: values.map((value, at) => (at === i ? text : value)) });
  const { columns } = useStudy();
  const over = (role: "x" | "y") => columns.find((column) => column.role === role)?.over || naming[role];
  const hint = (i: number) => (kind === "length" ? "length" : over(i < 2 ? "x" : "y"));
  return (
    <div className="grid w-full grid-cols-2 gap-x-5 gap-y-1 empty:hidden max-sm:grid-cols-1">
      {NAMES[kind].map((name, i) => (
        <div key={name} className="flex items-center justify-between gap-2">
          <button
            type="button"
            className="button !h-[26px] !px-1.5 aria-pressed:bg-lichen aria-pressed:text-on-lichen"
            aria-pressed={next === i}
            aria-label={`${name[0]!.toUpperCase()}${name.slice(1)}: ${places[i] ? "press another place" : "press its place"}`}
            onClick={() => {
              take("mark");
              set({ ...scaling, next: i });
            }}
          >
            <span className={places[i] ? "text-pine" : "text-mute"} aria-hidden="true">
              {places[i] ? "✓" : "+"}
            </span>
            {name}
          </button>
          {!(kind === "length" && i === 0) && (
            <input
              className="field !h-[26px] w-20 text-right"
              aria-label={kind === "length" ? "Length between both ends" : `Value of ${name}`}
              placeholder={hint(i)}
              maxLength={60}
              value={values[i] ?? ""}
              onChange={(event) => type(i, event.target.value)}
            />
          )}
        </div>
      ))}
    </div>
  );
}

function Logs({ scaling }: { scaling: Scaling }) {
  const naming = useNaming();
  return (
    <div className="flex gap-4">
      {(["x", "y"] as const).map((axis) => (
        <Check key={axis} checked={scaling[`log_${axis}`]} onChange={(on) => set({ ...scaling, [`log_${axis}`]: on })}>
          <i className="font-book">{naming[axis]}</i> logarithmic
        </Check>
      ))}
    </div>
  );
}
