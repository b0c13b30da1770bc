import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, type Task } from "../api/client";
import { must } from "../api/must";
import { useStudy } from "../study/context";

/** The worksheet that the study is a copy of; null for one that is none. */
export function useTask(): Task | null {
  const { id, version } = useStudy();
  const { data } = useQuery({
    queryKey: ["task", id, version],
    placeholderData: (before) => before,
    queryFn: async () => {
      const { data, response } = await api.GET("/api/studies/{study_id}/task", { params: { path: { study_id: id } } });
      if (!response.ok) throw new Error("no answer");
      return data ?? null;
    },
  });
  return data ?? null;
}

type Written = { step: string; text?: string; done?: boolean };

/** Writing to its steps, and handing it in. */
export function useTaskActs() {
  const { id, version } = useStudy();
  const queries = useQueryClient();
  const params = { path: { study_id: id } };
  const onSuccess = (task: Task) => queries.setQueryData(["task", id, version], task);
  const write = useMutation({
    mutationFn: (body: Written) => must(api.PUT("/api/studies/{study_id}/task", { params, body })),
    onSuccess,
  });
  const handIn = useMutation({ mutationFn: () => must(api.POST("/api/studies/{study_id}/task/hand_in", { params })), onSuccess });
  return { write, handIn };
}
