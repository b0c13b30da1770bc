import { Dices } from "lucide-react";

import type { Resampling } from "../../api/client";
import { Swatch } from "../../fits/Swatch";
import type { Resample } from "../../study/view";
import { Select } from "../../ui/Select";
import { wordsOf } from "../../ui/keys";
import { WholeNumber } from "../../ui/WholeNumber";

const KINDS: Record<Resample["kind"], string> = { shares: "random subsets", parts: "k-fold", in_turn: "leave-one-out" };
const MEANINGS: Record<Resample["kind"], string> = {
  shares: "Each time another random subset of the readings is fitted, and the rest is held out.",
  parts: "The readings are divided into folds, and each fold is held out in turn (k-fold cross-validation).",
  in_turn: "Each reading is held out in turn (leave-one-out cross-validation).",
};
interface Props {
  chosen: Resample;
  put: (part: Partial<Resample>) => void;
}

/** How readings are left out, by which seed, and which models are tried. */
export function ResampleControls({ chosen, put, data }: Props & { data: Resampling | null }) {
  const { kind, seed, together } = chosen;
  const fits = data?.letters ?? [];
  const tried = chosen.letters ?? (data?.fits.map((fit) => fit.letter).join("") || fits[0] || "");
  const toggle = (letter: string) => {
    const next = tried.includes(letter) ? tried.replace(letter, "") : [...tried, letter].sort().join("");
    if (next) put({ letters: next });
  };
  return (
    <div className="grid gap-2 border border-rule bg-sheet px-4 py-2.5 text-plain">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <label className="flex items-center gap-1.5">
          <span className="text-mute">Fit to</span>
          <Select aria-label="How readings are held out" value={kind} words={wordsOf(KINDS)} onPick={(kind) => put({ kind })} />
        </label>
        <Sizes chosen={chosen} put={put} />
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

function Sizes({ chosen: { kind, share, times, parts }, put }: Props) {
  return (
    <>
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
    </>
  );
}
