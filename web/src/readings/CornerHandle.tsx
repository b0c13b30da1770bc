import type { PointerEvent, RefObject } from "react";

import { litColumns, litRows, select, useView } from "../study/view";
import { cellAt } from "./cellAt";
import type { GridControl } from "./useGrid";

/** A corner of the selected block that a finger drags to make it larger or smaller; a mouse selects without it. */
export function CornerHandle({ end, latest }: { end: "top" | "bottom"; latest: RefObject<GridControl> }) {
  function begin(event: PointerEvent<HTMLSpanElement>) {
    event.preventDefault();
    event.stopPropagation();
    latest.current.finish(true);
    const { selection } = useView.getState();
    const rows = litRows(selection);
    if (!selection || !rows) return;
    const [left, right] = litColumns(selection);
    const [first, last] = [
      { row: rows[0], col: left },
      { row: rows[1], col: right },
    ];
    // What is dragged is the active end; the other corner stays.
    if (end === "bottom") select(last, first);
    else select(first, last);
    // The corner moves on to other cells while it is dragged, so the window listens.
    const stop = () => {
      window.removeEventListener("pointermove", drag);
      window.removeEventListener("pointerup", stop);
      window.removeEventListener("pointercancel", stop);
    };
    window.addEventListener("pointermove", drag);
    window.addEventListener("pointerup", stop);
    window.addEventListener("pointercancel", stop);
  }
  function drag(event: globalThis.PointerEvent) {
    const under = document.elementsFromPoint(event.clientX, event.clientY).find((element) => cellAt(element));
    const cell = cellAt(under ?? null);
    if (cell) latest.current.go(cell, true);
  }
  return (
    <span
      data-testid={`corner-${end}`}
      onPointerDown={begin}
      className={`absolute hidden size-8 touch-none place-content-center pointer-coarse:grid ${end === "top" ? "top-0 left-0 -translate-1/2" : "right-0 bottom-0 translate-1/2"}`}
    >
      <span className="size-3 rounded-full border-2 border-sheet bg-pine" />
    </span>
  );
}
