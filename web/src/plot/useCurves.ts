import { useEffect, useMemo, useState } from "react";

import { api, type Curve } from "../api/client";
import { useAnalysis, useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { type Domain, useView } from "../study/view";
import { curveOf } from "../fits/kinds";

/** Milliseconds of standing still after which a curve is sampled anew. */
const REST = 120;

/**
 * Samples of every curve over what is seen, with half as much again on either side for the next move, in the order of
 * the fits. `growing`: whether they are wanted denser towards zero, for an axis that is not drawn evenly.
 */
export function useCurves(domain: Domain | null, growing: boolean): (Curve | null)[] {
  const study = useStudy();
  const fits = useAnalysis().fits;
  const previewing = useView((view) => view.preview !== null);
  const [sampled, setSampled] = useState<{ curves: (Curve | null)[]; version: number } | null>(null);

  const wanted = useMemo(
    () =>
      newestWins(
        async ({ low, high, growing, version }: { low: number; high: number; growing: boolean; version: number }) => {
          const params = { path: { study_id: study.id }, query: { low, high, growing } };
          const { data } = await api.GET("/api/studies/{study_id}/curves", { params });
          return data ? { curves: data, version } : null;
        },
        (result) => setSampled(result),
      ),
    [study.id],
  );
  const [low, high] = domain?.x ?? [NaN, NaN];
  const reach = sampled?.version === study.version ? sampled.curves.find((curve) => curve)?.x : undefined;
  const covered = reach !== undefined && reach[0]! <= low && reach[reach.length - 1]! >= high;
  useEffect(() => {
    if (!(low < high)) return;
    const room = (high - low) / 2;
    const ask = () => wanted.ask({ low: growing ? low : low - room, high: high + room, growing, version: study.version });
    // As long as the samples at hand reach over the view, finer ones wait until it stands still.
    if (!covered) return ask();
    const timer = window.setTimeout(ask, REST);
    return () => window.clearTimeout(timer);
  }, [low, high, growing, study.version, wanted, covered]);

  if (domain && !previewing && sampled?.version === study.version && sampled.curves.length === fits.length) return sampled.curves;
  return fits.map(curveOf);
}
