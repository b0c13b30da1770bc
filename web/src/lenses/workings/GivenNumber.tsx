import { useState } from "react";

interface Props {
  label: string;
  name: string;
  value: string;
  onPut: (value: string) => void;
}

/** A number that is taken when it is entered or left. */
export function GivenNumber({ label, name, value, onPut }: Props) {
  const [text, setText] = useState<string | null>(null);
  const take = () => {
    if (text !== null && text.trim() !== value) onPut(text.trim());
    setText(null);
  };
  return (
    <label className="flex items-center gap-1.5 text-mute">
      {label}
      <input
        className="field numerals w-20 text-right"
        inputMode="decimal"
        aria-label={name}
        value={text ?? value}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          if (event.key === "Escape") setText(null);
        }}
      />
    </label>
  );
}
