import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, messageOf, type NextPlace } from "../api/client";
import { useStudy } from "./context";
import { type Measuring, useView } from "./view";

/** Where one more reading is worth most for what is asked; null while nobody asks, and before the first answer. */
export function useNextPlace(): { measuring: Measuring | null; found: NextPlace | null } {
  const study = useStudy();
  const measuring = useView((view) => view.measuring);
  const { data } = useQuery({
    queryKey: ["next-place", study.id, study.version, measuring],
    placeholderData: keepPreviousData,
    enabled: measuring !== null,
    queryFn: async (): Promise<NextPlace> => {
      const params = { path: { study_id: study.id }, query: measuring! };
      const { data, error } = await api.GET("/api/studies/{study_id}/next_place", { params });
      return data ?? { problem: messageOf(error) };
    },
  });
  return { measuring, found: measuring ? (data ?? null) : null };
}
