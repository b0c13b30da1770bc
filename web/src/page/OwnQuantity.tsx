import { Crosshair, Pencil, X } from "lucide-react";
import { type FormEvent, useState } from "react";

import type { ComputedFit, OwnQuantityWanted } from "../fits/kinds";
import { useLooking } from "../study/context";
import { measureFor } from "../study/view";
import { KnownValues } from "./KnownValues";
import { NextPlace } from "./NextPlace";

type Found = ComputedFit["derived"][number];

interface Props {
  /** How the API names it among the quantities of its fit. */
  of: string;
  wanted: OwnQuantityWanted;
  /** What came of it; undefined while it is being thought of. */
  found: Found | undefined;
  onPut: (wanted: OwnQuantityWanted) => void;
  onRemove: () => void;
}

/** A quantity of one's own with its uncertainty, what contributes to that, and whether it agrees with an accepted value. */
export function OwnQuantity({ of, wanted, found, onPut, onRemove }: Props) {
  const looking = useLooking();
  const [editing, setEditing] = useState(!wanted.formula);
  if (editing)
    return (
      <Form
        wanted={wanted}
        onPut={(next) => {
          setEditing(false);
          onPut(next);
        }}
        onCancel={() => (wanted.formula ? setEditing(false) : onRemove())}
      />
    );
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-2 text-plain">
      <p
        className="numerals flex flex-wrap items-baseline justify-between gap-x-3"
        title={found?.full ? `In full: ${found.full}` : undefined}
      >
        <span className="font-book text-mute">
          {wanted.name} = {wanted.formula}
        </span>
        <span>
          {found?.text}
          {found?.simpler && <Simpler unit={found.simpler} onTake={(unit) => onPut({ ...wanted, unit })} />}
        </span>
      </p>
      <span className={looking ? "hidden" : "no-print flex"}>
        <button className="icon-button" aria-label={`Where to measure next for ${wanted.name}`} onClick={() => measureFor(of)}>
          <Crosshair size={13} />
        </button>
        <button className="icon-button" aria-label={`Change ${wanted.name}`} onClick={() => setEditing(true)}>
          <Pencil size={13} />
        </button>
        <button className="icon-button" aria-label={`Remove ${wanted.name}`} onClick={onRemove}>
          <X size={13} />
        </button>
      </span>
      {found && <Said found={found} />}
      <div className="col-span-2">
        <NextPlace of={of} />
      </div>
    </li>
  );
}

/** A simpler unit for what has several of one kind: m·N/mm is N. */
function Simpler({ unit, onTake }: { unit: string; onTake: (unit: string) => void }) {
  return (
    <button className="no-print ml-1.5 rounded-sm text-note text-mute underline decoration-dotted" onClick={() => onTake(unit)}>
      {unit === "1" ? "as a plain number" : `in ${unit}`}
    </button>
  );
}

function Said({ found }: { found: Found }) {
  return (
    <div className="col-span-2 grid gap-0.5 text-note">
      {found.problem && <p className="text-amber">{found.problem}</p>}
      {found.remark && <p className="text-amber">{found.remark}</p>}
      {found.agreement && <p>{found.agreement}</p>}
      {(found.budget?.length ?? 0) > 1 && (
        <table className="w-full max-w-64">
          <caption className="sr-only">What contributes to the uncertainty of {found.name}</caption>
          <tbody>
            {found.budget?.map((share) => (
              <tr key={share.source}>
                <th scope="row" className="w-16 text-left font-normal text-mute">
                  {share.source}
                </th>
                <td className="w-14 pr-2 text-right numerals">{share.text}</td>
                <td aria-hidden="true">
                  <svg width="100%" height="6" className="block">
                    <rect width={`${Math.max(0, Math.min(100, share.share * 100))}%`} height="6" fill="var(--color-pine)" />
                  </svg>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

const FIELDS = [
  ["name", "Name", "g"],
  ["formula", "Formula", "4*pi^2/m"],
  ["accepted", "Accepted value, if any", ""],
  ["accepted_error", "its standard uncertainty", ""],
  ["unit", "Unit, if another", "rpm"],
] as const;

function Form({
  wanted,
  onPut,
  onCancel,
}: {
  wanted: OwnQuantityWanted;
  onPut: (wanted: OwnQuantityWanted) => void;
  onCancel: () => void;
}) {
  const [draft, setDraft] = useState({ accepted: "", accepted_error: "", unit: "", ...wanted });
  const known = draft.known ?? [];
  const whole =
    draft.name.trim() !== "" && draft.formula.trim() !== "" && known.every((one) => one.symbol.trim() !== "" && one.value.trim() !== "");
  const onSubmit = (event: FormEvent) => {
    event.preventDefault();
    if (whole) onPut(draft);
  };
  return (
    <form
      className="no-print mt-1 grid gap-1.5 border border-rule px-2 py-1.5 text-plain"
      onSubmit={onSubmit}
      onKeyDown={(event) => event.key === "Escape" && onCancel()}
    >
      {FIELDS.map(([key, label, example], place) => (
        <label key={key} className="grid grid-cols-[8.5rem_1fr] items-center gap-2 text-mute">
          {label}
          <input
            className="field min-w-0"
            autoFocus={place === 0}
            placeholder={example}
            maxLength={key === "formula" ? 500 : key === "unit" ? 40 : 60}
            value={draft[key]}
            onChange={(event) => setDraft({ ...draft, [key]: event.target.value })}
          />
        </label>
      ))}
      <KnownValues known={known} onPut={(next) => setDraft({ ...draft, known: next })} />
      <p className="text-note text-mute">
        Parameters by their letters, those of other fits as B_m; answers by a name such as t_half; the mean of a column as mean_h; constants
        such as c_light, h_planck, G_newton.
      </p>
      <span className="flex gap-2">
        <button className="button" type="submit" disabled={!whole}>
          Apply
        </button>
        <button className="button" type="button" onClick={onCancel}>
          Cancel
        </button>
      </span>
    </form>
  );
}
