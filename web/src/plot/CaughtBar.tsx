import { useState } from "react";

import { useChange, useStudy } from "../study/context";
import { setView, useView } from "../study/view";

/** What to do with the readings that a region has selected. */
export function CaughtBar() {
  const caught = useView((view) => view.caught);
  const study = useStudy();
  const change = useChange();
  const [reason, setReason] = useState("");
  if (!caught) return null;
  const aside = new Set(study.aside.map(({ row }) => row));
  const used = caught.filter((row) => !aside.has(row));
  const back = caught.filter((row) => aside.has(row));
  const mark = (rows: number[], why: string | null) => {
    change({ kind: "mark_rows", marks: rows.map((row) => ({ row, reason: why })) });
    setReason("");
    setView({ caught: null });
  };
  return (
    <form
      aria-label="Readings in the region"
      className="no-print absolute top-2 left-1/2 z-10 flex max-w-[94%] -translate-x-1/2 flex-wrap items-center gap-1.5 rounded-(--radius) border border-edge bg-sheet px-2 py-1.5 text-plain"
      onSubmit={(event) => {
        event.preventDefault();
        if (used.length) mark(used, reason.trim());
      }}
    >
      <span className="numerals">
        {caught.length} {caught.length === 1 ? "reading" : "readings"} in the region
      </span>
      {used.length > 0 && (
        <>
          <input
            className="field w-36"
            aria-label="Reason for setting them aside"
            placeholder="reason"
            maxLength={200}
            autoFocus
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <button className="button-main">Set aside</button>
        </>
      )}
      {back.length > 0 && (
        <button type="button" className="button" onClick={() => mark(back, null)}>
          Use again
        </button>
      )}
      <button type="button" className="button" onClick={() => setView({ caught: null })}>
        Cancel
      </button>
    </form>
  );
}
