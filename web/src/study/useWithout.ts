import { useQuery } from "@tanstack/react-query";

import { api } from "../api/client";
import { useStudy } from "./context";

/** A fit as it would be without one reading; null while none is pointed at. */
export function useWithout(letter: string | undefined, row: number | null) {
  const { id, version } = useStudy();
  const { data } = useQuery({
    queryKey: ["without", id, version, letter, row],
    enabled: letter !== undefined && row !== null,
    staleTime: Infinity,
    queryFn: async () => {
      const { data } = await api.GET("/api/studies/{study_id}/without/{letter}/{row}", {
        params: { path: { study_id: id, letter: letter!, row: row! } },
      });
      return data ?? null;
    },
  });
  return row === null ? null : (data ?? null);
}
