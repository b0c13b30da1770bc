import { Plus, X } from "lucide-react";
import { useState } from "react";

import type { OwnQuantityWanted } from "../fits/kinds";
import { TakenResult } from "./TakenResult";

export type Known = NonNullable<OwnQuantityWanted["known"]>[number];

const MOST = 8;
const FIELDS = [
  ["symbol", "Symbol", "L", "w-14"],
  ["value", "Value", "1.25", "w-20"],
  ["uncertainty", "Uncertainty", "±0.01", "w-20"],
  ["unit", "Unit", "m", "w-14"],
] as const;

/** Values known beforehand that a formula uses: typed, or taken from another study. */
export function KnownValues({ known, onPut }: { known: Known[]; onPut: (known: Known[]) => void }) {
  const [taking, setTaking] = useState(false);
  const put = (place: number, part: Partial<Known>) => onPut(known.map((one, at) => (at === place ? { ...one, ...part } : one)));
  const full = known.length >= MOST;
  return (
    <fieldset className="grid gap-1">
      <legend className="text-mute">Known values</legend>
      {known.map((one, place) => (
        <div key={place} className="flex flex-wrap items-center gap-1">
          {FIELDS.map(([key, label, example, width]) => (
            <input
              key={key}
              className={`field ${width}`}
              aria-label={`${label} of known value ${place + 1}`}
              placeholder={example}
              maxLength={key === "symbol" ? 20 : key === "unit" ? 40 : 60}
              value={one[key] ?? ""}
              onChange={(event) => put(place, { [key]: event.target.value, ...(key === "value" && { origin: "" }) })}
            />
          ))}
          <button
            type="button"
            className="icon-button"
            aria-label={`Remove known value ${place + 1}`}
            onClick={() => onPut(known.filter((_, at) => at !== place))}
          >
            <X size={13} />
          </button>
          {one.origin && <span className="basis-full text-note text-mute">from {one.origin}</span>}
        </div>
      ))}
      <span className="flex flex-wrap gap-2">
        <button type="button" className="button" disabled={full} onClick={() => onPut([...known, { symbol: "", value: "" }])}>
          <Plus size={13} /> Known value
        </button>
        <button type="button" className="button" disabled={full} aria-expanded={taking} onClick={() => setTaking(!taking)}>
          From another study
        </button>
      </span>
      {taking && (
        <TakenResult
          onTake={(taken) => {
            setTaking(false);
            onPut([...known, taken]);
          }}
        />
      )}
    </fieldset>
  );
}
