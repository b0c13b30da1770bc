import { type ReactNode, useState } from "react";

import { inField, readNumber } from "../ui/numbers";
import { Select, type Words } from "../ui/Select";

export function Check({
  checked,
  disabled,
  onChange,
  children,
}: {
  checked: boolean;
  disabled?: boolean;
  onChange: (on: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className={`flex items-center gap-2 ${disabled ? "text-mute" : ""}`}>
      <input
        type="checkbox"
        className="size-4 accent-pine"
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

interface ChooseProps<Value> {
  label: string;
  value: Value;
  words: Words<Value>;
  onPick: (value: Value) => void;
}

export function Choose<Value extends string>({ label, ...rest }: ChooseProps<Value>) {
  return (
    <label className="contents">
      <span>{label}</span>
      <Select {...rest} />
    </label>
  );
}

/** A slider that is kept when it is let go. */
export function Slide({
  label,
  value,
  low,
  high,
  onKeep,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  onKeep: (value: number) => void;
}) {
  const [draft, setDraft] = useState<number | null>(null);
  const keep = () => {
    if (draft !== null && draft !== value) onKeep(draft);
    setDraft(null);
  };
  return (
    <label className="contents">
      <span>{label}</span>
      <input
        type="range"
        className="accent-pine"
        min={low}
        max={high}
        step={0.1}
        value={draft ?? value}
        onChange={(event) => setDraft(Number(event.target.value))}
        onPointerUp={keep}
        onKeyUp={keep}
        onBlur={keep}
      />
    </label>
  );
}

interface NumberFieldProps {
  label: string;
  value: number | null;
  clock: string;
  /** What is wrong with a number; empty if nothing. */
  problemOf: (value: number) => string;
  /** What is wrong with what stands there; empty once it is right. */
  onProblem: (problem: string) => void;
  onKeep: (value: number | null) => void;
}

/** A number that is kept on Enter or leaving; empty sets it back to what draws itself. */
export function NumberField({ label, value, clock, problemOf, onProblem, onKeep }: NumberFieldProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const keep = () => {
    if (draft === null) return;
    const next = draft.trim() ? readNumber(draft, clock) : null;
    const unread = next === null && draft.trim() !== "";
    const notRead = clock ? "neither a number nor a time such as 13:30" : "not a number";
    const problem = unread ? `'${draft.trim()}' is ${notRead}.` : next === null ? "" : problemOf(next);
    setWrong(problem !== "");
    onProblem(problem && `${label}: ${problem[0]!.toLowerCase()}${problem.slice(1)}`);
    if (problem) return;
    setDraft(null);
    if (next !== value) onKeep(next);
  };
  return (
    <input
      className="field numerals h-[27px] w-full px-1.5 text-right aria-invalid:border-amber aria-invalid:text-amber"
      inputMode="decimal"
      aria-label={label}
      aria-invalid={wrong}
      placeholder="auto"
      value={draft ?? (value === null ? "" : inField(value, clock))}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === "Enter" && keep()}
    />
  );
}
