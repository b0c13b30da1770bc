import { ChevronRight } from "lucide-react";
import { useState } from "react";

import type { ComputedFit } from "../fits/kinds";
import { CopyTable } from "../ui/CopyTable";
import { Term } from "../ui/Hint";
import { Correlation } from "./Correlation";

/** All statistics, one step away; each label explains itself. */
export function Statistics({ fit, leading }: { fit: ComputedFit; leading: boolean }) {
  const [open, setOpen] = useState(false);
  const rows = fit.statistics;
  const table = (all: boolean) => [
    ["statistic", "value", "unit"],
    ...rows.map((row) => [row.label, row.absent || (all ? row.full : row.value), row.absent ? "" : row.unit]),
  ];
  return (
    <div className="mt-2">
      <div className="no-print flex items-center justify-between">
        <button
          aria-expanded={open}
          className="-ml-1 inline-flex items-center gap-1 rounded-sm px-1 text-plain text-mute hover:text-ink"
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={14} className={open ? "rotate-90" : ""} /> All statistics
        </button>
        {open && <CopyTable label="Copy all statistics" what="Statistics" rows={() => table(false)} full={() => table(true)} />}
      </div>
      <div className={leading && open ? "" : "hidden print:block"}>{leading && <Correlation />}</div>
      <div className="print:columns-2 print:gap-8">
        <table className={`numerals mt-1 w-full text-plain ${open ? "" : "hidden print:table"}`}>
          <caption className="sr-only">Statistics of fit {fit.letter}</caption>
          <tbody>
            {rows.map((row) => (
              <tr key={row.name} className={`border-b border-rule/60 last:border-0 ${row.absent ? "print:hidden" : ""}`}>
                <th scope="row" className="py-[3px] text-left font-normal">
                  <Term word={row.label} meaning={row.absent ? `${row.meaning} ${row.absent}` : row.meaning} />
                </th>
                <td className="py-[3px] text-right whitespace-nowrap" title={row.full || undefined}>
                  {row.absent ? <span className="text-mute">none</span> : row.value}
                  {row.unit && !row.absent && <span className="pl-1 font-book text-mute">{row.unit}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}
