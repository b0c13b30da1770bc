import { useCallback, useMemo, useRef } from "react";

import { api, type Change } from "../api/client";
import { useQueue } from "./context";
import { newestWins } from "./newest";
import { endPreview, showMoving, showWhole } from "./preview";
import type { GestureQueue } from "./queue";
import { useView } from "./view";

interface Tried {
  id: string;
  version: number;
  change: Change;
}

/** What is drawn of a change over what the plot shows, and how long that took; null where only the whole analysis tells it. */
async function movingOf({ id, version, change, low, high }: Tried & { low: number; high: number }, signal: AbortSignal) {
  const body = { version, change, low, high };
  const from = performance.now();
  const { data } = await api.POST("/api/studies/{study_id}/moving", { params: { path: { study_id: id } }, body, signal });
  return data ? { data, took: performance.now() - from } : null;
}

/** The analysis as it would be after a change. */
async function wholeOf({ id, version, change }: Tried, signal: AbortSignal) {
  const body = { version, change };
  return (await api.POST("/api/studies/{study_id}/preview", { params: { path: { study_id: id } }, body, signal })).data ?? null;
}

/** Two requests at a time at most: what is drawn, and after it what is said of it. */
function previewing(queue: GestureQueue) {
  let newest: Tried | null = null;
  const stored = () => queue.read().study.analysis;
  const whole = newestWins(wholeOf, (found, tried) => found && showWhole(found, stored(), tried.change !== newest?.change));
  const moving = newestWins(movingOf, (found, tried) => {
    const askWhole = () => newest && whole.ask(newest);
    if (found) showMoving(found.data, stored(), found.took, askWhole);
    else whole.ask(tried);
  });
  return {
    ask(tried: Tried) {
      newest = tried;
      const { seen } = useView.getState();
      const { low, high } = seen ? { low: seen.x[0], high: seen.x[1] } : stored().view.x;
      moving.ask({ ...tried, low, high });
    },
    cancel() {
      newest = null;
      moving.cancel();
      whole.cancel();
    },
  };
}

/** A change that is tried out while a gesture lasts, and made as one step when it ends. */
export function useGesture() {
  const queue = useQueue();
  const pending = useRef<Change | null>(null);
  const preview = useMemo(() => previewing(queue), [queue]);
  const tryOut = useCallback(
    (change: Change) => {
      if (queue.looking) return;
      pending.current = change;
      const { study, saving } = queue.read();
      if (saving === "saved") preview.ask({ id: study.id, version: study.version, change });
    },
    [queue, preview],
  );
  /** Let go what was tried last; its picture stays until the study moves on. */
  const forget = useCallback(() => {
    preview.cancel();
    pending.current = null;
  }, [preview]);
  /** Make what was tried last. */
  const keep = useCallback(() => {
    const change = pending.current;
    forget();
    if (change) queue.change(change);
  }, [queue, forget]);
  const drop = useCallback(() => {
    forget();
    endPreview();
  }, [forget]);
  const isPending = useCallback(() => pending.current !== null, []);
  return { tryOut, keep, forget, drop, isPending };
}
