import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, type Followable, messageOf, type Working } from "../../api/client";
import { must } from "../../api/must";
import { useStudy } from "../../study/context";
import type { Following } from "../../study/view";

/** What can be followed in the study as it is. */
export function useFollowables() {
  const study = useStudy();
  return useQuery<Followable[]>({
    queryKey: ["workings", study.id, study.version],
    placeholderData: keepPreviousData,
    queryFn: () => must(api.GET("/api/studies/{study_id}/workings", { params: { path: { study_id: study.id } } })),
  });
}

export interface Found {
  working: Working | null;
  problem: string;
}

/** The working that is wanted, or why there is none; null until the first has come. `missing`: a number that has to be given first. */
export function useWorking(
  of: string,
  what: string,
  missing: boolean,
  { form, places, x, y }: Following,
): { found: Found | null; busy: boolean } {
  const study = useStudy();
  const { data, isFetching } = useQuery({
    queryKey: ["working", study.id, study.version, of, what, form, places, x, y],
    placeholderData: keepPreviousData,
    enabled: of !== "" && !missing,
    queryFn: async (): Promise<Found> => {
      const query = { of, what, form, places, x, y };
      const { data, error } = await api.GET("/api/studies/{study_id}/working", { params: { path: { study_id: study.id }, query } });
      return { working: data && !data.refusal ? data : null, problem: data ? (data.refusal ?? "") : messageOf(error) };
    },
  });
  return { found: missing ? null : (data ?? null), busy: isFetching };
}
