import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Dices } from "lucide-react";
import { useState } from "react";

import { api, type Resampling } from "../api/client";
import { lookOf } from "../fits/looks";
import { Swatch } from "../fits/Swatch";
import { useStudy } from "../study/context";
import { type Resample, setView, useView } from "../study/view";
import { CopyTable } from "../ui/CopyTable";
import { Term } from "../ui/Hint";
import { DrawPlot } from "./DrawPlot";
import { LensTabs } from "./LensTabs";

const KINDS: Record<Resample["kind"], string> = { shares: "random shares", parts: "parts in turn", in_turn: "one reading at a time" };
const MEANINGS: Record<Resample["kind"], string> = {
  shares: "Each time another random share of the readings is fitted, and the rest is left out.",
  parts: "The readings are dealt into equal parts, and each part is left out in turn (k-fold cross-validation).",
  in_turn: "Each reading is left out in turn (leave-one-out cross-validation).",
};
const MOST_PLOTS = 25;

/** The same fits made to shares of the readings, tried on those left out: how much of a curve is scatter. */
export function ResampleLens() {
  const study = useStudy();
  const chosen = useView((view) => view.resample);
  const put = (part: Partial<Resample>) => setView((view) => ({ resample: { ...view.resample, ...part } }));
  const { kind, share, times, parts, seed, letters, together } = chosen;
  const { data, isFetching } = useQuery({
    queryKey: ["resampling", study.id, study.version, kind, share, times, parts, seed, letters],
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const query = { kind, share, times, parts, seed, letters: letters ?? "" };
      return (await api.GET("/api/studies/{study_id}/resampling", { params: { path: { study_id: study.id }, query } })).data ?? null;
    },
  });
  const plots = data ? Math.min(data.left_out.length, MOST_PLOTS) : 0;
  return (
    <section aria-label="Resample" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Fits to shares of the readings" aria-busy={isFetching}>
        <div className="grid grid-cols-[minmax(0,1fr)] gap-3 pb-2">
          <Controls chosen={chosen} put={put} data={data ?? null} />
          {data?.remark && <p className="border border-rule bg-sheet px-4 py-2.5 font-book text-[14.5px] text-amber">{data.remark}</p>}
          {data && data.fits.length > 0 && (
            <>
              <Outcome found={data} />
              {together ? (
                <DrawPlot found={data} places={data.left_out.map((_, place) => place)} wide label={`All ${data.left_out.length} draws over each other`} />
              ) : (
                <ul aria-label="Draws" className="grid gap-2 [grid-template-columns:repeat(auto-fit,minmax(min(100%,10.5rem),1fr))]">
                  {data.left_out.slice(0, plots).map((rows, place) => (
                    <li key={place} className="border border-rule bg-sheet">
                      <DrawPlot found={data} places={[place]} label={`Draw ${place + 1}, ${rows.length} left out`} />
                      <p className="numerals flex flex-wrap justify-between gap-x-2 px-2 pb-1 text-[12px]">
                        {data.fits.map((fit) => (
                          <span key={fit.letter} className="whitespace-nowrap">
                            <span className="font-semibold" style={{ color: lookOf(fit.letter).color }}>
                              {fit.letter}
                            </span>{" "}
                            {fit.draws[place]!.y.length ? `misses ${fit.draws[place]!.error}` : "no fit"}
                          </span>
                        ))}
                      </p>
                    </li>
                  ))}
                </ul>
              )}
              {!together && data.left_out.length > MOST_PLOTS && <p className="text-[12.5px] text-mute">The first {MOST_PLOTS} of {data.left_out.length} are drawn; all are counted.</p>}
            </>
          )}
        </div>
      </div>
    </section>
  );
}

function Controls({ chosen, put, data }: { chosen: Resample; put: (part: Partial<Resample>) => void; data: Resampling | null }) {
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
          <select className="field" aria-label="How readings are left out" value={kind} onChange={(event) => put({ kind: event.target.value as Resample["kind"] })}>
            {Object.entries(KINDS).map(([name, word]) => (
              <option key={name} value={name}>
                {word}
              </option>
            ))}
          </select>
        </label>
        {kind === "shares" && (
          <>
            <WholeNumber label="of" after="% of the readings," name="Share in per cent" value={share} low={10} high={90} onPut={(value) => put({ share: value })} />
            <WholeNumber label="" after="times" name="How many times" value={times} low={4} high={25} onPut={(value) => put({ times: value })} />
          </>
        )}
        {kind === "parts" && <WholeNumber label="in" after="parts" name="Number of parts" value={parts} low={2} high={25} onPut={(value) => put({ parts: value })} />}
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
function WholeNumber({ label, after, name, value, low, high, onPut }: { label: string; after: string; name: string; value: number; low: number; high: number; onPut: (value: number) => void }) {
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

function Outcome({ found }: { found: Resampling }) {
  const errors = found.fits.map((fit) => fit.error ?? Infinity);
  const best = found.fits.length > 1 ? errors.indexOf(Math.min(...errors)) : -1;
  const cells = () => [["fit", "model", "free parameters", "misses, fitted to all", "misses, left out"], ...found.fits.map((fit) => [fit.letter, fit.name, String(fit.parameters), fit.own, fit.left_out])];
  return (
    <div className="border border-rule bg-sheet" role="group" aria-label="What the draws show">
      <div className="flex items-center justify-between px-2.5 py-1">
        <h2 className="text-[12px] font-semibold text-mute">Readings left out</h2>
        <CopyTable label="Copy what the draws show" what="What the draws show" rows={cells} />
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Misses of the fits">
        <table className="numerals w-full text-right text-[12.5px]">
          <thead>
            <tr className="border-y border-rule text-[11.5px] text-mute">
              <th scope="col" className="px-2 py-1 text-left font-normal">
                fit
              </th>
              <th scope="col" className="px-1.5 py-1 font-normal">
                free
              </th>
              <th scope="col" className="px-1.5 py-1 font-normal whitespace-nowrap">
                <Term word="misses, fitted to all" meaning="How far the readings lie from the fit made to all of them, typically." />
              </th>
              <th scope="col" className="px-1.5 py-1 font-normal whitespace-nowrap">
                <Term word="misses, left out" meaning="How far readings lie from fits that were made without them: root mean square over all draws." />
              </th>
            </tr>
          </thead>
          <tbody>
            {found.fits.map((fit, place) => (
              <tr key={fit.letter} className="border-b border-rule/60">
                <th scope="row" className="max-w-44 truncate px-2 py-1 text-left font-normal">
                  <span className="font-semibold" style={{ color: lookOf(fit.letter).color }}>
                    {fit.letter}
                  </span>{" "}
                  <span className="font-book">{fit.name}</span>
                </th>
                <td className="px-1.5 py-1">{fit.parameters}</td>
                <td className="px-1.5 py-1 whitespace-nowrap">{fit.own}</td>
                <td className={`px-1.5 py-1 whitespace-nowrap ${place === best ? "bg-tint font-semibold" : ""}`}>
                  {fit.left_out}
                  {place === best && <span className="sr-only"> (least)</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ul className="grid gap-1 px-2.5 py-2 font-book text-[14px] leading-snug">
        {found.fits.map((fit) => (
          <li key={fit.letter}>
            {found.fits.length > 1 && <span className="font-semibold">{fit.letter}: </span>}
            {fit.sentence}
          </li>
        ))}
      </ul>
    </div>
  );
}
