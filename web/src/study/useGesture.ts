import { useCallback, useMemo, useRef } from "react";

import { api, type Change } from "../api/client";
import { useQueue } from "./context";
import { newestWins } from "./newest";
import { endPreview, showPreview } from "./preview";

/** The analysis as it would be after a change. */
async function previewOf({ id, version, change }: { id: string; version: number; change: Change }, signal: AbortSignal) {
  return (
    (await api.POST("/api/studies/{study_id}/preview", { params: { path: { study_id: id } }, body: { version, change }, signal })).data ??
    null
  );
}

/** A change that is tried out while a gesture lasts, and made as one step when it ends. */
export function useGesture() {
  const queue = useQueue();
  const pending = useRef<Change | null>(null);
  const preview = useMemo(() => newestWins(previewOf, (found) => found && showPreview(found, queue.read().study.analysis)), [queue]);
  const tryOut = useCallback(
    (change: Change) => {
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
