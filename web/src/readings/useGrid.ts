import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";

import { useQueue, useSnapshot } from "../study/context";
import { endPreview } from "../study/preview";
import { useGesture } from "../study/useGesture";
import { litColumns, litRows, type Place, select, setView, useView } from "../study/view";
import { notify } from "../ui/Notices";
import { blockToText, isPlain, textToBlock } from "./clipboard";

/** Rows offered below the last one, so that there is always room to type. */
const SPARE = 15;
const PAGE = 12;

/** ready: keys move. replace: typing has begun, arrows keep it and move. edit: the caret is in the text. */
type Mode = "ready" | "replace" | "edit";

/** The table's behaviour: moving, selecting, typing, copying and pasting, with the habits of any table. */
export function useGrid() {
  const { study, saving } = useSnapshot();
  const queue = useQueue();
  const selection = useView((view) => view.selection);
  useView((view) => view.panel); // the focus settles when the table is shown
  const [mode, setMode] = useState<Mode>("ready");
  const [draft, setDraft] = useState("");
  const input = useRef<HTMLInputElement>(null);
  // A new study begins with the caret in its first cell.
  const wantsFocus = useRef(study.row_count === 0);
  const tabLeaves = useRef(false);
  const putCaret = useRef<number | null>(null);
  const entryColumn = useRef<number | null>(null);

  const columns = study.columns;
  const rows = study.row_count + SPARE;
  const active: Place = selection?.active ?? { row: 0, col: 0 };
  const cellText = (row: number, col: number) => columns[col]?.cells[row] ?? "";

  const { tryOut, forget, drop } = useGesture();
  // Whatever was tried out is over once the study itself has moved on.
  useEffect(endPreview, [study.version]);
  // A preview is made on what the server has, so it waits until everything before it is saved.
  const previewable = mode !== "ready" && saving === "saved" && draft !== cellText(active.row, active.col);
  const { row: previewRow, col: previewColumn } = active;
  useEffect(() => {
    if (!previewable) return;
    tryOut({ kind: "set_cells", row: previewRow, column: previewColumn, block: [[draft]] });
  }, [previewable, draft, previewRow, previewColumn, study.version, tryOut]);

  /** Called once the active cell is drawn. */
  function settleFocus() {
    if (putCaret.current !== null) input.current?.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
    if (!wantsFocus.current || !input.current) return;
    input.current.focus({ preventScroll: true });
    // While the table is hidden, in a narrow window, nothing can have the focus: it waits until the table is shown.
    if (document.activeElement !== input.current) return;
    wantsFocus.current = false;
    if (mode === "ready") input.current.select();
  }

  const within = (place: Place): Place => ({
    row: Math.min(Math.max(place.row, 0), rows - 1),
    col: Math.min(Math.max(place.col, 0), columns.length - 1),
  });

  function go(place: Place, extend = false) {
    wantsFocus.current = true;
    const target = within(place);
    select(target, extend ? (selection?.anchor ?? active) : target);
  }

  /** A whole row, or with `extend` all from the one chosen before to this. */
  function goRow(row: number, extend: boolean) {
    wantsFocus.current = true;
    const from = extend && selection ? selection.anchor.row : row;
    select({ row, col: 0 }, { row: from, col: columns.length - 1 });
  }

  /** Back to the active cell, after a menu over the table. */
  function refocus() {
    wantsFocus.current = true;
    settleFocus();
  }

  /** A sign written where the caret is, as a key of the keyboard would. */
  function write(text: string) {
    const field = input.current;
    if (!field || field.readOnly) return;
    const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
    putCaret.current = from + text.length;
    type(field.value.slice(0, from) + text + field.value.slice(to));
  }

  function nextRow() {
    finish(true);
    const col = entryColumn.current ?? active.col;
    entryColumn.current = null;
    go({ row: active.row + 1, col });
  }

  function nextCell() {
    finish(true);
    entryColumn.current ??= active.col;
    const last = active.col === columns.length - 1;
    go({ row: active.row + Number(last), col: last ? 0 : active.col + 1 });
  }

  function finish(keep: boolean) {
    if (mode === "ready") return;
    setMode("ready");
    forget();
    if (keep && draft !== cellText(active.row, active.col)) {
      queue.change({ kind: "set_cells", row: active.row, column: active.col, block: [[draft]] });
    } else {
      drop();
    }
  }

  function type(text: string) {
    if (mode === "ready") setMode("replace");
    setDraft(text);
  }

  function edit() {
    setDraft(cellText(active.row, active.col));
    setMode("edit");
    const field = input.current;
    window.requestAnimationFrame(() => field?.setSelectionRange(field.value.length, field.value.length));
  }

  function selectedBlock(): string[][] {
    const lit = litRows(selection) ?? [active.row, active.row];
    const [left, right] = selection ? litColumns(selection) : [active.col, active.col];
    return range(lit).map((row) => range([left, right]).map((col) => cellText(row, col)));
  }

  function clear() {
    const chosen = selection ? litColumns(selection) : ([active.col, active.col] as const);
    const [first, last] = [columns.findIndex((column, col) => col >= chosen[0] && !column.formula), chosen[1]];
    const block = selectedBlock().map((line) => line.slice(Math.max(0, first - chosen[0])));
    if (first < 0 || first > last || !block.flat().some(Boolean)) return;
    queue.change({
      kind: "set_cells",
      row: (litRows(selection) ?? [active.row])[0],
      column: first,
      block: block.map((line) => line.map(() => "")),
    });
  }

  /** The first of the selected rows into the others; of a single row the one above it into it. */
  function fillDown() {
    const [top, bottom] = litRows(selection) ?? [active.row, active.row];
    const [left, right] = selection ? litColumns(selection) : [active.col, active.col];
    const single = top === bottom;
    if (single && top === 0) return;
    const typed = columns.findIndex((column, col) => col >= left && !column.formula);
    if (typed < 0 || typed > right) return;
    const first = range([typed, right]).map((col) => cellText(single ? top - 1 : top, col));
    queue.change({
      kind: "set_cells",
      row: single ? top : top + 1,
      column: typed,
      block: range(single ? [top, top] : [top + 1, bottom]).map(() => first),
    });
  }

  /** The selected cells to the clipboard, for what has no clipboard event of its own. */
  async function copy(cut: boolean) {
    await navigator.clipboard.writeText(blockToText(selectedBlock()));
    if (cut) clear();
  }

  function paste(text: string) {
    const lit = litRows(selection);
    const row = lit ? lit[0] : active.row;
    const col = selection ? litColumns(selection)[0] : active.col;
    if (!isPlain(text)) {
      setView({ incoming: { text, at: { row, col } } });
      return;
    }
    const block = textToBlock(text);
    if (!block.length || !text) return;
    queue.change({ kind: "set_cells", row, column: col, block });
    wantsFocus.current = true;
    const width = Math.max(...block.map((line) => line.length));
    setView({
      selection: { anchor: { row, col }, active: { row: row + block.length - 1, col: Math.min(col + width, columns.length) - 1 } },
    });
  }

  /** Rows of the selection that exist, for what is done with whole rows. */
  function existingRows(): number[] {
    const lit = litRows(selection);
    return lit ? range(lit).filter((row) => row < study.row_count) : [];
  }

  function deleteRows() {
    const chosen = existingRows();
    if (chosen.length) queue.change({ kind: "delete_rows", rows: chosen });
  }

  function insertRows() {
    const lit = litRows(selection) ?? [active.row, active.row];
    if (lit[0] > study.row_count) return;
    queue.change({ kind: "insert_rows", at: lit[0], count: lit[1] - lit[0] + 1 });
  }

  /** Set the chosen rows aside or mark them as assumed, with a reason; null takes the mark away. */
  function mark(kind: "mark_rows" | "assume_rows", reason: string | null) {
    const chosen = existingRows();
    if (chosen.length) queue.change({ kind, marks: chosen.map((row) => ({ row, reason })) });
  }

  /** Set the chosen rows aside, or take them back where all of them are. */
  function toggleAside() {
    const aside = new Set(study.aside.map(({ row }) => row));
    mark("mark_rows", existingRows().every((row) => aside.has(row)) ? null : "");
  }

  function onKeyDown(event: KeyboardEvent<HTMLInputElement>) {
    if (event.nativeEvent.isComposing) return;
    const { key, shiftKey } = event;
    const ctrl = event.ctrlKey || event.metaKey;
    const { formula = "", name = "", symbol = "" } = columns[active.col] ?? {};
    if (formula && key.length === 1 && !ctrl && !event.altKey)
      notify(`${name || symbol || "This column"} is calculated as ${formula}: change that in its heading.`);
    const stop = () => event.preventDefault();
    const leaving = tabLeaves.current;
    tabLeaves.current = false;

    if (key === "Enter") {
      stop();
      finish(true);
      const col = !shiftKey && entryColumn.current !== null ? entryColumn.current : active.col;
      entryColumn.current = null;
      return go({ row: active.row + (shiftKey ? -1 : 1), col });
    }
    if (key === "Tab") {
      const next = active.col + (shiftKey ? -1 : 1);
      const wraps = next < 0 || next >= columns.length;
      const row = active.row + (wraps ? (shiftKey ? -1 : 1) : 0);
      if (leaving || row < 0 || row > study.row_count) return finish(true);
      stop();
      finish(true);
      entryColumn.current ??= active.col;
      return go({ row, col: (next + columns.length) % columns.length });
    }
    if (key === "Escape") {
      if (mode === "ready") tabLeaves.current = true;
      stop();
      wantsFocus.current = true; // the old text stands selected again: typing replaces it
      return finish(false);
    }
    if (key === "F2") {
      stop();
      return mode === "edit" ? setMode("replace") : edit();
    }
    const target = moveBy(event);
    if (target && mode !== "edit") {
      stop();
      finish(true);
      entryColumn.current = null;
      return go(target, shiftKey);
    }
    if (target && (key === "ArrowUp" || key === "ArrowDown")) {
      stop();
      finish(true);
      return go(target);
    }
    if (mode !== "ready") return;
    if (ctrl && key === "Delete") deleteRows();
    else if (key === "Delete" || key === "Backspace") clear();
    else if (key === "Insert") insertRows();
    else if (ctrl && key === ".") toggleAside();
    else if (ctrl && key.toLowerCase() === "d") fillDown();
    else if (ctrl && key.toLowerCase() === "a") {
      setView({ selection: { anchor: { row: 0, col: 0 }, active: { row: Math.max(0, study.row_count - 1), col: columns.length - 1 } } });
      wantsFocus.current = true;
    } else return;
    stop();
  }

  function moveBy(event: KeyboardEvent): Place | null {
    const far = event.ctrlKey || event.metaKey;
    const { row, col } = active;
    const last = Math.max(0, study.row_count - 1);
    switch (event.key) {
      case "ArrowDown":
        return { row: far ? last : row + 1, col };
      case "ArrowUp":
        return { row: far ? 0 : row - 1, col };
      case "ArrowRight":
        return { row, col: far ? columns.length - 1 : col + 1 };
      case "ArrowLeft":
        return { row, col: far ? 0 : col - 1 };
      case "PageDown":
        return { row: row + PAGE, col };
      case "PageUp":
        return { row: row - PAGE, col };
      case "Home":
        return { row: far ? 0 : row, col: 0 };
      case "End":
        return { row: far ? last : row, col: columns.length - 1 };
      default:
        return null;
    }
  }

  function onCopy(event: ClipboardEvent, cut: boolean) {
    if (mode !== "ready") return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", blockToText(selectedBlock()));
    if (cut) clear();
  }

  function onPaste(event: ClipboardEvent) {
    const text = event.clipboardData.getData("text/plain");
    if (mode === "edit" && !/[\t\n]/.test(text)) return;
    event.preventDefault();
    finish(false);
    paste(text);
  }

  return {
    rows,
    active,
    selection,
    mode,
    draft,
    input,
    cellText,
    go,
    edit,
    finish,
    type,
    paste,
    copy,
    clear,
    fillDown,
    refocus,
    goRow,
    write,
    nextRow,
    nextCell,
    deleteRows,
    insertRows,
    mark,
    toggleAside,
    onKeyDown,
    onCopy,
    onPaste,
    settleFocus,
  };
}

export type GridControl = ReturnType<typeof useGrid>;

function range([first, last]: [number, number]): number[] {
  return Array.from({ length: last - first + 1 }, (_, i) => first + i);
}
