import type { Fit } from "../api/client";
import { useAnalysis, useChange } from "../study/context";
import { useGesture } from "../study/useGesture";
import { setView, useView } from "../study/view";
import { useState } from "react";
import { Handle } from "./Handle";

const MOST_FITS = 6;

/** A curve set by hand: a handle for every parameter, how far it misses, and least squares from there. */
export function HandPanel({ fit }: { fit: Fit }) {
  const change = useChange();
  const { fits } = useAnalysis();
  const trial = useGesture();
  const turning = useView((view) => view.turning);
  const [keep, setKeep] = useState(false);
  const values = Object.fromEntries((fit.handles ?? []).map((handle) => [handle.name, handle.value]));
  const turned = (name: string, value: number) => ({ kind: "set_fit" as const, letter: fit.letter, values: { ...values, [name]: value } });
  const turn = (name: string, value: number) => {
    if (turning?.letter !== fit.letter) setView({ turning: { letter: fit.letter, before: fit.curve ?? null } });
    trial.tryOut(turned(name, value));
  };
  const settle = (name: string, value: number) => {
    trial.tryOut(turned(name, value));
    trial.keep();
    setView({ turning: null });
  };
  const rss = fit.statistics?.find((row) => row.name === "residual_sum_of_squares");
  return (
    <div role="group" aria-label={`Fit ${fit.letter} by hand`} className="no-print mt-1.5 grid grid-cols-[minmax(0,1fr)] gap-2.5 border border-rule bg-well px-3 py-2.5">
      {fit.handles?.map((handle) => (
        <Handle key={handle.name} handle={handle} onTurn={(value) => turn(handle.name, value)} onKeep={(value) => settle(handle.name, value)} />
      ))}
      <p className="numerals text-[12.5px]" aria-live="polite" data-testid="by-hand">
        RSS <strong className="font-semibold">{rss?.value ?? "–"}</strong> {rss?.unit}
        {fit.least_rss && <span className="text-mute"> (least squares reaches {fit.least_rss})</span>} · R² <strong className="font-semibold">{fit.r_squared || "–"}</strong> · typical miss{" "}
        <strong className="font-semibold">{fit.typical_miss || "–"}</strong>
      </p>
      {(fit.grips?.length ?? 0) > 0 && <p className="text-[12px] text-mute">On the plot, drag the squares on the curve, or reach them with Tab and move them with the arrows.</p>}
      <div className="flex flex-wrap items-center gap-1.5">
        <button className="button-main" onClick={() => change({ kind: "refine_fit", letter: fit.letter, keep: keep && fits.length < MOST_FITS })}>
          Least squares from here
        </button>
        <label className="flex items-center gap-1.5 text-[12.5px]">
          <input type="checkbox" className="accent-(--color-pine)" checked={keep} disabled={fits.length >= MOST_FITS} onChange={(event) => setKeep(event.target.checked)} />
          keep this curve beside it
        </label>
        <button className="button" onClick={() => change({ kind: "set_fit", letter: fit.letter, by_hand: true })}>
          Read values off the plot
        </button>
      </div>
    </div>
  );
}
