import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api } from "../../api/client";
import { must } from "../../api/must";
import { useAnalysis, useChange, useLooking, useStudy } from "../../study/context";
import { isDrawn } from "../../fits/kinds";
import { LensTabs } from "../LensTabs";
import { Alike } from "./Alike";
import { Criteria } from "./Criteria";
import { FitCard } from "../../plot/small/FitCard";
import { NotMade } from "../../ui/NotMade";
import { Ladder } from "./Ladder";

/** The fits side by side: small plots on common axes, the criteria with their meaning, and why R² is no judge. */
export function CompareLens() {
  const study = useStudy();
  const looking = useLooking();
  const analysis = useAnalysis();
  const { data, error, refetch, isPlaceholderData } = useQuery({
    queryKey: ["comparison", study.id, study.version],
    placeholderData: keepPreviousData,
    queryFn: () => must(api.GET("/api/studies/{study_id}/comparison", { params: { path: { study_id: study.id } } })),
  });
  const drawn = analysis.fits.filter(isDrawn).filter((fit) => fit.curve);
  return (
    <section aria-label="Compare" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Fits side by side">
        {!drawn.length && <p className="p-6 text-center text-mute">There is nothing to compare without a fit.</p>}
        <div className="goes-stale grid grid-cols-[minmax(0,1fr)] gap-3 pb-2" aria-busy={isPlaceholderData}>
          <ul aria-label="Fits" className="grid gap-2 [grid-template-columns:repeat(auto-fit,minmax(min(100%,11.25rem),1fr))]">
            {drawn.map((fit) => (
              <FitCard key={fit.letter} fit={fit} analysis={analysis} />
            ))}
          </ul>
          {drawn.length === 1 && !looking && <OneMore />}
          <NotMade error={error} onAgain={() => void refetch()} />
          {data?.alike.map((pair) => (
            <Alike key={pair.first + pair.second} pair={pair} />
          ))}
          {data && data.fits.length > 0 && <Criteria found={data} />}
          {data && data.ladder.length > 1 && <Ladder rungs={data.ladder} sentence={data.ladder_sentence} />}
        </div>
      </div>
    </section>
  );
}

function OneMore() {
  const change = useChange();
  return (
    <p className="text-plain text-mute">
      There is only one fit.{" "}
      <button className="button" onClick={() => change({ kind: "add_fit", family: "polynomial", options: { degree: 2 } })}>
        Add a quadratic
      </button>{" "}
      or choose among all models on the page.
    </p>
  );
}
