import { useEffect, useState } from "react";

import { useQueue, useSnapshot } from "../study/context";
import { endPreview } from "../study/preview";
import { useGesture } from "../study/useGesture";
import type { Place } from "../study/view";
import { cellText } from "./gridBlock";

/** ready: keys move. replace: typing has begun, arrows keep it and move. edit: the caret is in the text. */
type Mode = "ready" | "replace" | "edit";

/** The text of the active cell while it is typed, its effect on everything shown meanwhile, kept or dropped in the end. */
export function useCellText({ row, col }: Place) {
  const { study, saving } = useSnapshot();
  const queue = useQueue();
  const [mode, setMode] = useState<Mode>("ready");
  const [draft, setDraft] = useState("");
  const { tryOut, forget, drop } = useGesture();
  const held = cellText(study, row, col);
  // Whatever was tried out is over once the study itself has moved on.
  useEffect(endPreview, [study.version]);
  // A preview is made on what the server has, so it waits until everything before it is saved.
  const previewable = mode !== "ready" && saving === "saved" && draft !== held;
  useEffect(() => {
    if (previewable) tryOut({ kind: "set_cells", row, column: col, block: [[draft]] });
  }, [previewable, draft, row, col, study.version, tryOut]);

  return {
    mode,
    draft,
    setMode,
    type: (text: string) => {
      if (queue.looking) return;
      if (mode === "ready") setMode("replace");
      setDraft(text);
    },
    edit: () => {
      if (queue.looking) return;
      setDraft(held);
      setMode("edit");
    },
    finish: (keep: boolean) => {
      if (mode === "ready") return;
      setMode("ready");
      forget();
      if (keep && draft !== held) queue.change({ kind: "set_cells", row, column: col, block: [[draft]] });
      else drop();
    },
  };
}
