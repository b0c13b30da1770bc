import { useCallback, useEffect, useRef } from "react";

import { useAccount } from "../account/useAccount";
import { api } from "../api/client";
import type { HeldStudy } from "./changes";
import type { GestureQueue } from "./queue";
import { useView } from "./view";

/** Milliseconds after which it is asked whether the study was changed on another computer: seen there within two seconds. */
const CALM = 1500;
/** The same for a copy of a worksheet, of which the teacher may mend what the course settles. */
const CALMER = 10_000;
const NO_MORE = "This link does not hold any more. What you see is as it was last.";
const CHANNEL = "ridge-studies";

interface News {
  id: string;
  version: number;
}

/**
 * A study that is open in two places shows the newer state by itself. Windows of one browser tell each other; where an account, or the
 * demo's shelf, may be used from several computers, the server is asked as long as the window is seen.
 */
export function useNewer(queue: GestureQueue, { id, version, is_copy }: HeldStudy) {
  const account = useAccount();
  const elsewhere = queue.looking || (account !== null && (!account.guest || account.shared));
  const wait = elsewhere ? CALM : is_copy ? CALMER : 0;
  const channel = useRef<BroadcastChannel | null>(null);

  const ask = useCallback(async () => {
    const params = { path: { study_id: id }, query: { version: queue.read().study.version } };
    try {
      const { data, response } = await api.GET("/api/studies/{study_id}/newer", { params });
      if (data) queue.adopt(data);
      if (queue.looking && response.status === 404) queue.tell(NO_MORE);
    } catch {
      // Not reached: the next question brings it.
    }
  }, [id, queue]);

  useEffect(() => {
    const own = new BroadcastChannel(CHANNEL);
    channel.current = own;
    own.onmessage = ({ data }: MessageEvent<News>) => {
      if (data.id === id && data.version > queue.read().study.version) void ask();
    };
    return () => own.close();
  }, [id, queue, ask]);

  useEffect(() => {
    channel.current?.postMessage({ id, version } satisfies News);
  }, [id, version]);

  useEffect(() => {
    if (!wait) return;
    let over = false;
    let timer = 0;
    const round = async () => {
      // While a hand moves something nothing is asked beside it: what is newer is taken when it rests.
      if (document.visibilityState === "visible" && !useView.getState().preview) await ask();
      if (!over) timer = window.setTimeout(() => void round(), wait);
    };
    timer = window.setTimeout(() => void round(), wait);
    return () => {
      over = true;
      window.clearTimeout(timer);
    };
  }, [wait, ask]);
}
