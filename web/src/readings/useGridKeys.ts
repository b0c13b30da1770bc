import { type KeyboardEvent, type RefObject, useRef } from "react";

import { useStudy } from "../study/context";
import type { Place } from "../study/view";
import { notify } from "../ui/Notices";
import { beside, movedBy } from "./gridMoves";
import type { useCellText } from "./useCellText";

interface Wanted {
  text: ReturnType<typeof useCellText>;
  active: Place;
  /** The column in which a run of entries began: Enter goes back to it. */
  entryRef: RefObject<number | null>;
  go: (place: Place, extend?: boolean) => void;
  edit: () => void;
  /** The active cell is to have the focus again. */
  want: () => void;
  selectAll: () => void;
  clear: () => void;
  fillDown: () => void;
  deleteRows: () => void;
  insertRows: () => void;
  toggleAside: () => void;
}

/** What the keys do in the table; letters and signs are left to the cell. */
export function useGridKeys({ text, active, entryRef, go, edit, want, ...whole }: Wanted) {
  const { row_count, columns } = useStudy();
  // After Escape a Tab leaves the table instead of going on to the next cell.
  const tabLeaves = useRef(false);
  const size = { rows: row_count, columns: columns.length };

  function onEnter({ shiftKey }: KeyboardEvent) {
    text.finish(true);
    const col = !shiftKey && entryRef.current !== null ? entryRef.current : active.col;
    entryRef.current = null;
    go({ row: active.row + (shiftKey ? -1 : 1), col });
  }

  /** Whether Tab stays in the table. */
  function onTab({ shiftKey }: KeyboardEvent, leaving: boolean): boolean {
    const next = leaving ? null : beside(active, shiftKey, size);
    text.finish(true);
    if (!next) return false;
    entryRef.current ??= active.col;
    go(next);
    return true;
  }

  /** Whether the key moves; while the caret is in a text, only up and down do. */
  function onMove(event: KeyboardEvent): boolean {
    const target = movedBy(event.key, event.ctrlKey || event.metaKey, active, size);
    const within = text.mode === "edit";
    if (!target || (within && event.key !== "ArrowUp" && event.key !== "ArrowDown")) return false;
    text.finish(true);
    if (!within) entryRef.current = null;
    go(target, event.shiftKey && !within);
    return true;
  }

  function onCommand({ key, ctrlKey, metaKey }: KeyboardEvent): boolean {
    const ctrl = ctrlKey || metaKey;
    const letter = ctrl ? key.toLowerCase() : "";
    if (ctrl && key === "Delete") whole.deleteRows();
    else if (key === "Delete" || key === "Backspace") whole.clear();
    else if (key === "Insert") whole.insertRows();
    else if (ctrl && key === ".") whole.toggleAside();
    else if (letter === "d") whole.fillDown();
    else if (letter === "a") whole.selectAll();
    else return false;
    return true;
  }

  function used(event: KeyboardEvent, leaving: boolean): boolean {
    switch (event.key) {
      case "Enter":
        onEnter(event);
        return true;
      case "Tab":
        return onTab(event, leaving);
      case "Escape":
        tabLeaves.current = text.mode === "ready";
        // The old text stands selected again: typing replaces it. Where nothing was typed, nothing may call the focus back later.
        if (!tabLeaves.current) want();
        text.finish(false);
        return true;
      case "F2":
        if (text.mode === "edit") text.setMode("replace");
        else edit();
        return true;
      default:
        return onMove(event) || (text.mode === "ready" && onCommand(event));
    }
  }

  return (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.nativeEvent.isComposing) return;
    const { formula = "", name = "", symbol = "" } = columns[active.col] ?? {};
    if (formula && event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey)
      notify(`${name || symbol || "This column"} is calculated as ${formula}: change that in its heading.`);
    const leaving = tabLeaves.current;
    tabLeaves.current = false;
    if (used(event, leaving)) event.preventDefault();
  };
}
