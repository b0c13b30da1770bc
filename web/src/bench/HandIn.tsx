import { Printer, Send } from "lucide-react";
import { Popover } from "radix-ui";
import type { ReactNode } from "react";

import { useLooking, useStudy } from "../study/context";
import { Own } from "../study/Own";
import { setView, useView } from "../study/view";
import { SaveLink } from "../ui/SaveLink";
import { FigureForm } from "./FigureForm";
import { MakeWorksheet } from "../classes/MakeWorksheet";
import { Links } from "./Links";
import { printReport } from "./print";

const REPORTS = ["pdf", "html", "docx"];
const TABLES: [string, string][] = [
  ["csv", "CSV"],
  ["xlsx", "XLSX workbook"],
  ["ods", "ODS spreadsheet"],
];

/** Everything that goes out, in one place: the report on paper or as a file, the figure as it is seen, tables, script and study. */
export function HandIn() {
  const { id } = useStudy();
  const looking = useLooking();
  const word = looking ? "Save" : "Hand in";
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button className={looking ? "bar-button" : "button-main"}>
          <Send size={15} /> <span className="max-sm:sr-only">{word}</span>
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="floating grid max-h-(--radix-popover-content-available-height) w-80 gap-3 overflow-y-auto"
          aria-label={word}
        >
          <Part title="The report">
            <Report id={id} />
          </Part>
          <Own>
            <Part title="A link to look">
              <Links id={id} />
            </Part>
            <Part title="For a class">
              <MakeWorksheet id={id} />
            </Part>
          </Own>
          <Part title="Figure as shown">
            <FigureForm id={id} />
          </Part>
          <Part title="Readings, fitted values, residuals">
            <p className="text-note text-mute">A workbook also holds the fits, the answers and how they were made.</p>
            <div className="flex flex-wrap gap-1.5">
              {TABLES.map(([name, word]) => (
                <SaveLink key={name} className="button" href={`/api/studies/${id}/readings.${name}`}>
                  {word}
                </SaveLink>
              ))}
            </div>
          </Part>
          <Part title="The whole study">
            <SaveLink className="button" href={`/api/studies/${id}/study.json`}>
              Study file, to keep or to open elsewhere
            </SaveLink>
            <SaveLink className="button" href={`/api/studies/${id}/script.py`}>
              Python script with NumPy and SciPy
            </SaveLink>
          </Part>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="grid gap-2 border-rule not-first:border-t not-first:pt-3">
      <h2 className="font-book text-lead font-semibold">{title}</h2>
      {children}
    </div>
  );
}

function Report({ id }: { id: string }) {
  const lens = useView((view) => view.lens);
  const looking = useLooking();
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Popover.Close className="button" onClick={() => printReport(id)}>
        <Printer size={14} /> Print
      </Popover.Close>
      {REPORTS.map((name) => (
        <SaveLink key={name} className="button" href={`/api/studies/${id}/report.${name}`}>
          <span className="sr-only">Report as </span>
          {name.toUpperCase()}
        </SaveLink>
      ))}
      {lens !== "report" && !looking && (
        <Popover.Close className="button" onClick={() => setView({ lens: "report", panel: "plot" })}>
          Edit report
        </Popover.Close>
      )}
    </div>
  );
}
