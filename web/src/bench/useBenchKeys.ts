import { useEffect } from "react";

import { LENSES } from "../lenses/LensTabs";
import type { GestureQueue } from "../study/queue";
import { setView } from "../study/view";
import { keysOf } from "../ui/keys";

/** Keys that work anywhere on the bench, except while a text is being edited. */
export function useBenchKeys(queue: GestureQueue | null, onHelp: () => void) {
  useEffect(() => {
    if (!queue) return;
    const onKeyDown = (event: KeyboardEvent) => {
      const target = event.target instanceof Element ? event.target : document.body;
      const cell = target.closest('[role="grid"]') !== null;
      const editing = target instanceof HTMLInputElement && (!cell || target.dataset.editing === "true");
      const writing = editing || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement;
      if (writing) return;
      const ctrl = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const { study } = queue.read();
      if (ctrl && key === "z" && !event.shiftKey) {
        event.preventDefault();
        if (study.undo) queue.undo();
      } else if (ctrl && (key === "y" || (key === "z" && event.shiftKey))) {
        event.preventDefault();
        if (study.redo) queue.redo();
      } else if (!ctrl && !cell && event.key === "?") {
        event.preventDefault();
        onHelp();
      } else if (!ctrl && !event.altKey && !cell && key === "p" && study.picture) {
        event.preventDefault();
        const { laid } = study.picture;
        queue.change({ kind: "put_picture", picture: { ...laid, hidden: !laid.hidden } });
      } else if (event.altKey && !ctrl && /^Digit[1-6]$/.test(event.code)) {
        event.preventDefault();
        setView({ lens: keysOf(LENSES)[Number(event.code.slice(5)) - 1]!, panel: "plot", caught: null });
      }
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [queue, onHelp]);
}
