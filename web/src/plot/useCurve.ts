import { useEffect, useMemo, useState } from "react";

import { api, type Curve } from "../api/client";
import { useAnalysis, useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { type Domain, useView } from "../study/view";

/** Samples of the leading curve over what is seen, with half as much again on either side for the next move. */
export function useCurve(domain: Domain | null): Curve | null {
  const study = useStudy();
  const fit = useAnalysis().fits[0];
  const previewing = useView((view) => view.preview !== null);
  const [sampled, setSampled] = useState<{ curve: Curve; version: number } | null>(null);

  const wanted = useMemo(
    () =>
      newestWins(
        async ({ low, high, version }: { low: number; high: number; version: number }) => {
          const params = { path: { study_id: study.id }, query: { low, high } };
          const { data } = await api.GET("/api/studies/{study_id}/curve", { params });
          return data ? { curve: data, version } : null;
        },
        (result) => setSampled(result),
      ),
    [study.id],
  );
  const [low, high] = domain?.x ?? [NaN, NaN];
  useEffect(() => {
    if (!(low < high)) return;
    const room = (high - low) / 2;
    wanted.ask({ low: low - room, high: high + room, version: study.version });
  }, [low, high, study.version, wanted]);

  if (!fit || fit.refusal) return null;
  if (domain && !previewing && sampled?.version === study.version) return sampled.curve;
  return fit.curve ?? null;
}
