import { Dices } from "lucide-react";
import { useState } from "react";

import type { Resampling } from "../api/client";
import { Swatch } from "../fits/Swatch";
import type { Resample } from "../study/view";

const KINDS: Record<Resample["kind"], string> = { shares: "random subsets", parts: "k-fold", in_turn: "leave-one-out" };
const MEANINGS: Record<Resample["kind"], string> = {
  shares: "Each time another random subset of the readings is fitted, and the rest is held out.",
  parts: "The readings are divided into folds, and each fold is held out in turn (k-fold cross-validation).",
  in_turn: "Each reading is held out in turn (leave-one-out cross-validation).",
};
/** How readings are left out, by which seed, and which models are tried. */
export function ResampleControls({
  chosen,
  put,
  data,
}: {
  chosen: Resample;
  put: (part: Partial<Resample>) => void;
  data: Resampling | null;
}) {
  const { kind, share, times, parts, seed, together } = chosen;
  const fits = data?.letters ?? [];
  const tried = chosen.letters ?? (data?.fits.map((fit) => fit.letter).join("") || fits[0] || "");
  const toggle = (letter: string) => {
    const next = tried.includes(letter) ? tried.replace(letter, "") : [...tried, letter].sort().join("");
    if (next) put({ letters: next });
  };
  return (
    <div className="grid gap-2 border border-rule bg-sheet px-4 py-2.5 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <label className="flex items-center gap-1.5">
          <span className="text-mute">Fit to</span>
          <select
            className="field"
            aria-label="How readings are held out"
            value={kind}
            onChange={(event) => put({ kind: event.target.value as Resample["kind"] })}
          >
            {Object.entries(KINDS).map(([name, word]) => (
              <option key={name} value={name}>
                {word}
              </option>
            ))}
          </select>
        </label>
        {kind === "shares" && (
          <>
            <WholeNumber
              label="of"
              after="% of the readings,"
              name="Size of the subset in %"
              value={share}
              low={10}
              high={90}
              onPut={(value) => put({ share: value })}
            />
            <WholeNumber
              label=""
              after="times"
              name="Number of subsets"
              value={times}
              low={4}
              high={25}
              onPut={(value) => put({ times: value })}
            />
          </>
        )}
        {kind === "parts" && (
          <WholeNumber
            label="in"
            after="folds"
            name="Number of folds"
            value={parts}
            low={2}
            high={25}
            onPut={(value) => put({ parts: value })}
          />
        )}
        {kind !== "in_turn" && (
          <span className="ml-auto flex items-center gap-2">
            <WholeNumber label="seed" after="" name="Seed" value={seed} low={0} high={999_999} onPut={(value) => put({ seed: value })} />
            <button className="button" onClick={() => put({ seed: (seed + 1) % 1_000_000 })}>
              <Dices size={15} aria-hidden /> Draw again
            </button>
          </span>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
        {fits.length > 1 && (
          <fieldset className="flex flex-wrap items-center gap-x-3">
            <legend className="float-left mr-2 text-mute">Models</legend>
            {fits.map((letter) => (
              <label key={letter} className="flex items-center gap-1">
                <input type="checkbox" className="accent-pine" checked={tried.includes(letter)} onChange={() => toggle(letter)} />
                <Swatch letter={letter} />
              </label>
            ))}
          </fieldset>
        )}
        <label className="flex items-center gap-1.5">
          <input type="checkbox" className="accent-pine" checked={together} onChange={(event) => put({ together: event.target.checked })} />
          all curves over each other
        </label>
        <span className="text-mute">{MEANINGS[kind]}</span>
      </div>
    </div>
  );
}

/** A whole number that is taken when it is left or entered; outside its limits it goes back to what it was. */
function WholeNumber({
  label,
  after,
  name,
  value,
  low,
  high,
  onPut,
}: {
  label: string;
  after: string;
  name: string;
  value: number;
  low: number;
  high: number;
  onPut: (value: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    const typed = Number(text);
    if (text !== null && /^\d+$/.test(text.trim()) && typed >= low && typed <= high) onPut(typed);
    setText(null);
  };
  const wrong = text !== null && !(/^\d+$/.test(text.trim()) && Number(text) >= low && Number(text) <= high);
  return (
    <label className="flex items-center gap-1.5 text-mute">
      {label}
      <input
        className={`field numerals text-right ${high > 999 ? "w-20" : "w-14"}`}
        inputMode="numeric"
        aria-label={name}
        aria-invalid={wrong}
        title={`From ${low} to ${high}`}
        value={text ?? String(value)}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          if (event.key === "Escape") setText(null);
        }}
      />
      {after}
      {wrong && (
        <span role="alert" className="text-amber">
          {low} to {high}
        </span>
      )}
    </label>
  );
}
