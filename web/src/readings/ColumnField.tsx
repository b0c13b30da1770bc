import type { ReactNode } from "react";

/** A field of the column's form beside its label. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex items-center justify-between gap-3">
      <span className="text-mute">{label}</span>
      {children}
    </label>
  );
}

interface Props {
  id: string;
  label: string;
  text: string;
  placeholder: string;
  limit: number;
  look?: string;
  onText: (text: string) => void;
  onFocus: () => void;
}

export function ColumnField({ id, label, text, placeholder, limit, look = "", onText, onFocus }: Props) {
  return (
    <Labelled label={label}>
      <input
        id={id}
        className={`field w-48 ${look}`}
        value={text}
        placeholder={placeholder}
        maxLength={limit}
        spellCheck={false}
        onFocus={onFocus}
        onChange={(event) => onText(event.target.value)}
      />
    </Labelled>
  );
}
