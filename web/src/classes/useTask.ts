import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { useEffect, useRef } from "react";

import { api, type Task } from "../api/client";
import { must } from "../api/must";
import { useLooking, useQueue, useStudy } from "../study/context";

/** The worksheet that the study is a copy of; null for one that is none. */
export function useTask(): Task | null {
  const { id, version, is_copy } = useStudy();
  const { data } = useQuery({
    enabled: is_copy, // of any other study nobody has to be asked
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

/** Whether the course keeps something back from whoever works here, for now. */
export function useWithheld(part: Task["withheld"][number]["part"]): boolean {
  const looking = useLooking();
  const task = useTask();
  return !looking && (task?.withheld.some((one) => one.part === part) ?? false);
}

/** What was kept back and is told now is asked for again: the study, and all that was worked out of it. */
export function useTold(task: Task) {
  const queue = useQueue();
  const queries = useQueryClient();
  const parts = task.withheld.map(({ part }) => part).join(" ");
  const before = useRef(parts);
  useEffect(() => {
    if (before.current === parts) return;
    before.current = parts;
    const { id } = queue.read().study;
    void api
      .GET("/api/studies/{study_id}", { params: { path: { study_id: id } } })
      .then(({ data }) => data && queue.refresh(data))
      .catch(() => undefined); // the next change brings it
    void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== "task" && queryKey[0] !== "opened" });
  }, [parts, queue, queries]);
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
