import { ClipboardPaste } from "lucide-react";
import { useState } from "react";

import { useAnalysisPart, useNaming, useStudy } from "../study/context";
import { Own } from "../study/Own";
import { useView } from "../study/view";
import { notify } from "../ui/Notices";
import { NumberStrip } from "../ui/NumberStrip";
import { RowComments } from "../comments/RowComments";
import { FindBar } from "./FindBar";
import { Grid } from "./Grid";
import { Problems } from "./Problems";
import { RowActions } from "./RowActions";
import { TableMenu } from "./TableMenu";
import { useGrid } from "./useGrid";
import { later } from "../ui/later";

const CalculatedDialog = later(() => import("./CalculatedDialog").then((one) => one.CalculatedDialog));
const Panel = later(() => import("../instrument/InstrumentPanel").then((one) => one.InstrumentPanel));
const GenerateDialog = later(() => import("./GenerateDialog").then((one) => one.GenerateDialog));

/** What is read, where that is wanted, or readings come by themselves. */
function InstrumentPanel() {
  const open = useView((view) => view.instrument);
  const { instrument } = useStudy();
  return (open ?? instrument) ? <Panel /> : null;
}

/** The left side: the table and what can be done with it. */
export function Readings() {
  const summary = useAnalysisPart((analysis) => analysis.summary);
  const naming = useNaming();
  const grid = useGrid();
  const [finding, setFinding] = useState(false);
  const [generating, setGenerating] = useState(false);
  const [calculating, setCalculating] = useState(false);

  async function paste() {
    try {
      grid.paste(await navigator.clipboard.readText());
    } catch {
      notify("Choose a cell and press Ctrl+V: the browser does not let this button read the clipboard.");
    }
  }

  return (
    <section aria-label="Readings" className="flex h-full min-h-0 flex-col gap-2.5">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="text-plain font-semibold">Readings</h2>
        <span className="numerals text-note text-mute">{summary}</span>
      </div>
      {finding && <FindBar onClose={() => setFinding(false)} />}
      <Grid grid={grid} />
      <Own>
        <NumberStrip
          clock={naming.x_clock !== "" || naming.y_clock !== ""}
          onSign={grid.write}
          more={[
            { word: "→", said: "next cell", press: grid.nextCell },
            { word: "↵", said: "next row", press: grid.nextRow },
          ]}
        />
        <RowActions grid={grid} />
        <InstrumentPanel />
      </Own>
      <Problems />
      <RowComments />
      <Own>
        <div className="flex flex-wrap gap-1 [&_.button]:gap-1 [&_.button]:px-1.5">
          <button className="button" onClick={() => void paste()}>
            <ClipboardPaste size={14} /> Paste
          </button>
          <TableMenu
            onBegin={grid.begin}
            onFind={() => setFinding(true)}
            onGenerate={() => setGenerating(true)}
            onCalculate={() => setCalculating(true)}
          />
        </div>
      </Own>
      {calculating && <CalculatedDialog onClose={() => setCalculating(false)} />}
      {generating && <GenerateDialog onClose={() => setGenerating(false)} />}
    </section>
  );
}
