import { useCallback, useEffect, useRef, useState } from "react";

import { api, messageOf, type Run } from "../api/client";
import { useQueue, useStudy } from "../study/context";

/** Milliseconds from one question to the next: while an instrument is read, by its interval; else calmly, since others may post. */
const [SOONEST, LATEST, CALM] = [50, 1000, 2000];

/** The run of a study, asked after for as long as readings may come; what came is taken over. What is wrong is said, and asked again. */
export function useRun() {
  const queue = useQueue();
  const { id } = useStudy();
  const [run, setRun] = useState<Run | null>(null);
  const [problem, setProblem] = useState("");
  const timer = useRef(0);
  const here = useRef(true);

  const take = useCallback(
    (
      { data, error }: { data?: { run: Run | null; study: unknown } | undefined; error?: unknown },
      study: Parameters<typeof queue.adopt>[0] | null,
    ) => {
      setProblem(data ? "" : messageOf(error));
      if (!data) return;
      setRun(data.run);
      if (study) queue.adopt(study);
    },
    [queue],
  );

  const ask = useCallback(async () => {
    const params = { path: { study_id: id }, query: { version: queue.read().study.version } };
    try {
      const answer = await api.GET("/api/studies/{study_id}/run", { params });
      if (here.current) take(answer, answer.data?.study ?? null);
    } catch {
      if (here.current) setProblem("The server cannot be reached. What is read meanwhile comes later.");
    }
  }, [id, queue, take]);

  const going = run?.going ?? false;
  const interval = run?.interval ?? 1;
  useEffect(() => {
    here.current = true;
    let over = false;
    const pause = going ? Math.min(Math.max(500 * interval, SOONEST), LATEST) : CALM;
    const round = async () => {
      await ask();
      if (!over) timer.current = window.setTimeout(() => void round(), pause);
    };
    void round();
    return () => {
      over = true;
      here.current = false;
      window.clearTimeout(timer.current);
    };
  }, [ask, going, interval]);

  const params = { path: { study_id: id } };
  return {
    run,
    problem,
    start: async (body: { instrument: string; interval: number; most: number; channels: string[] }) => {
      const answer = await api.POST("/api/studies/{study_id}/run", { params, body });
      take(answer, answer.data?.study ?? null);
    },
    stop: async () => {
      const answer = await api.POST("/api/studies/{study_id}/run/stop", { params });
      take(answer, answer.data?.study ?? null);
    },
    single: async (instrument: string, x: string) => {
      const answer = await api.POST("/api/studies/{study_id}/run/single", { params, body: { instrument, x } });
      take(answer, answer.data?.study ?? null);
      return answer.data !== undefined;
    },
    reveal: async () => {
      const body = { version: queue.read().study.version, request_key: crypto.randomUUID() };
      const { data, error } = await api.POST("/api/studies/{study_id}/run/reveal", { params, body });
      if (data) queue.adopt(data);
      setProblem(data ? "" : messageOf(error));
    },
  };
}
