import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";

import type { Working, WorkingStep } from "../../api/client";
import { useStudy } from "../../study/context";
import { chooseReading, setView } from "../../study/view";
import { lightsOf } from "./lights";
import { trace, type Spot } from "./origins";
import { saidOf } from "./said";
import { StepView } from "./StepView";

interface Props {
  working: Working;
  /** How many lines are uncovered. */
  shown: number;
  /** A button at the end of a row of a step. */
  after: (step: WorkingStep) => ((row: number) => ReactNode) | undefined;
}

/** The steps of a working under one another, detail folded. */
export function Steps({ working, shown, after }: Props) {
  const { columns } = useStudy();
  const [spot, setSpot] = useState<Spot | null>(null);
  const traced = useMemo(() => (spot ? trace(working.steps, spot) : null), [working, spot]);
  const source = traced?.readings[0] ?? null;
  useEffect(() => {
    setView({ source });
    return () => setView({ source: null });
  }, [source]);
  const choose = useCallback((row: number) => chooseReading(columns, row), [columns]);
  const view = (place: number) => (
    <StepView
      step={working.steps[place]!}
      place={place}
      lights={lightsOf(place, spot, traced)}
      onPoint={setSpot}
      onReading={choose}
      after={after(working.steps[place]!)}
    />
  );
  return (
    <>
      <p className="sr-only" aria-live="polite">
        {spot && traced ? saidOf(working.steps, spot, traced) : ""}
      </p>
      <ol className="divide-y divide-rule/60">
        {groups(working.steps)
          .slice(0, shown)
          .map((group) =>
            working.steps[group[0]!]!.folded ? (
              <Folded key={group[0]} count={group.length} what={working.steps[group[0]!]!.kind} lines={group.map(view)} />
            ) : (
              <li key={group[0]}>{view(group[0]!)}</li>
            ),
          )}
      </ol>
    </>
  );
}

/** Steps that follow one another folded, together; each of the others alone. */
export function groups(steps: WorkingStep[]): number[][] {
  const found: number[][] = [];
  steps.forEach((step, place) => {
    const last = found[found.length - 1];
    const before = last && steps[last[0]!]!;
    const joins = before && before.folded && step.folded && (before.kind === "operation") === (step.kind === "operation");
    if (joins) last.push(place);
    else found.push([place]);
  });
  return found;
}

const FOLDED: Partial<Record<WorkingStep["kind"], string>> = {
  operation: "Row operations",
  matrix: "Back substitution",
  equation: "The pieces as equations",
};

function Folded({ count, what, lines }: { count: number; what: WorkingStep["kind"]; lines: ReactNode[] }) {
  const [open, setOpen] = useState(0);
  const title = FOLDED[what] ?? "Detail";
  return (
    <li className="py-1.5">
      <div className="flex flex-wrap items-center gap-2 text-plain">
        <span className="font-semibold text-mute">
          {title} ({open < count ? `${open} of ${count}` : count})
        </span>
        {open < count && (
          <button className="button" onClick={() => setOpen(open + 1)}>
            Show next
          </button>
        )}
        {open < count && (
          <button className="button" onClick={() => setOpen(count)}>
            Show all
          </button>
        )}
        {open > 0 && (
          <button className="button" onClick={() => setOpen(0)}>
            Hide
          </button>
        )}
      </div>
      <div className="pl-4">
        {lines.slice(0, open).map((line, place) => (
          <div key={place}>{line}</div>
        ))}
      </div>
    </li>
  );
}
