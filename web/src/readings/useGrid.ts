import { useRef } from "react";

import type { Change } from "../api/client";
import { useQueue, useStudy } from "../study/context";
import { type Place, select, useView } from "../study/view";
import { blockOf, clearing, deleting, fillingDown, inserting, marking, togglingAside } from "./gridBlock";
import { useCellText } from "./useCellText";
import { useGridClipboard } from "./useGridClipboard";
import { useGridFocus } from "./useGridFocus";
import { useGridKeys } from "./useGridKeys";

/** Rows offered below the last one, so that there is always room to type. */
const SPARE = 15;

/** The table's behaviour: moving, selecting, typing, copying and pasting, with the habits of any table. */
export function useGrid() {
  const study = useStudy();
  const queue = useQueue();
  const selection = useView((view) => view.selection);
  useView((view) => view.panel); // the focus settles when the table is shown
  const entryRef = useRef<number | null>(null);
  const columns = study.columns;
  const rows = study.row_count + SPARE;
  const active: Place = selection?.active ?? { row: 0, col: 0 };
  const text = useCellText(active);
  // A new study begins with the caret in its first cell.
  const focus = useGridFocus(study.row_count === 0, text.mode === "ready");
  const block = blockOf(selection, active);
  const make = (change: Change | null) => change && queue.change(change);

  function go({ row, col }: Place, extend = false) {
    focus.want();
    const target = { row: Math.min(Math.max(row, 0), rows - 1), col: Math.min(Math.max(col, 0), columns.length - 1) };
    select(target, extend ? (selection?.anchor ?? active) : target);
  }

  /** To a cell of a column that is being added: the focus comes with it. */
  function begin(place: Place) {
    focus.want();
    select(place);
  }

  /** A whole row, or with `extend` all from the one chosen before to this. */
  function goRow(row: number, extend: boolean) {
    focus.want();
    const from = extend && selection ? selection.anchor.row : row;
    select({ row, col: 0 }, { row: from, col: columns.length - 1 });
  }

  function nextRow() {
    text.finish(true);
    const col = entryRef.current ?? active.col;
    entryRef.current = null;
    go({ row: active.row + 1, col });
  }

  function nextCell() {
    text.finish(true);
    entryRef.current ??= active.col;
    const last = active.col === columns.length - 1;
    go({ row: active.row + Number(last), col: last ? 0 : active.col + 1 });
  }

  function edit() {
    text.edit();
    focus.caretAtEnd();
  }

  const clear = () => make(clearing(study, block));
  function selectAll() {
    focus.want();
    select({ row: Math.max(0, study.row_count - 1), col: columns.length - 1 }, { row: 0, col: 0 });
  }

  const rowActions = {
    clear,
    fillDown: () => make(fillingDown(study, block)),
    deleteRows: () => make(deleting(study, block)),
    insertRows: () => make(inserting(study, block)),
    toggleAside: () => make(togglingAside(study, block)),
    mark: (kind: "mark_rows" | "assume_rows", reason: string | null) => make(marking(study, block, kind, reason)),
  };
  const onKeyDown = useGridKeys({ text, active, entryRef, go, edit, selectAll, want: focus.want, ...rowActions });
  return {
    rows,
    active,
    selection,
    mode: text.mode,
    draft: text.draft,
    input: focus.input,
    type: text.type,
    finish: text.finish,
    settleFocus: focus.settle,
    refocus: focus.refocus,
    write: (sign: string) => focus.write(sign, text.type),
    ...{ go, begin, goRow, nextRow, nextCell, edit, onKeyDown },
    ...useGridClipboard({ block, text, want: focus.want, clear }),
    ...rowActions,
  };
}

export type GridControl = ReturnType<typeof useGrid>;
