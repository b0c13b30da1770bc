import { Popover } from "radix-ui";
import { useState } from "react";

import type { LaidPicture, Picture } from "../api/client";
import { NumberField, Slide } from "../plot/settingFields";
import { useChange, useNaming, useStudy } from "../study/context";
import { EditableText } from "../ui/EditableText";
import { Hint } from "../ui/Hint";
import { Measured } from "./Measured";
import { edgesOf } from "./edges";

type Put = (part: Partial<LaidPicture>) => void;

/** Everything else that is kept of the picture: how bright, where it lies, whose it is, how sure a pick is, what was measured. */
export function PictureForm({ picture }: { picture: Picture }) {
  const change = useChange();
  const { laid } = picture;
  const put: Put = (part) => change({ kind: "put_picture", picture: { ...laid, ...part } });
  return (
    <Popover.Root>
      <Hint text="Brightness, place, credit and description of the picture; lengths measured on it">
        <Popover.Trigger asChild>
          <button className="button !h-[26px] !px-1.5 !text-note">Settings</button>
        </Popover.Trigger>
      </Hint>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="floating max-h-[80vh] w-80 overflow-auto"
          aria-label="Settings of the picture"
        >
          <div className="grid gap-3">
            <div className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5">
              <Slide label="Brightness" value={laid.shine ?? 0.75} low={0.1} high={1} onKeep={(shine) => put({ shine })} />
            </div>
            <Place laid={laid} put={put} />
            <Credit laid={laid} put={put} />
            <PickError picture={picture} put={put} />
            <Limit picture={picture} />
            <Measured picture={picture} put={put} />
            <button className="button justify-self-end" onClick={() => change({ kind: "put_picture", picture: null })}>
              Remove the picture
            </button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const PLACES = { x: "Middle, x", y: "Middle, y", width: "Width", height: "Height", turn: "Turned by (°)" };

function Place({ laid, put }: { laid: LaidPicture; put: Put }) {
  const [problem, setProblem] = useState("");
  const marked = Boolean(laid.scale?.y_marks);
  if (marked || laid.locked)
    return (
      <p className="text-note text-mute">
        {marked ? "The marks on its axes say where the picture lies." : "The picture is locked: unlock it to move it."}
      </p>
    );
  // A known length says how large it is.
  const names = (["x", "y", "width", "height", "turn"] as const).filter((name) => !laid.scale || (name !== "width" && name !== "height"));
  return (
    <fieldset className="grid grid-cols-[1fr_7rem] items-center gap-x-3 gap-y-1">
      <legend className="mb-1 font-semibold">Place, in the numbers of the table</legend>
      {names.map((name) => (
        <label key={name} className="contents">
          <span className="text-mute">{PLACES[name]}</span>
          <NumberField
            label={PLACES[name]}
            value={Number((laid.place[name] ?? 0).toPrecision(6))}
            clock=""
            problemOf={(value) => ((name === "width" || name === "height") && !(value > 0) ? "It is above zero." : "")}
            onProblem={setProblem}
            onKeep={(value) => value !== null && put({ place: { ...laid.place, [name]: value } })}
          />
        </label>
      ))}
      <p role="alert" className="col-span-2 text-amber empty:hidden">
        {problem}
      </p>
    </fieldset>
  );
}

function Credit({ laid, put }: { laid: LaidPicture; put: Put }) {
  const fields = [
    ["Credit", "credit", "whose picture it is"],
    ["Licence", "licence", "under what terms"],
    ["Description", "description", "what it shows, for those who cannot see it"],
  ] as const;
  return (
    <fieldset className="grid gap-1">
      <legend className="mb-1 flex w-full items-center justify-between font-semibold">
        Printed under the figure
        {!laid.credit && (
          <button className="button !h-[24px] !text-note font-normal" onClick={() => put({ credit: "own work" })}>
            It is my own work
          </button>
        )}
      </legend>
      {fields.map(([label, name, placeholder]) => (
        <div key={name} className="grid grid-cols-[5.5rem_1fr] items-start gap-2">
          <span className="pt-1 text-mute" aria-hidden="true">
            {label}
          </span>
          <EditableText
            value={laid[name] ?? ""}
            label={label}
            placeholder={placeholder}
            longest={name === "description" ? 1000 : 200}
            lines={name === "description"}
            className="field !h-auto min-h-[27px] w-full py-0.5"
            onCommit={(text) => put({ [name]: text })}
          />
        </div>
      ))}
    </fieldset>
  );
}

/** By how many pixels a pick may be off, and that as the uncertainty of both columns. */
function PickError({ picture, put }: { picture: Picture; put: Put }) {
  const { columns } = useStudy();
  const naming = useNaming();
  const change = useChange();
  const [problem, setProblem] = useState("");
  const typed = (["x", "y"] as const).flatMap((role) => {
    const column = columns.find((one) => one.role === role);
    const uncertainty = picture[`${role}_error`];
    return column && uncertainty ? [{ key: column.key, role, uncertainty, over: column.over }] : [];
  });
  return (
    <fieldset className="grid gap-1">
      <legend className="mb-1 font-semibold">Uncertainty of a pick</legend>
      <label className="grid grid-cols-[1fr_7rem] items-center gap-3">
        <span className="text-mute">Standard uncertainty in pixels</span>
        <NumberField
          label="Standard uncertainty of a pick in pixels"
          value={picture.laid.pick_error ?? 1}
          clock=""
          problemOf={(value) => (value < 0 || value > 100 ? "It is from 0 to 100." : "")}
          onProblem={setProblem}
          onKeep={(pick_error) => put({ pick_error: pick_error ?? 1 })}
        />
      </label>
      <p role="alert" className="text-amber empty:hidden">
        {problem}
      </p>
      {typed.map(({ key, role, uncertainty, over }) => (
        <p key={role} className="flex items-center justify-between gap-2 text-note text-mute">
          <span>
            {naming[role]}: {uncertainty} {uncertainty.endsWith("%") ? "of the value" : over}
          </span>
          <button className="button !h-[24px] !text-note" onClick={() => change({ kind: "edit_column", key, uncertainty })}>
            Use for {naming[role]}
          </button>
        </p>
      ))}
    </fieldset>
  );
}

/** The edges of the picture as limits of sense of x: beyond them nothing is predicted without saying so. */
function Limit({ picture }: { picture: Picture }) {
  const study = useStudy();
  const change = useChange();
  const edges = edgesOf(picture, study);
  const column = study.columns.find(({ role }) => role === "x");
  if (!edges || !column) return null;
  const [lowest, highest] = edges;
  const limited = column.limits_why === WHY;
  const put = limited ? { lowest: "", highest: "", limits_why: "" } : { lowest, highest, limits_why: WHY };
  return (
    <button className="button justify-self-start" onClick={() => change({ kind: "edit_column", key: column.key, ...put })}>
      {limited ? "Let curves go beyond the picture" : "Limit curves to the picture"}
    </button>
  );
}

const WHY = "the picture's edge";
