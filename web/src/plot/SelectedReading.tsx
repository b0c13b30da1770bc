import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { memo } from "react";

import { api } from "../api/client";
import { useAnalysisPart, useStudy } from "../study/context";
import { litRows, useView } from "../study/view";
import type { Areas } from "./areas";
import { WithoutIt } from "./WithoutIt";
import { groupDigits } from "../ui/numbers";

/** The chosen reading in one line, in the room between plot and strip: observed, on the line, residual, how unusual. */
export const SelectedReading = memo(function SelectedReading({ areas }: { areas: Areas }) {
  const study = useStudy();
  const lit = litRows(useView((view) => view.selection));
  const row = lit && lit[0] === lit[1] && lit[0] < study.row_count ? lit[0] : null;
  const leading = useAnalysisPart((analysis) => analysis.fits[0]?.letter);
  const { data } = useQuery({
    queryKey: ["row", study.id, study.version, row],
    enabled: row !== null,
    placeholderData: keepPreviousData,
    queryFn: async () =>
      (await api.GET("/api/studies/{study_id}/rows/{row}", { params: { path: { study_id: study.id, row: row! } } })).data ?? null,
  });
  const filling = useView((view) => view.filling);
  const incomplete = useAnalysisPart((analysis) => analysis.problems.some((problem) => problem.incomplete && problem.row === row));
  // Of a row between its x and its y nothing is said until it is left.
  const entries = row !== null && data && data.row === row && !(incomplete && row === filling) ? data.entries : null;
  return (
    <p
      aria-live="polite"
      className="no-print numerals pointer-events-none absolute z-[1] px-1 text-note leading-[18px] text-mute [&_button]:pointer-events-auto [&:has([data-without])_[data-entry]]:hidden [&>*]:bg-sheet"
      style={{ left: areas.left, right: 8, top: areas.floor + (areas.stripFloor > areas.stripTop ? 5 : -24) }}
      data-testid="chosen"
    >
      {entries && (
        <>
          <span className="mr-1.5 font-semibold text-ink">Row {row! + 1}</span>
          {entries.some(({ label }) => label === "leverage") && <WithoutIt letter={leading} row={row!} called="without it" />}
          {entries
            .filter(({ label }) => label !== "status")
            .map(({ label, value }) => (
              <span key={label} data-entry className="mr-2 ml-1 inline-block">
                {label} <span className="text-ink">{value}</span>
              </span>
            ))}
          {entries[0]?.value === "set aside" && <span className="ml-1">set aside</span>}
        </>
      )}
      {!entries && lit && lit[1] > lit[0] && (
        <span className="text-ink">{groupDigits(Math.min(lit[1], study.row_count - 1) - lit[0] + 1)} rows chosen</span>
      )}
    </p>
  );
});
