import { createContext, useContext, useDeferredValue, useSyncExternalStore } from "react";

import type { Analysis, Change } from "../api/client";
import type { HeldStudy } from "./changes";
import type { GestureQueue } from "./queue";
import { useView } from "./view";

export const QueueContext = createContext<GestureQueue | null>(null);

export function useQueue(): GestureQueue {
  const queue = useContext(QueueContext);
  if (!queue) throw new Error("useQueue outside a study");
  return queue;
}

export function useSnapshot() {
  const queue = useQueue();
  return useSyncExternalStore(queue.subscribe, queue.read);
}

export const useStudy = (): HeldStudy => useSnapshot().study;
export const useChange = (): ((change: Change) => void) => useQueue().change;

/** The analysis to draw: of the cell being typed where there is one, else of the study. */
export function useAnalysis(): Analysis {
  const study = useStudy();
  const preview = useView((view) => view.preview);
  return preview ?? study.analysis;
}

/** The same for what may follow a moment later: while something is dragged the plot is drawn first. */
export const useCalmAnalysis = (): Analysis => useDeferredValue(useAnalysis());

/** Names of the status numbers that come with every row. */
export const STATUS = { blank: 0, used: 1, aside: 2, problem: 3, unknown: 4 } as const;
