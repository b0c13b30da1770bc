import { ArrowLeftRight, ClipboardPaste, Plus } from "lucide-react";

import { useAnalysis, useChange, useStudy } from "../study/context";
import { select } from "../study/view";
import { notify } from "../ui/Notices";
import { Grid } from "./Grid";
import { Problems } from "./Problems";
import { RowActions } from "./RowActions";
import { useGrid } from "./useGrid";

/** The left side: the table and what can be done with it. */
export function Readings() {
  const study = useStudy();
  const analysis = useAnalysis();
  const change = useChange();
  const grid = useGrid();

  async function paste() {
    try {
      grid.paste(await navigator.clipboard.readText());
    } catch {
      notify("Choose a cell and press Ctrl+V: the browser does not let this button read the clipboard.");
    }
  }

  const hasError = study.columns.some((column) => column.role === "y_error");
  return (
    <section aria-label="Readings" className="flex h-full min-h-0 flex-col gap-2.5">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="text-[13px] font-semibold">Readings</h2>
        <span className="numerals text-[11.5px] text-mute">{analysis.summary}</span>
      </div>
      <Grid grid={grid} />
      <RowActions grid={grid} />
      <Problems />
      <div className="flex flex-wrap gap-1.5">
        <button className="button" onClick={() => void paste()}>
          <ClipboardPaste size={14} /> Paste
        </button>
        <button className="button" title="What was x becomes y, and the reverse" aria-label="Swap x and y" onClick={() => change({ kind: "swap_axes" })}>
          <ArrowLeftRight size={14} /> Swap
        </button>
        {!hasError && (
          <button
            className="button"
            title="A column for the uncertainties of y"
            onClick={() => {
              change({ kind: "add_column", role: "y_error", symbol: "", unit: analysis.naming.y_unit });
              select({ row: 0, col: study.columns.length });
            }}
          >
            <Plus size={14} /> Add ±
          </button>
        )}
      </div>
    </section>
  );
}
