import { Printer, Send } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";

import { useStudy } from "../study/context";
import { setView, useView } from "../study/view";
import { copyPicture } from "../page/copy";
import { SaveLink } from "../ui/SaveLink";
import { printReport } from "./print";

const PICTURES = ["png", "jpg", "tiff"];
const FIGURES: [string, string][] = [
  ["svg", "SVG, for documents and the web"],
  ["pdf", "PDF"],
  ["eps", "EPS"],
  ["png", "PNG picture"],
  ["jpg", "JPEG picture"],
  ["tiff", "TIFF picture"],
];
const REPORTS = ["pdf", "html", "docx"];
const TABLES: [string, string][] = [
  ["csv", "CSV"],
  ["xlsx", "XLSX workbook"],
  ["ods", "ODS spreadsheet"],
];

/** Everything that goes out, in one place: the report on paper or as a file, the figure as it is seen, tables, script and study. */
export function HandIn() {
  const { id } = useStudy();
  const seen = useView((view) => view.seen);
  const lens = useView((view) => view.lens);
  const [kind, setKind] = useState("svg");
  const [width, setWidth] = useState("170");
  const [resolution, setResolution] = useState("300");
  const [grey, setGrey] = useState(false);
  const wide = Number(width.replace(",", "."));
  const wrong = !(wide >= 40 && wide <= 420);
  const query = new URLSearchParams({ width: String(wide), resolution, grey: String(grey) });
  if (seen) {
    query.set("x_low", String(seen.x[0]));
    query.set("x_high", String(seen.x[1]));
    query.set("y_low", String(seen.y[0]));
    query.set("y_high", String(seen.y[1]));
    if (seen.aspect) query.set("aspect", String(Math.min(Math.max(seen.aspect, 0.3), 2)));
  }
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button className="button-main">
          <Send size={15} /> <span className="max-sm:sr-only">Hand in</span>
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="floating grid max-h-(--radix-popover-content-available-height) w-80 gap-3 overflow-y-auto"
          aria-label="Hand in"
        >
          <div className="grid gap-2">
            <h2 className="font-book text-[15px] font-semibold">The report</h2>
            <div className="flex flex-wrap items-center gap-1.5">
              <Popover.Close className="button-main" onClick={() => printReport(id)}>
                <Printer size={14} /> Print
              </Popover.Close>
              {REPORTS.map((name) => (
                <SaveLink key={name} className="button" href={`/api/studies/${id}/report.${name}`}>
                  <span className="sr-only">Report as </span>
                  {name.toUpperCase()}
                </SaveLink>
              ))}
              {lens !== "report" && (
                <Popover.Close className="button" onClick={() => setView({ lens: "report", panel: "plot" })}>
                  Edit report
                </Popover.Close>
              )}
            </div>
          </div>
          <div className="grid gap-2 border-t border-rule pt-3">
            <h2 className="font-book text-[15px] font-semibold">Figure as shown</h2>
            <select className="field" aria-label="Format of the figure" value={kind} onChange={(event) => setKind(event.target.value)}>
              {FIGURES.map(([name, word]) => (
                <option key={name} value={name}>
                  {word}
                </option>
              ))}
            </select>
            <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
              <label className="flex items-center gap-1.5">
                width
                <input
                  className="field numerals w-16 text-right"
                  inputMode="decimal"
                  aria-label="Width in millimetres"
                  aria-invalid={wrong}
                  value={width}
                  onChange={(event) => setWidth(event.target.value)}
                />
                mm
              </label>
              {PICTURES.includes(kind) && (
                <select
                  className="field"
                  aria-label="Resolution"
                  value={resolution}
                  onChange={(event) => setResolution(event.target.value)}
                >
                  {["150", "300", "600"].map((dots) => (
                    <option key={dots} value={dots}>
                      {dots} dpi
                    </option>
                  ))}
                </select>
              )}
            </div>
            {wrong && (
              <p role="alert" className="text-[12.5px] text-amber">
                The width has to be between 40 and 420 mm.
              </p>
            )}
            <label className="flex items-center gap-2">
              <input type="checkbox" className="accent-(--color-pine)" checked={grey} onChange={(event) => setGrey(event.target.checked)} />
              black and white, distinguished by dashes
            </label>
            {!wrong && (
              <div className="flex flex-wrap gap-1.5">
                <SaveLink className="button" href={`/api/studies/${id}/figure.${kind}?${query}`}>
                  Export the figure
                </SaveLink>
                <button className="button" onClick={() => void copyPicture(`/api/studies/${id}/figure.png?${query}`)}>
                  Copy as a picture
                </button>
              </div>
            )}
          </div>
          <div className="grid gap-2 border-t border-rule pt-3">
            <h2 className="font-book text-[15px] font-semibold">Readings, fitted values, residuals</h2>
            <p className="text-[12.5px] text-mute">A workbook also holds the fits, the answers and how they were made.</p>
            <div className="flex flex-wrap gap-1.5">
              {TABLES.map(([name, word]) => (
                <SaveLink key={name} className="button" href={`/api/studies/${id}/readings.${name}`}>
                  {word}
                </SaveLink>
              ))}
            </div>
          </div>
          <div className="grid gap-2 border-t border-rule pt-3">
            <h2 className="font-book text-[15px] font-semibold">The whole study</h2>
            <SaveLink className="button" href={`/api/studies/${id}/study.json`}>
              Study file, to keep or to open elsewhere
            </SaveLink>
            <SaveLink className="button" href={`/api/studies/${id}/script.py`}>
              Python script with NumPy and SciPy
            </SaveLink>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
