import type { Understood } from "../api/client";
import { Radio } from "../ui/Radio";
import type { Choices } from "./taken";

export type Question = Understood["questions"][number];

/** Questions that were answered, with the answer, and those that are open. */
export interface Asked {
  question: Question;
  picked: number | null;
}

/** What the table leaves open: each question with its answers, those already given too, so that they can be changed. */
export function Questions({ asked, onPick }: { asked: Asked[]; onPick: (question: Question, option: number, choices: Choices) => void }) {
  return (
    <div className="grid gap-2">
      {asked.map(({ question, picked }) => (
        <fieldset
          key={keyOf(question)}
          data-open={picked === null || undefined}
          className={`grid gap-1 rounded-(--radius) px-3 py-2 ${picked === null ? "bg-amber-well" : "bg-well"}`}
        >
          <legend className="float-left mb-0.5 font-medium">{question.words}</legend>
          {question.options.map((option, place) => (
            <Radio key={place} name={keyOf(question)} checked={picked === place} onPick={() => onPick(question, place, option.choices)}>
              {option.words}
            </Radio>
          ))}
        </fieldset>
      ))}
    </div>
  );
}

export function keyOf(question: Question): string {
  return `${question.about} ${question.column ?? ""}`;
}
