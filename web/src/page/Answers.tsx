import { Copy, X } from "lucide-react";

import type { Answer } from "../api/client";
import { useCalmAnalysis, useChange, useStudy } from "../study/context";
import { select } from "../study/view";
import { copyText } from "./copy";
import { Section } from "./Section";

const LEVELS = [0.68, 0.9, 0.95, 0.99];

/** Answers that were kept, and those of the unknowns among the rows; both follow the readings. */
export function Answers() {
  const study = useStudy();
  const change = useChange();
  const { answers, unknowns } = useCalmAnalysis();
  const levels = LEVELS.includes(study.level) ? LEVELS : [...LEVELS, study.level].sort();
  const level = (
    <label className="no-print flex items-center gap-1 text-[12px] text-mute">
      at
      <select
        className="rounded-sm border border-rule bg-sheet py-px text-[12px] text-ink"
        aria-label="Confidence level"
        value={study.level}
        onChange={(event) => change({ kind: "edit_study", level: Number(event.target.value) })}
      >
        {levels.map((value) => (
          <option key={value} value={value}>
            {+(value * 100).toFixed(2)} %
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <Section title="Answers" aside={level}>
      {!answers.length && !unknowns.length && (
        <p className="text-[13px] text-mute">None kept yet. Ask below the plot and keep what you want to hand in; a row with a y but no x is answered here by itself.</p>
      )}
      <ul className="grid gap-2.5">
        {unknowns.map((unknown) => (
          <li key={unknown.answer.key} className="group flex items-start gap-1">
            <div className="grow font-book text-[14.5px] leading-snug">
              <button
                className="rounded-sm text-left underline-offset-2 hover:underline"
                onClick={() => select({ row: unknown.rows[unknown.rows.length - 1]!, col: 0 }, { row: unknown.rows[0]!, col: 0 })}
              >
                {unknown.label}
              </button>
              : <AnswerText answer={unknown.answer} />
            </div>
            <CopyAnswer answer={unknown.answer} />
          </li>
        ))}
        {answers.map((answer) => (
          <li key={answer.key} className="flex items-start gap-1">
            <p className="grow font-book text-[14.5px] leading-snug">
              At <AnswerText answer={answer} />
            </p>
            <CopyAnswer answer={answer} />
            <button className="icon-button no-print" aria-label={`Remove the answer for ${answer.asked}`} onClick={() => change({ kind: "remove_answer", key: answer.key })}>
              <X size={15} />
            </button>
          </li>
        ))}
      </ul>
    </Section>
  );
}

export function AnswerText({ answer }: { answer: Answer }) {
  if (answer.problem) {
    return (
      <>
        {answer.asked}: <span className="text-amber">{answer.problem}</span>
      </>
    );
  }
  return (
    <>
      {answer.asked}, <strong className="numerals font-semibold">{answer.result}</strong>. {answer.sentence}
      {answer.place && <span className={answer.beyond ? "text-amber" : ""}> {answer.place}</span>}
    </>
  );
}

function CopyAnswer({ answer }: { answer: Answer }) {
  if (answer.problem) return null;
  return (
    <button
      className="icon-button no-print"
      aria-label={`Copy the answer for ${answer.asked}`}
      title={`In full: ${answer.full}`}
      onClick={() => void copyText(`${answer.asked}: ${answer.result}. ${answer.sentence} ${answer.place}`.trim(), "Answer")}
    >
      <Copy size={14} />
    </button>
  );
}
