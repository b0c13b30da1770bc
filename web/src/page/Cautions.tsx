import { TriangleAlert } from "lucide-react";

import type { Fit } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { select } from "../study/view";

/** What one should know about the fit, each with what to do; named rows can be looked at and set aside from here. */
export function Cautions({ fit }: { fit: Fit }) {
  const study = useStudy();
  const change = useChange();
  const yColumn = Math.max(0, study.columns.findIndex((column) => column.role === "y"));
  return (
    <ul className="grid gap-2">
      {fit.cautions?.map((caution) => (
        <li key={caution.code} className="rounded-(--radius) bg-amber-well px-3 py-2 text-[13px] text-amber">
          <p className="flex gap-2">
            <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-label="Caution" />
            <span>
              <span className="font-medium">{caution.message}</span> {caution.remedy}
            </span>
          </p>
          {caution.rows.length > 0 && (
            <p className="no-print mt-1.5 flex gap-1.5 pl-6">
              <button
                className="button"
                onClick={() => select({ row: caution.rows[caution.rows.length - 1]!, col: yColumn }, { row: caution.rows[0]!, col: yColumn })}
              >
                Show
              </button>
              {caution.code === "far-off" && (
                <button
                  className="button"
                  onClick={() => change({ kind: "mark_rows", marks: caution.rows.map((row) => ({ row, reason: "far off the other readings" })) })}
                >
                  Set aside
                </button>
              )}
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
