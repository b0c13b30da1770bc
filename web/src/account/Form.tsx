import { type FormEvent, type ReactNode, useId, useState } from "react";

export interface Asked {
  name: string;
  label: string;
  type?: "text" | "password" | "email";
  complete: string;
  /** It may be left empty. */
  optional?: boolean;
  note?: string;
}

interface Props {
  title: string;
  note?: ReactNode;
  asked: Asked[];
  send: string;
  /** What is sent cannot be taken back: nothing invites to it. */
  grave?: boolean;
  busy: boolean;
  problem: string;
  onSend: (given: Record<string, string>) => void;
}

/** A few fields with their labels, one button, and what was wrong with them under it. */
export function Form({ title, note, asked, send, grave, busy, problem, onSend }: Props) {
  const id = useId();
  const [given, setGiven] = useState<Record<string, string>>({});
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!busy) onSend(given);
  };
  return (
    <form className="grid content-start gap-3 border border-rule bg-sheet p-5" onSubmit={submit} aria-labelledby={`${id}-title`}>
      <h2 id={`${id}-title`} className="font-book text-lead font-semibold">
        {title}
      </h2>
      {note && <div className="text-plain text-mute">{note}</div>}
      {asked.map(({ name, label, type = "text", complete, optional, note: said }) => (
        <div key={name} className="grid gap-1">
          <label htmlFor={`${id}-${name}`} className="text-plain">
            {label}
          </label>
          <input
            id={`${id}-${name}`}
            className="field w-full"
            type={type}
            autoComplete={complete}
            required={!optional}
            aria-describedby={said ? `${id}-${name}-note` : undefined}
            value={given[name] ?? ""}
            onChange={(event) => setGiven({ ...given, [name]: event.target.value })}
          />
          {said && (
            <p id={`${id}-${name}-note`} className="text-note text-mute">
              {said}
            </p>
          )}
        </div>
      ))}
      {problem && (
        <p role="alert" className="text-plain text-amber">
          {problem}
        </p>
      )}
      <button type="submit" className={`${grave ? "button" : "button-main"} justify-self-start`} aria-disabled={busy}>
        {send}
      </button>
    </form>
  );
}
