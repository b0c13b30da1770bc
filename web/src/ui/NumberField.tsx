import { useState } from "react";

import { inField, readNumber } from "./numbers";

/** A number that is taken as it is typed; what is no number is left out, and gone when the field is left. */
export function NumberField({
  word,
  label,
  value,
  onValue,
}: {
  word: string;
  label: string;
  value: number;
  onValue: (value: number) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <label className="flex items-center gap-1.5">
      {word}
      <input
        className="field numerals w-24 text-right"
        inputMode="decimal"
        aria-label={label}
        value={draft ?? inField(value)}
        onChange={(event) => {
          setDraft(event.target.value);
          const number = readNumber(event.target.value);
          if (number !== null) onValue(number);
        }}
        onBlur={() => setDraft(null)}
      />
    </label>
  );
}
