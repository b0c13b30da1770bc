import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { api } from "../api/client";
import type { HeldStudy } from "./changes";
import type { GestureQueue } from "./queue";

const TRIES = 5;

/** Limits that take longer than an answer may follow a moment later; those of a version that was overtaken are let go. */
export function useRefined(queue: GestureQueue, { id, version, analysis }: HeldStudy) {
  const { data } = useQuery({
    queryKey: ["refined", id, version],
    enabled: analysis.refining,
    staleTime: Infinity,
    retry: TRIES,
    queryFn: async ({ signal }) => {
      const path = { params: { path: { study_id: id }, query: { version } }, signal };
      const { data, response } = await api.GET("/api/studies/{study_id}/refined", path);
      if (!data && response.status !== 409) throw new Error("not yet");
      return data ?? null;
    },
  });
  useEffect(() => {
    if (data) queue.refine(version, data);
  }, [data, queue, version]);
}
