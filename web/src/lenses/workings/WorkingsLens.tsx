import { FilePlus2 } from "lucide-react";
import { useCallback } from "react";

import type { Followable, Working, WorkingStep } from "../../api/client";
import { useChange, useLooking, useNaming, useStudy } from "../../study/context";
import { Own } from "../../study/Own";
import { follow, type Following, useView } from "../../study/view";
import { NotMade } from "../../ui/NotMade";
import { LensTabs } from "../LensTabs";
import { Controls } from "./Controls";
import { CopyMenu, equationsOf } from "./CopyMenu";
import { FollowedPlot } from "./FollowedPlot";
import { PathPlot } from "./PathPlot";
import { groups, Steps } from "./Steps";
import { useNextKey } from "./useNextKey";
import { useFollowables, useWorking } from "./useWorking";

/** Every result followed by hand: a fit, an answer, or a form before it is fitted. */
export function WorkingsLens() {
  const { data: found, error, refetch } = useFollowables();
  return (
    <section aria-label="Workings" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <NotMade error={error} onAgain={() => void refetch()} />
      {!error && found && found.length > 0 && <Followed found={found} />}
    </section>
  );
}

function Followed({ found }: { found: Followable[] }) {
  const following = useView((view) => view.following);
  const naming = useNaming();
  const of = found.find((one) => one.key === following.of) ?? found[0]!;
  const what = of.whats.find((one) => one.what === following.what) ?? of.whats[0]!;
  const missing = what.needs === "x" ? !following.x : what.needs === "y" ? !following.y : false;
  const { found: made, busy } = useWorking(of.key, what.what, missing, following);
  const key = `${of.key} ${what.what} ${following.x} ${following.y}`;
  return (
    <>
      <Controls found={found} of={of} what={what} following={following} x={naming.x} y={naming.y} put={follow} />
      <FollowedPlot of={of.kind === "fit" ? of.key : ""} />
      <div
        className="goes-stale relative min-h-0 grow overflow-auto border border-rule bg-sheet px-4 py-2"
        aria-busy={busy}
        tabIndex={0}
        role="region"
        aria-label="Steps"
      >
        {missing && (
          <p className="p-6 text-center text-mute">
            {what.needs === "x"
              ? `Type the ${naming.x} at which the interval is wanted.`
              : `Type the ${naming.y} whose ${naming.x} is wanted.`}
          </p>
        )}
        {made?.problem && <p className="p-6 text-center text-amber">{made.problem}</p>}
        {made?.working && <OneWorking key={key} working={made.working} of={of} what={what.what} following={following} />}
      </div>
    </>
  );
}

function OneWorking({ working, of, what, following }: { working: Working; of: Followable; what: string; following: Following }) {
  const { covered, uncovered } = following;
  const naming = useNaming();
  const change = useChange();
  const looking = useLooking();
  const { report } = useStudy();
  const { form, places, x, y } = following;
  const part = { part: "working" as const, of: of.key, what, form, places, x, y };
  const inReport = report.some(
    (one) =>
      one.part === "working" &&
      one.shown &&
      one.of === of.key &&
      one.what === what &&
      one.form === form &&
      one.places === places &&
      one.x === x &&
      one.y === y,
  );
  const addToReport = () =>
    change({ kind: "set_report", parts: [...report, { ...part, shown: true, heading: `${working.title}: ${of.name}`, text: "" }] });
  const count = groups(working.steps).length;
  const shown = covered ? Math.min(uncovered, count) : count;
  const next = useCallback(() => follow({ uncovered: Math.min(useView.getState().following.uncovered + 1, count) }), [count]);
  const after = useCallback(
    (step: WorkingStep) => {
      if (step.name !== "attempts" || of.kind !== "fit" || looking) return undefined;
      const again = (row: number) => {
        const values = working.attempts[row];
        if (!values) return <span className="text-note text-mute">now</span>;
        const take = () => change({ kind: "set_fit", letter: of.key, by_hand: true, values });
        return (
          <button className="button" aria-label={`Take attempt ${row + 1} up again`} onClick={take}>
            Use again
          </button>
        );
      };
      return again;
    },
    [working, of, change, looking],
  );
  useNextKey(covered && shown < count, next);
  return (
    <div>
      <div className="flex items-center justify-between gap-2">
        <h2 className="font-book text-title">{working.title}</h2>
        <span className="flex items-center gap-1">
          <Own>
            <button className="button" onClick={addToReport} disabled={inReport}>
              <FilePlus2 size={14} /> {inReport ? "In the report" : "Add to the report"}
            </button>
          </Own>
          <CopyMenu
            what="Working"
            label="Copy the working"
            text={working.text}
            latex={working.latex}
            equations={working.steps.flatMap(equationsOf)}
          />
        </span>
      </div>
      {working.note && <p className="text-note text-mute">{working.note}</p>}
      {working.path && (
        <div className="py-2">
          <PathPlot path={working.path} letter={of.kind === "fit" ? of.key : "A"} x={naming.x} y={naming.y} />
        </div>
      )}
      <Steps working={working} shown={shown} after={after} />
      {covered && shown < count && (
        <p className="flex items-center gap-2 py-2 text-plain text-mute">
          <button className="button-main" onClick={next}>
            Next line
          </button>
          or N; {count - shown} to come
        </p>
      )}
    </div>
  );
}
