import { AnswerText, CopyAnswer } from "./AnswerText";
import { KeptAnswer } from "./KeptAnswer";
import { useCalmAnalysis, useChange, useLooking, useStudy } from "../study/context";
import { select } from "../study/view";
import { LEVELS } from "../study/levels";
import { percent } from "../ui/numbers";
import { CommentsOn } from "../comments/CommentsOn";
import { Section } from "./Section";

/** Answers that were kept, and those of the unknowns among the rows; both follow the readings. */
export function Answers() {
  const study = useStudy();
  const change = useChange();
  const looking = useLooking();
  const { answers, unknowns } = useCalmAnalysis();
  const levels = LEVELS.includes(study.level) ? LEVELS : [...LEVELS, study.level].sort();
  const level =
    looking || study.course ? (
      <span className="numerals text-note text-mute">at {percent(study.level)}</span>
    ) : (
      <label className="no-print flex items-center gap-1 text-note text-mute">
        at
        <select
          className="rounded-sm border border-rule bg-sheet py-px text-note text-ink"
          aria-label="Confidence level"
          value={study.level}
          onChange={(event) => change({ kind: "edit_study", level: Number(event.target.value) })}
        >
          {levels.map((value) => (
            <option key={value} value={value}>
              {percent(value)}
            </option>
          ))}
        </select>
      </label>
    );
  const empty = !answers.length && !unknowns.length;
  return (
    <Section title="Answers" aside={level} empty={empty}>
      {empty && (
        <p className="text-plain text-mute">
          No answers kept yet. Ask below the plot and keep what you want to hand in. Unknowns (rows with y but no x) appear automatically.
        </p>
      )}
      <ul className="grid grid-cols-[minmax(0,1fr)] gap-2.5">
        {unknowns.map((unknown) => (
          <li key={unknown.answer.key} className="group flex items-start gap-1">
            <div className="grow font-book text-plain leading-snug">
              <button
                className="rounded-sm text-left underline-offset-2 hover:underline"
                onClick={() => select({ row: unknown.rows[unknown.rows.length - 1]!, col: 0 }, { row: unknown.rows[0]!, col: 0 })}
              >
                {unknown.label}
              </button>
              : <AnswerText answer={unknown.answer} />
              <CommentsOn about={`answer:${unknown.answer.key}`} place={unknown.label} />
            </div>
            <CopyAnswer answer={unknown.answer} />
          </li>
        ))}
        {answers.map((answer, place) => (
          <KeptAnswer key={answer.key} answer={answer} place={place} last={place === answers.length - 1} />
        ))}
      </ul>
    </Section>
  );
}
