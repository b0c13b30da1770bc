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

/** Whether the study is somebody else's, shown by a link. */
export const useLooking = (): boolean => useQueue().looking;
/** Whether a change is on its way, so that results may be those of the state before it. */
export const useStale = (): boolean => useSnapshot().saving !== "saved";
export const useStudy = (): HeldStudy => useSnapshot().study;
export const useChange = (): ((change: Change) => void) => useQueue().change;

/** The analysis to draw: of the cell being typed where there is one, else of the study. */
export function useAnalysis(): Analysis {
  const study = useStudy();
  const preview = useView((view) => view.preview);
  return preview ?? study.analysis;
}

/**
 * A part of it. What only needs a part is drawn again when that part changes, not with every preview; the part has to be
 * one of the analysis' own values, not one made for the occasion.
 */
export function useAnalysisPart<Part>(part: (analysis: Analysis) => Part): Part {
  const { analysis } = useStudy();
  return useView((view) => part(view.preview ?? analysis));
}

export const useNaming = () => useAnalysisPart((analysis) => analysis.naming);

/** The same for what may follow a moment later: while something is dragged the plot is drawn first. */
export function useCalmAnalysis(): Analysis {
  const { analysis } = useStudy();
  const calm = useView((view) => view.calm);
  return useDeferredValue(calm ?? analysis);
}
