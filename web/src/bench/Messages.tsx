import { X } from "lucide-react";

import { useQueue, useSnapshot } from "../study/context";

/** What was refused, or changed elsewhere, said above the bench; nothing typed is lost. */
export function Messages() {
  const queue = useQueue();
  const { saving, message, held } = useSnapshot();
  if (!message) return null;
  return (
    <div role="alert" className="no-print flex flex-wrap items-center gap-3 bg-amber-well px-4 py-2 text-[13px] text-amber">
      <span className="grow">{message}</span>
      {saving === "conflict" ? (
        <>
          <button className="button" onClick={queue.applyHeld}>
            Make my {held === 1 ? "change" : `${held} changes`} on the newer state
          </button>
          <button className="button" onClick={queue.dropHeld}>
            Leave it as it is now
          </button>
        </>
      ) : (
        <button className="icon-button" aria-label="Dismiss" onClick={queue.clearMessage}>
          <X size={15} />
        </button>
      )}
    </div>
  );
}
