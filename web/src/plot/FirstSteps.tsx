import { Plus } from "lucide-react";

import { openPicture } from "../picture/openPicture";
import { FileButton } from "../readings/FileButton";
import { navigate } from "../route";
import { useQueue } from "../study/context";
import { setView } from "../study/view";

/** In place of bare axes: the ways in which readings come into a study. */
export function FirstSteps() {
  const queue = useQueue();
  return (
    <div className="grid h-full place-content-center overflow-auto p-4">
      <section aria-label="Ways to begin" className="max-w-[26rem] border border-rule bg-well px-5 py-4">
        <h2 className="font-book text-lead font-semibold">No readings yet</h2>
        <ul className="mt-2 grid list-disc gap-1.5 pl-4">
          <li>Type x and y into the table; Enter goes to the next row.</li>
          <li>Paste a table anywhere on this page: from a spreadsheet, a text, a message.</li>
          <li>Drop a file here, or open one: CSV, TSV, JSON, ODS or XLSX.</li>
          <li>Read them off a picture: drop, paste or open a PNG, JPEG or WebP, and press where they are.</li>
        </ul>
        <p className="mt-3 flex flex-wrap gap-1.5">
          <FileButton
            word="Open file"
            label="A file to begin with"
            className="button-main"
            onTable={(incoming) => setView({ incoming })}
            onPicture={(file) => openPicture(queue, file)}
          />
          <button className="button" onClick={() => setView({ tool: "add" })}>
            <Plus size={14} /> Press them onto the plot
          </button>
          <button className="button" onClick={() => setView({ instrument: true, panel: "readings" })}>
            Read an instrument
          </button>
          <button className="button" onClick={() => navigate("/")}>
            Look at a sample
          </button>
        </p>
      </section>
    </div>
  );
}
