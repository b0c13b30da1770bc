import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, type Resampling } from "../../api/client";
import { must } from "../../api/must";
import { lookOf } from "../../fits/looks";
import { useNaming, useStudy } from "../../study/context";
import { type Resample, setView, useView } from "../../study/view";
import { Term } from "../../ui/Hint";
import { NotMade } from "../../ui/NotMade";
import { DrawPlot } from "./DrawPlot";
import { LensTabs } from "../LensTabs";
import { ResampleControls } from "./ResampleControls";
import { TableCard } from "../TableCard";
import { quantity } from "../quantity";

const MOST_PLOTS = 25;

/** The same fits made to shares of the readings, tried on those left out: how much of a curve is scatter. */
export function ResampleLens() {
  const study = useStudy();
  const naming = useNaming();
  const chosen = useView((view) => view.resample);
  const put = (part: Partial<Resample>) => setView((view) => ({ resample: { ...view.resample, ...part } }));
  const { kind, share, times, parts, seed, letters, together } = chosen;
  const { data, error, refetch, isFetching, isPlaceholderData } = useQuery({
    queryKey: ["resampling", study.id, study.version, kind, share, times, parts, seed, letters],
    placeholderData: keepPreviousData,
    queryFn: () => {
      const query = { kind, share, times, parts, seed, letters: letters ?? "" };
      return must(api.GET("/api/studies/{study_id}/resampling", { params: { path: { study_id: study.id }, query } }));
    },
  });
  const plots = data ? Math.min(data.left_out.length, MOST_PLOTS) : 0;
  return (
    <section aria-label="Resample" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div
        className="goes-stale min-h-0 grow overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="Fits to subsets of the readings"
        aria-busy={isFetching || isPlaceholderData}
      >
        <div className="grid grid-cols-[minmax(0,1fr)] gap-3 pb-2">
          <ResampleControls chosen={chosen} put={put} data={data ?? null} />
          <NotMade error={error} onAgain={() => void refetch()} />
          {data?.remark && <p className="border border-rule bg-sheet px-4 py-2.5 font-book text-plain text-amber">{data.remark}</p>}
          {data && data.fits.length > 0 && (
            <>
              <Outcome found={data} />
              <p className="-mb-1 text-note text-mute">
                {quantity(naming.y, naming.y_over)} against {quantity(naming.x, naming.x_over)}
                {together ? "." : "; held-out readings are hollow."}
              </p>
              {together ? (
                <DrawPlot
                  found={data}
                  places={data.left_out.map((_, place) => place)}
                  wide
                  label={`All ${data.left_out.length} curves over each other`}
                />
              ) : (
                <ul aria-label="Subsets" className="grid gap-2 [grid-template-columns:repeat(auto-fit,minmax(min(100%,10.5rem),1fr))]">
                  {data.left_out.slice(0, plots).map((rows, place) => (
                    <li key={place} className="border border-rule bg-sheet">
                      <DrawPlot found={data} places={[place]} label={`Subset ${place + 1}, ${rows.length} held out`} />
                      <p className="numerals flex flex-wrap justify-between gap-x-2 px-2 pb-1 text-note">
                        {data.fits.map((fit) => (
                          <span key={fit.letter} className="whitespace-nowrap">
                            <span className="font-semibold" style={{ color: lookOf(fit.letter).color }}>
                              {fit.letter}
                            </span>{" "}
                            {fit.draws[place]!.y.length ? `error ${fit.draws[place]!.error}` : "no fit"}
                          </span>
                        ))}
                      </p>
                    </li>
                  ))}
                </ul>
              )}
              {!together && data.left_out.length > MOST_PLOTS && (
                <p className="text-note text-mute">
                  The first {MOST_PLOTS} of {data.left_out.length} are drawn; all are counted.
                </p>
              )}
            </>
          )}
        </div>
      </div>
    </section>
  );
}

function Outcome({ found }: { found: Resampling }) {
  const errors = found.fits.map((fit) => fit.error ?? Infinity);
  const best = found.fits.length > 1 ? errors.indexOf(Math.min(...errors)) : -1;
  const cells = () => [
    ["fit", "model", "parameters", "typical miss, all readings", "RMS error, held out"],
    ...found.fits.map((fit) => [fit.letter, fit.name, String(fit.parameters), fit.own, fit.left_out]),
  ];
  return (
    <div role="group" aria-label="What the subsets show">
      <TableCard
        title="Held-out readings"
        label="Errors of the fits"
        copy={{ label: "Copy what the subsets show", what: "What the subsets show", rows: cells }}
        below={
          <ul className="grid gap-1 px-2.5 py-2 font-book text-plain leading-snug">
            {found.fits.map((fit) => (
              <li key={fit.letter}>
                {found.fits.length > 1 && <span className="font-semibold">{fit.letter}: </span>}
                {fit.sentence}
              </li>
            ))}
          </ul>
        }
      >
        <thead>
          <tr className="border-y border-rule text-note text-mute">
            <th scope="col" className="px-2 py-1 text-left font-normal">
              fit
            </th>
            <th scope="col" className="px-1.5 py-1 font-normal">
              parameters
            </th>
            <th scope="col" className="px-1.5 py-1 font-normal whitespace-nowrap">
              <Term word="typical miss, all readings" meaning="How far a reading typically lies from the curve fitted to all of them." />
            </th>
            <th scope="col" className="px-1.5 py-1 font-normal whitespace-nowrap">
              <Term word="RMS error, held out" meaning="Root mean square of the residuals of held-out readings, over all subsets." />
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
                {place === best && <span className="sr-only"> (lowest)</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </TableCard>
    </div>
  );
}
