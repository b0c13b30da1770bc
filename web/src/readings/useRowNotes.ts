import { useEffect, useMemo, useState } from "react";

import type { HeldStudy } from "../study/changes";
import { computed } from "../fits/kinds";
import { useCalmAnalysis, useStudy } from "../study/context";
import { STATUS } from "../study/status";
import { setView } from "../study/view";

/** What is said of each row of the table: its marks, what is wrong with it, what its unknown is, how far off the curve it lies. */
export function useRowNotes(activeRow: number) {
  const { columns, aside, assumed } = useStudy();
  const analysis = useCalmAnalysis();
  const asideReasons = useMemo(() => new Map(aside.map(({ row, reason }) => [row, reason])), [aside]);
  const assumedReasons = useMemo(() => new Map(assumed.map(({ row, reason }) => [row, reason])), [assumed]);
  const unknowns = useMemo(
    () => new Map(analysis.unknowns.flatMap((unknown) => unknown.rows.map((row) => [row, unknown.short] as const))),
    [analysis.unknowns],
  );
  const noValue = useMemo(
    () => new Map(columns.map((column) => [column.key, new Map(column.no_value.map(({ row, why }) => [row, why]))])),
    [columns],
  );
  const residuals = computed(analysis.fits[0])?.residuals;
  const largest = useMemo(() => largestUsed(residuals ?? [], analysis.status), [residuals, analysis.status]);
  const { problemOf, setInside } = useProblems(activeRow);
  return {
    aside: (row: number) => asideReasons.get(row),
    assumed: (row: number) => assumedReasons.get(row),
    unknown: (row: number) => unknowns.get(row) ?? "",
    /** Why each calculated cell of a row has no value, with NUL between them. */
    noValue: (row: number) => columns.map((column) => noValue.get(column.key)?.get(row) ?? "").join("\0"),
    /** The residual as a share of the largest in use; more than one where a reading that is set aside lies farther off. */
    share: (row: number) => {
      const residual = residuals?.[row];
      return residual == null ? null : largest > 0 ? residual / largest : 0;
    },
    problemOf,
    setInside,
  };
}

/** Problems row by row; while a row is being filled in, what is missing in it is not yet one. */
function useProblems(activeRow: number) {
  const { problems: all } = useCalmAnalysis();
  const problems = useMemo(() => new Map(all.map((problem) => [problem.row, problem])), [all]);
  const { columns } = useStudy();
  // A row that was already begun when it was entered is not being filled in: what is missing in it is said all the time.
  const [entered, setEntered] = useState({ row: -1, begun: false });
  if (entered.row !== activeRow) setEntered({ row: activeRow, begun: isBegun(columns, activeRow) });
  const [inside, setInside] = useState(false);
  const filling = inside && entered.row === activeRow && !entered.begun ? activeRow : null;
  useEffect(() => setView({ filling }), [filling]);
  const problemOf = (row: number) => {
    const problem = problems.get(row);
    return problem && !(problem.incomplete && row === filling) ? problem : undefined;
  };
  return { problemOf, setInside };
}

/** Whether a row holds one of x and y, but not all of them. */
function isBegun(columns: HeldStudy["columns"], row: number): boolean {
  const texts = columns.filter(({ role }) => role === "x" || role === "y").map(({ cells }) => cells[row] ?? "");
  return texts.some(Boolean) && !texts.every(Boolean);
}

function largestUsed(residuals: (number | null)[], status: number[]): number {
  let most = 0;
  residuals.forEach((value, row) => {
    if (value !== null && status[row] === STATUS.used) most = Math.max(most, Math.abs(value));
  });
  return most;
}
