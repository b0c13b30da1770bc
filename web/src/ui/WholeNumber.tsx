import { useState } from "react";

/** A whole number that is taken when it is left or entered; outside its limits it goes back to what it was. */
export function WholeNumber({
  label,
  after,
  name,
  value,
  low,
  high,
  onPut,
}: {
  label: string;
  after: string;
  name: string;
  value: number;
  low: number;
  high: number;
  onPut: (value: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const typed = /^[-−]?\d+$/.test((text ?? "").trim()) ? Number((text ?? "").replace("−", "-")) : NaN;
  const right = typed >= low && typed <= high;
  const take = () => {
    if (text !== null && right) onPut(typed);
    setText(null);
  };
  const wrong = text !== null && !right;
  return (
    <label className="flex items-center gap-1.5 text-mute">
      {label}
      <input
        className={`field numerals text-right ${high > 999 ? "w-20" : "w-14"}`}
        inputMode="numeric"
        aria-label={name}
        aria-invalid={wrong}
        title={`From ${low} to ${high}`}
        value={text ?? String(value)}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === "Enter") take();
          if (event.key === "Escape") setText(null);
        }}
      />
      {after}
      {wrong && (
        <span role="alert" className="text-amber">
          {low} to {high}
        </span>
      )}
    </label>
  );
}
