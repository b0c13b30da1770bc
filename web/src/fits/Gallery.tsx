import { Fragment, useEffect, useMemo, useState } from "react";

import { api, type Candidate, type Fit, messageOf, type Offer, type Ranking } from "../api/client";
import { useAnalysis, useChange, useStudy } from "../study/context";
import { whenHandIsUp } from "../ui/handUp";
import { Sheet } from "../ui/Sheet";
import { matching, useOffered } from "./catalogue";
import { MiniPlot } from "./MiniPlot";

const AT_ONCE = 2;
const GRID = "grid gap-2.5 [grid-template-columns:repeat(auto-fill,minmax(min(100%,13.5rem),1fr))]";

/** Every model drawn over these very readings, with its typical miss and R², in the order of what holds; one is chosen. */
export function Gallery({ fit, onClose }: { fit: Fit | null; onClose: () => void }) {
  const study = useStudy();
  const { fits } = useAnalysis();
  const change = useChange();
  const series = fit?.series ?? "";
  const tried = useTried();
  const [wanted, setWanted] = useState("");
  const matched = useMemo(() => matching(tried, wanted), [tried, wanted]);
  const { candidates, ranking, stale, problem } = useCandidates(study.id, study.version, series, tried);
  const found = candidates.filter((one) => matched.has(one.key));
  const interpolations = found.filter((one) => one.group === "interpolation");
  const models = found.filter((one) => one.group === "model");
  const reasons = new Map(ranking?.order.map((key, place) => [key, ranking.reasons[place]]));
  const letterOf = (one: Candidate) => fits.find((other) => other.name === one.name && other.series === series)?.letter ?? "";
  const choose = ({ family, options }: Candidate) => {
    if (fit) change({ kind: "set_fit", letter: fit.letter, family, options });
    else change({ kind: "add_fit", family, options });
    onClose();
  };
  return (
    <Sheet
      title={fit ? `A model for fit ${fit.letter}` : "One more model"}
      width="w-[min(66rem,97vw)]"
      onClose={onClose}
      note={
        <p className="text-mute" role="status">
          {ranking && !stale ? ranking.summary : `${candidates.length} of ${tried.length || "all"} models laid over the readings…`}
          {series && ` Laid over ${series} only.`}
        </p>
      }
    >
      <label className="flex items-center gap-2">
        <span className="text-mute">Find</span>
        <input
          className="field w-80 max-w-full"
          type="search"
          placeholder="a name, or what it is for: decay, peak, tide"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      {tried.length > 0 && matched.size === 0 && (
        <p role="status" className="text-mute">
          No model is called that. An own formula can be anything.
        </p>
      )}
      {problem && (
        <p role="alert" className="text-amber">
          {problem} Until then the models stand in no order.
        </p>
      )}
      {inSections(models, ranking).map(({ title, of }) => (
        <Fragment key={title}>
          {title && <h3 className="font-book text-lead font-semibold">{title}</h3>}
          <ul aria-label={title || "Models"} className={`${GRID} goes-stale`} aria-busy={stale}>
            {of.map((one) => (
              <Card
                key={one.key}
                one={one}
                letter={letterOf(one)}
                said={reasons.get(one.key) ?? ""}
                also={matched.get(one.key) ?? ""}
                onChoose={choose}
              />
            ))}
          </ul>
        </Fragment>
      ))}
      {interpolations.length > 0 && (
        <>
          <div>
            <h3 className="font-book text-lead font-semibold">Through every reading</h3>
            <p className="text-mute">
              For values between readings that hardly scatter. Such a curve follows the scatter too, has no R² and no residuals, and cannot
              say how sure it is.
            </p>
          </div>
          <ul aria-label="Interpolations" className={`${GRID} goes-stale`} aria-busy={stale}>
            {interpolations.map((one) => (
              <Card key={one.key} one={one} letter={letterOf(one)} said={one.said ?? ""} also="" onChoose={choose} />
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}

interface CardProps {
  one: Candidate;
  /** Of the fit that is this model already; empty for none. */
  letter: string;
  said: string;
  /** The other name by which it was found; empty for none. */
  also: string;
  onChoose: (one: Candidate) => void;
}

function Card({ one, letter, said, also, onChoose }: CardProps) {
  const figures = one.group === "model" && !one.refusal;
  return (
    <li>
      <button
        className="flex h-full w-full flex-col border border-rule text-left hover:border-ink"
        onClick={() => onChoose(one)}
        aria-label={`${one.name}: ${one.refusal || (figures ? `R² ${one.r_squared}, typical miss ${one.typical_miss}. ${said}` : said)}`}
      >
        <MiniPlot candidate={one} />
        <span className="grid gap-0.5 px-2.5 py-2">
          <span className="flex items-baseline justify-between gap-2">
            <span>
              <span className="font-book text-lead font-semibold">{one.name}</span>
              {also && <span className="ml-1.5 text-note text-mute">{also}</span>}
            </span>
            {letter && <span className="text-note text-mute">fit {letter}</span>}
          </span>
          {figures && (
            <span className="numerals text-note text-mute">
              R² <span className="text-ink">{one.r_squared}</span> · typical miss <span className="text-ink">{one.typical_miss}</span>
            </span>
          )}
          <span className="text-note leading-snug text-mute">{one.refusal || said}</span>
        </span>
      </button>
    </li>
  );
}

/** Those that hold on these readings apart from the others, each in the order of the ranking; all together until that is known. */
function inSections(models: Candidate[], ranking: Ranking | null): { title: string; of: Candidate[] }[] {
  if (!ranking) return [{ title: "", of: models }];
  const holding = new Set(ranking.order.filter((_, place) => ranking.suggested[place]));
  const ordered = ranking.order.flatMap((key) => models.filter((one) => one.key === key));
  return [
    { title: "These hold", of: ordered.filter((one) => holding.has(one.key) && !one.refusal) },
    {
      title: holding.size ? "These do less well" : "None of these holds",
      of: ordered.filter((one) => !holding.has(one.key) && !one.refusal),
    },
    { title: "Not for these readings", of: ordered.filter((one) => one.refusal) },
  ].filter(({ of }) => of.length);
}

function useTried(): Offer[] {
  const offers = useOffered();
  return useMemo(() => offers.filter((offer) => offer.tried), [offers]);
}

/** What was computed, and of which readings. */
interface Of<What> {
  of: string;
  what: What;
}

/** Fitted one after the other, so that each is shown as it comes in; closing the gallery ends it. In the order of the catalogue. */
function useCandidates(id: string, version: number, series: string, tried: Offer[]) {
  const now = `${version} ${series}`;
  const [found, setFound] = useState<Record<string, Of<Candidate>>>({});
  const [ranking, setRanking] = useState<Of<Ranking> | null>(null);
  const [problem, setProblem] = useState("");
  useEffect(() => {
    const stop = new AbortController();
    const left = [...tried];
    const query = { series };
    const next = async (): Promise<void> => {
      for (let offer = left.shift(); offer && !stop.signal.aborted; offer = left.shift()) {
        const { data } = await api.GET("/api/studies/{study_id}/candidates/{key}", {
          params: { path: { study_id: id, key: offer.key }, query },
          signal: stop.signal,
        });
        if (!data || stop.signal.aborted) return;
        // A card that moved away under a press would not be pressed.
        whenHandIsUp(() => setFound((before) => ({ ...before, [data.key]: { of: now, what: data } })));
      }
    };
    void (async () => {
      try {
        await Promise.all(Array.from({ length: AT_ONCE }, next));
        const { data, error } = await api.GET("/api/studies/{study_id}/ranking", {
          params: { path: { study_id: id }, query },
          signal: stop.signal,
        });
        if (data) whenHandIsUp(() => setRanking({ of: now, what: data }));
        if (error) setProblem(messageOf(error));
      } catch {
        // Closed, or the server is out of reach: what came in stays, unordered.
      }
    })();
    return () => stop.abort();
  }, [id, now, series, tried]);
  const held = tried.map((offer) => found[offer.key]).filter((one) => one !== undefined);
  return {
    candidates: held.map((one) => one.what),
    ranking: ranking?.what ?? null,
    stale: (ranking !== null && ranking.of !== now) || held.some((one) => one.of !== now),
    problem,
  };
}
