import { X } from "lucide-react";

import type { LaidPicture, Picture } from "../api/client";
import { firstFreeRow } from "../plot/moving";
import { useChange, useNaming, useStudy } from "../study/context";
import { setView } from "../study/view";
import { EditableText } from "../ui/EditableText";

interface Props {
  picture: Picture;
  put: (part: Partial<LaidPicture>) => void;
}

/** Lengths and angles that were measured on the picture, and what can be done with a length. */
export function Measured({ picture, put }: Props) {
  const study = useStudy();
  const naming = useNaming();
  const change = useChange();
  const held = picture.laid.measured ?? [];
  if (!held.length) return null;
  const y = study.columns.find(({ role }) => role === "y");
  const unknown = (text: string) =>
    y && change({ kind: "write_cells", what: "write", cells: [{ row: firstFreeRow(study), key: y.key, text }] });
  const ask = (given: string) => setView(({ question }) => ({ question: { ...question, direction: "y_at_x", given } }));
  return (
    <fieldset className="grid gap-1.5">
      <legend className="mb-1 font-semibold">Measured on the picture</legend>
      {held.map((one, i) => {
        const said = picture.measured[i];
        return (
          <div key={i} className="grid gap-0.5">
            <div className="flex items-center gap-1.5">
              <EditableText
                value={one.name ?? ""}
                label={`Name of measurement ${i + 1}`}
                placeholder={one.points.length === 2 ? "length" : "angle"}
                longest={60}
                className="field !h-[26px] w-24 !py-0"
                onCommit={(name) => put({ measured: held.map((other, at) => (at === i ? { ...other, name } : other)) })}
              />
              <span className="numerals min-w-0 grow">{said?.text || said?.problem}</span>
              <button
                className="icon-button"
                aria-label={`Remove measurement ${i + 1}`}
                onClick={() => put({ measured: held.filter((_, at) => at !== i) })}
              >
                <X size={14} />
              </button>
            </div>
            {said?.asked && (
              <div className="flex gap-1.5">
                <button className="button !h-[24px] !text-note" disabled={Boolean(y?.formula)} onClick={() => unknown(said.typed ?? "")}>
                  Add as {naming.y} without {naming.x}
                </button>
                <button className="button !h-[24px] !text-note" onClick={() => ask(said.asked ?? "")}>
                  Ask at this {naming.x}
                </button>
              </div>
            )}
          </div>
        );
      })}
      <p className="text-note text-mute">± is a standard uncertainty, from that of a pick.</p>
    </fieldset>
  );
}
