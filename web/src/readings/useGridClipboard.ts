import type { ClipboardEvent } from "react";

import { useQueue, useStudy } from "../study/context";
import { select, setView } from "../study/view";
import { cellInSign } from "../ui/decimalSign";
import { blockToText, isPlain, linesAsCells, textToBlock } from "./clipboard";
import { type Block, textsOf } from "./gridBlock";
import type { useCellText } from "./useCellText";

/** Roles of columns into which a list of words can be pasted. */
const TAKES_WORDS: string[] = ["series", "other", "x_error", "y_error"];

interface Wanted {
  block: Block;
  text: ReturnType<typeof useCellText>;
  /** The active cell is to have the focus again. */
  want: () => void;
  clear: () => void;
}

/** Copying the selected cells and pasting over them; a table that has to be looked through first is handed on. */
export function useGridClipboard({ block, text, want, clear }: Wanted) {
  const study = useStudy();
  const queue = useQueue();
  const selected = () => blockToText(textsOf(study, block).map((line) => line.map(cellInSign)));

  function paste(pasted: string) {
    const [row, col] = [block.top, block.left];
    const plain = isPlain(pasted);
    const words = !plain && TAKES_WORDS.includes(study.columns[col]?.role ?? "") && !pasted.includes("\t");
    if (!plain && !words) return setView({ incoming: { text: pasted, at: { row, col } } });
    const cells = words ? linesAsCells(pasted) : textToBlock(pasted);
    if (!cells.length || !pasted) return;
    queue.change({ kind: "set_cells", row, column: col, block: cells });
    want();
    const width = Math.max(...cells.map((line) => line.length));
    select({ row: row + cells.length - 1, col: Math.min(col + width, study.columns.length) - 1 }, { row, col });
  }

  return {
    paste,
    /** For what has no clipboard event of its own. */
    copy: async (cut: boolean) => {
      await navigator.clipboard.writeText(selected());
      if (cut) clear();
    },
    onCopy: (event: ClipboardEvent, cut: boolean) => {
      if (text.mode !== "ready") return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", selected());
      if (cut) clear();
    },
    onPaste: (event: ClipboardEvent) => {
      const pasted = event.clipboardData.getData("text/plain");
      if (text.mode === "edit" && !/[\t\n]/.test(pasted)) return;
      event.preventDefault();
      text.finish(false);
      paste(pasted);
    },
  };
}
