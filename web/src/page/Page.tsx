import { useAnalysis, useChange, useStudy } from "../study/context";
import { EditableText } from "../ui/EditableText";
import { Term } from "../ui/Hint";
import { Answers } from "./Answers";
import { Cautions } from "./Cautions";
import { Equation } from "./Equation";
import { Parameters } from "./Parameters";
import { PrintedReadings } from "./PrintedReadings";
import { Section } from "./Section";
import { Statistics } from "./Statistics";

/** The right side: the account that writes itself and is handed in. */
export function Page() {
  const study = useStudy();
  const change = useChange();
  const analysis = useAnalysis();
  const fit = analysis.fits[0];
  const weighted = study.columns.some((column) => column.role === "y_error" && column.cells.some(Boolean));
  return (
    <article aria-label="Page" className="paper-open">
      <header className="paper-head">
        <EditableText
          label="Title"
          value={study.title}
          required
          className="font-book text-[21px] leading-tight font-semibold"
          onCommit={(title) => change({ kind: "edit_study", title })}
        />
        <EditableText
          label="Question"
          value={study.question}
          lines
          placeholder="What is the question?"
          className="mt-0.5 font-book text-[15px] leading-snug text-mute italic"
          onCommit={(question) => change({ kind: "edit_study", question })}
        />
      </header>
      <div className="paper-rest">
        {fit?.refusal ? (
          <Section title="Model">
            <p role="status" className="font-book text-[14.5px] leading-snug">
              {fit.refusal}
            </p>
          </Section>
        ) : (
          fit && (
            <>
              <Section
                title={`Model ${fit.letter}, line`}
                aside={
                  <span className="numerals text-[12px] text-mute">
                    <Term word="R²" meaning="Share of the variation that the line accounts for. It says nothing about whether a line is the right model: look at the residuals." />{" "}
                    <span className="text-ink">{fit.r_squared}</span>
                    <span className="mx-1.5">·</span>
                    <Term word="typical miss" meaning="Residual standard deviation s: how far a reading typically lies from the line." /> <span className="text-ink">{fit.typical_miss}</span>
                  </span>
                }
              >
                <Equation fit={fit} />
                <Parameters fit={fit} />
              </Section>
              <Section title="How well it fits">
                <p className="font-book text-[14.5px] leading-snug">{fit.how_well}</p>
                <Statistics fit={fit} />
              </Section>
              {fit.cautions && fit.cautions.length > 0 && (
                <Section title="Cautions">
                  <Cautions fit={fit} />
                </Section>
              )}
            </>
          )
        )}
        <Answers />
        {fit && !fit.refusal && (
          <Section title="Method">
            <p className="font-book text-[13.5px] leading-snug text-mute">{fit.method}</p>
            {weighted && (
              <label className="no-print mt-1.5 flex items-start gap-2 text-[13px]">
                <input
                  type="checkbox"
                  className="mt-1 accent-(--color-pine)"
                  checked={study.absolute_errors}
                  onChange={(event) => change({ kind: "edit_study", absolute_errors: event.target.checked })}
                />
                The uncertainties are known in absolute terms, not only relative to each other
              </label>
            )}
          </Section>
        )}
        {analysis.before_fit && (
          <p className="mt-3 text-[12.5px] text-mute">
            <Term word="Correlation" meaning="How closely x and y go together, before any model is chosen. It does not say that a line is right." /> {analysis.before_fit}
          </p>
        )}
      </div>
      <PrintedReadings />
    </article>
  );
}
