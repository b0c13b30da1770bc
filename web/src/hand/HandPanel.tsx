import { useState } from "react";

import { MOST_FITS } from "../fits/catalogue";
import { type HandFit, isDrawn } from "../fits/kinds";
import { FitCard } from "../plot/small/FitCard";
import { useAnalysis, useAnalysisPart, useChange } from "../study/context";
import { Handle } from "./Handle";
import { useTurning } from "./useTurning";

/** A curve set by hand: a handle for every parameter, how far it misses, and least squares from there. */
export function HandPanel({ fit }: { fit: HandFit }) {
  const change = useChange();
  const count = useAnalysisPart((analysis) => analysis.fits.length);
  const [keep, setKeep] = useState(false);
  const { turn, settle, abandon } = useTurning(fit.letter);
  return (
    <div
      role="group"
      aria-label={`Fit ${fit.letter} by hand`}
      className="no-print mt-1.5 grid grid-cols-[minmax(0,1fr)] gap-2.5 border border-rule bg-well px-3 py-2.5"
    >
      {/* Where the plot is out of sight, the curve is seen as it is turned. */}
      <ul aria-label="The curve" className="sticky -top-4 z-10 -mx-1 pair:hidden">
        <Seen letter={fit.letter} />
      </ul>
      {fit.handles.map((handle) => (
        <Handle key={handle.name} handle={handle} onTurn={turn} onKeep={settle} onDrop={abandon} />
      ))}
      <Misses letter={fit.letter} />
      {fit.grips.length > 0 && (
        <p className="text-note text-mute">
          On the plot, drag the squares on the curve, or reach them with Tab and move them with the arrows.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-1.5">
        <button className="button-main" onClick={() => change({ kind: "refine_fit", letter: fit.letter, keep: keep && count < MOST_FITS })}>
          Refine by least squares
        </button>
        <label className="flex items-center gap-1.5 text-plain">
          <input
            type="checkbox"
            className="accent-(--color-pine)"
            checked={keep}
            disabled={count >= MOST_FITS}
            onChange={(event) => setKeep(event.target.checked)}
          />
          keep this curve beside it
        </label>
        <button className="button" onClick={() => change({ kind: "set_fit", letter: fit.letter, by_hand: true })}>
          Estimate values from the plot
        </button>
      </div>
    </div>
  );
}

function Seen({ letter }: { letter: string }) {
  const analysis = useAnalysis();
  const fit = analysis.fits.filter(isDrawn).find((one) => one.letter === letter && one.curve);
  return fit ? <FitCard fit={fit} analysis={analysis} /> : null;
}

/** How far the curve misses, at once with the curve itself. */
function Misses({ letter }: { letter: string }) {
  const fit = useAnalysisPart((analysis) => analysis.fits.find((one): one is HandFit => one.kind === "hand" && one.letter === letter));
  const rss = fit?.statistics.find((row) => row.name === "residual_sum_of_squares");
  if (fit && !fit.statistics.length) return null; // kept back by the course
  return (
    <p className="numerals text-plain" aria-live="polite" data-testid="by-hand">
      RSS <strong className="font-semibold">{rss?.value ?? "–"}</strong> {rss?.unit}
      {fit?.least_rss && <span className="text-mute"> (least squares reaches {fit.least_rss})</span>} · R²{" "}
      <strong className="font-semibold">{fit?.r_squared || "–"}</strong> · typical miss{" "}
      <strong className="font-semibold">{fit?.typical_miss || "–"}</strong>
    </p>
  );
}
