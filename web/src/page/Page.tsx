import { AddModel } from "../fits/AddModel";
import { OtherComments } from "../comments/OtherComments";
import { useCalmAnalysis, useChange, useLooking, useStale, useStudy } from "../study/context";
import { Own } from "../study/Own";
import { EditableText } from "../ui/EditableText";
import { later } from "../ui/later";
import { Correlation } from "./Correlation";
import { Answers } from "./Answers";
import { Model } from "./Model";
import { PrintedReadings } from "./PrintedReadings";

const TaskPanel = later(() => import("../classes/TaskPanel").then((one) => one.TaskPanel));

/** The right side: the account that writes itself and is handed in. */
export function Page() {
  const study = useStudy();
  const change = useChange();
  const looking = useLooking();
  const analysis = useCalmAnalysis();
  const stale = useStale();
  const weighted = analysis.y_error !== null;
  return (
    <article aria-label="Page" className="paper-open">
      <header className="paper-head">
        <EditableText
          label="Title"
          value={study.title}
          required
          fixed={looking}
          className="font-book text-title leading-tight font-semibold"
          onCommit={(title) => change({ kind: "edit_study", title })}
        />
        <EditableText
          label="Question"
          value={study.question}
          lines
          fixed={looking}
          placeholder="What is the question?"
          className="mt-0.5 font-book text-lead leading-snug text-mute italic"
          onCommit={(question) => change({ kind: "edit_study", question })}
        />
      </header>
      {study.is_copy && <TaskPanel />}
      <div className="paper-rest goes-stale" aria-busy={stale}>
        <div className="no-print mt-3 -mb-2 flex items-center justify-between gap-2">
          <span className="text-note text-mute">{countOf(analysis.fits.length)}</span>
          <Own>
            <AddModel />
          </Own>
        </div>
        {analysis.fits.map((fit, place) => (
          <Model key={fit.letter} fit={fit} place={place} />
        ))}
        <Answers />
        {weighted && !looking && (
          <label className="no-print mt-3 flex items-start gap-2 text-plain">
            <input
              type="checkbox"
              className="mt-1 accent-(--color-pine)"
              checked={study.absolute_errors}
              onChange={(event) => change({ kind: "edit_study", absolute_errors: event.target.checked })}
            />
            The uncertainties are known in absolute terms, not only relative to each other
          </label>
        )}
        {!analysis.fits.length && <Correlation />}
        <OtherComments />
      </div>
      <PrintedReadings />
    </article>
  );
}

const countOf = (fits: number) => (fits === 0 ? "No model yet" : fits === 1 ? "One model" : `${fits} models, the leading one first`);
