import { LayoutGrid, Pencil, Plus } from "lucide-react";
import { useState } from "react";

import { nextModel, useCatalogue } from "../fits/catalogue";
import { Gallery } from "../fits/Gallery";
import { useCalmAnalysis, useChange, useStudy } from "../study/context";
import { EditableText } from "../ui/EditableText";
import { Hint } from "../ui/Hint";
import { Correlation } from "./Correlation";
import { Answers } from "./Answers";
import { Model } from "./Model";
import { PrintedReadings } from "./PrintedReadings";

const MOST_FITS = 6;

/** The right side: the account that writes itself and is handed in. */
export function Page() {
  const study = useStudy();
  const change = useChange();
  const analysis = useCalmAnalysis();
  const [choosing, setChoosing] = useState(false);
  const offers = useCatalogue();
  const weighted = analysis.y_error !== null;
  return (
    <article aria-label="Page" className="paper-open">
      <header className="paper-head">
        <EditableText
          label="Title"
          value={study.title}
          required
          className="font-book text-title leading-tight font-semibold"
          onCommit={(title) => change({ kind: "edit_study", title })}
        />
        <EditableText
          label="Question"
          value={study.question}
          lines
          placeholder="What is the question?"
          className="mt-0.5 font-book text-lead leading-snug text-mute italic"
          onCommit={(question) => change({ kind: "edit_study", question })}
        />
      </header>
      <div className="paper-rest">
        {analysis.fits.map((fit, place) => (
          <Model key={fit.letter} fit={fit} place={place} />
        ))}
        <div className="no-print mt-3 flex flex-wrap gap-1.5">
          {analysis.fits.length < MOST_FITS && (
            <>
              <button
                className="button"
                disabled={!offers.length}
                onClick={() => change({ kind: "add_fit", ...nextModel(offers, analysis.fits) })}
              >
                <Plus size={14} /> Add a model
              </button>
              <button className="button" onClick={() => setChoosing(true)}>
                <LayoutGrid size={14} /> All models
              </button>
              <Hint text="A curve with all its numbers given, for comparison: nothing is fitted">
                <button className="button" onClick={() => change({ kind: "add_fit", family: "formula" })}>
                  <Pencil size={14} /> Own formula or known curve
                </button>
              </Hint>
            </>
          )}
        </div>
        <Answers />
        {weighted && (
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
      </div>
      {choosing && <Gallery fit={null} onClose={() => setChoosing(false)} />}
      <PrintedReadings />
    </article>
  );
}
