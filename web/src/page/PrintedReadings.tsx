import { memo } from "react";

import { useStudy } from "../study/context";
import { Symbol } from "../ui/Symbol";

const MOST = 200;

/** The table for paper; on the screen it stands on the left. */
export const PrintedReadings = memo(function PrintedReadings() {
  const study = useStudy();
  const aside = new Map(study.aside.map(({ row, reason }) => [row, reason || "set aside"]));
  const rows = Math.min(study.row_count, MOST);
  return (
    <section className="paper-table mt-6 hidden print:block" aria-hidden="true">
      <h2 className="text-note font-semibold">Readings</h2>
      <div className="columns-2 gap-8">
        <table className="numerals w-full text-note">
          <thead>
            <tr className="border-b border-ink">
              <th className="text-left font-normal">row</th>
              {study.columns.map((column) => (
                <th key={column.key} className="pl-3 text-right font-normal">
                  {column.symbol ? <Symbol text={column.symbol} /> : column.name}
                  {column.over && ` / ${column.over}`}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: rows }, (_, row) => (
              <tr key={row} className="break-inside-avoid">
                <td>
                  {row + 1}
                  {aside.has(row) && ` (${aside.get(row)})`}
                </td>
                {study.columns.map((column) => (
                  <td key={column.key} className="pl-3 text-right">
                    {column.cells[row]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {study.row_count > MOST && (
        <p className="text-note">
          The first {MOST} of {study.row_count} rows.
        </p>
      )}
    </section>
  );
});
