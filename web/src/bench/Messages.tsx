import { X } from "lucide-react";

import { useQueue, useSnapshot } from "../study/context";

/** What was refused, cannot be saved, or was changed elsewhere, said above the bench; nothing typed is lost. */
export function Messages() {
  const queue = useQueue();
  const { saving, message, held } = useSnapshot();
  if (!message) return null;
  const mine = held === 1 ? "my change" : `my ${held} changes`;
  return (
    <div role="alert" className="no-print flex flex-wrap items-center gap-3 bg-amber-well px-4 py-2 text-plain text-amber">
      <span className="grow">{message}</span>
      {saving === "conflict" && (
        <>
          <button className="button" onClick={queue.applyHeld}>
            Apply {mine} to the newer version
          </button>
          <button className="button" onClick={queue.dropHeld}>
            Discard {mine}
          </button>
        </>
      )}
      {saving === "waiting" && (
        <button className="button" onClick={queue.dropHeld}>
          Discard {mine}
        </button>
      )}
      {(saving === "saved" || saving === "sending") && (
        <button className="icon-button" aria-label="Dismiss" onClick={queue.clearMessage}>
          <X size={15} />
        </button>
      )}
    </div>
  );
}
