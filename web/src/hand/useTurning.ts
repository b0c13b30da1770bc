import { useCallback } from "react";

import { useQueue } from "../study/context";
import { useGesture } from "../study/useGesture";
import { setView, useView } from "../study/view";
import { curveOf } from "../fits/kinds";

/** Turning a parameter of the fit of a letter: tried out while it lasts, made as one step when it is let go, or taken back. */
export function useTurning(letter: string) {
  const queue = useQueue();
  const { tryOut, keep, drop } = useGesture();
  const begin = useCallback(
    (name: string, value: number) => {
      const { turning, preview } = useView.getState();
      const now = (preview ?? queue.read().study.analysis).fits.find((one) => one.letter === letter);
      if (turning?.letter !== letter) setView({ turning: { letter, before: curveOf(now) } });
      const values = Object.fromEntries((now?.kind === "hand" ? now.handles : []).map((handle) => [handle.name, handle.value]));
      tryOut({ kind: "set_fit", letter, values: { ...values, [name]: value } });
    },
    [queue, letter, tryOut],
  );
  const settle = useCallback(
    (name: string, value: number) => {
      begin(name, value);
      keep();
      setView({ turning: null });
    },
    [begin, keep],
  );
  const abandon = useCallback(() => {
    drop();
    setView({ turning: null });
  }, [drop]);
  return { turn: begin, settle, abandon };
}
