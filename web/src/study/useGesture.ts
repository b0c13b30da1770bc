import { useMemo, useRef } from "react";

import { api, type Change } from "../api/client";
import { useQueue, useSnapshot } from "./context";
import { newestWins } from "./newest";
import { setView } from "./view";

/** The analysis as it would be after a change. */
export async function previewOf({ id, version, change }: { id: string; version: number; change: Change }) {
  return (await api.POST("/api/studies/{study_id}/preview", { params: { path: { study_id: id } }, body: { version, change } })).data ?? null;
}

/** A change that is tried out while a gesture lasts, and made as one step when it ends. */
export function useGesture() {
  const queue = useQueue();
  const { study, saving } = useSnapshot();
  const pending = useRef<Change | null>(null);
  const preview = useMemo(
    () =>
      newestWins(
        (wanted: { id: string; version: number; change: Change }) => previewOf(wanted),
        (found) => found && setView({ preview: found }),
      ),
    [],
  );
  return {
    tryOut(change: Change) {
      pending.current = change;
      if (saving === "saved") preview.ask({ id: study.id, version: study.version, change });
    },
    /** Make what was tried last; whether there was anything. */
    keep(): boolean {
      preview.cancel();
      const change = pending.current;
      pending.current = null;
      if (change) queue.change(change);
      return change !== null;
    },
    drop() {
      pending.current = null;
      preview.cancel();
      setView({ preview: null });
    },
    isPending: () => pending.current !== null,
  };
}
