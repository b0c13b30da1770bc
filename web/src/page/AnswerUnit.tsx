import type { Answer } from "../api/client";
import { useChange } from "../study/context";

/** Another unit for an answer: its number, limits and table follow, the study stays in its own. */
export function AnswerUnit({ answer, onDone }: { answer: Answer; onDone: () => void }) {
  const change = useChange();
  const convert = (unit: string) => {
    onDone();
    const next = unit === answer.own_unit ? "" : unit;
    if (next !== (answer.unit ?? "")) change({ kind: "set_answer", key: answer.key, unit: next });
  };
  return (
    <label className="no-print mt-1 flex items-center gap-1.5 text-plain text-mute">
      in
      <input
        className="field w-28"
        autoFocus
        aria-label={`Unit of the answer for ${answer.asked}`}
        defaultValue={answer.unit || answer.own_unit}
        maxLength={40}
        onBlur={(event) => convert(event.target.value.trim())}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key !== "Escape") return;
          // A field that goes away is left as well: what was typed must not count then.
          event.currentTarget.value = event.currentTarget.defaultValue;
          onDone();
        }}
      />
      instead of {answer.own_unit}
    </label>
  );
}
