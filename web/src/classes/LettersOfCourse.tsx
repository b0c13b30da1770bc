import { X } from "lucide-react";
import { useState } from "react";

import { wrongWith } from "../fits/letters";
import { Select } from "../ui/Select";
import { useParameters } from "./parametersOffered";

type Letters = Record<string, string>;

/** Letters that the course has for parameters, each with what it stands for. */
export function LettersOfCourse({ letters, onLetters }: { letters: Letters; onLetters: (letters: Letters) => void }) {
  const parameters = useParameters();
  // A name that several models have is told by the first of them.
  const said = new Map([...parameters].reverse().map((one) => [one.name, one.said]));
  const besides = (name: string) => {
    const forms = parameters.filter((one) => one.name === name).map((one) => one.form);
    const others = parameters.filter((one) => one.name !== name && forms.includes(one.form));
    return others.flatMap((one) => letters[one.name] ?? []);
  };
  const left = [...new Set(parameters.map(({ name }) => name))].filter((name) => !(name in letters));
  return (
    <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-1">
      <legend>Letters of parameters</legend>
      {Object.entries(letters).map(([name, letter]) => (
        <div key={name} className="flex flex-wrap items-center gap-2">
          <LetterField
            letter={letter}
            taken={besides(name)}
            label={`Letter for ${said.get(name) ?? name}`}
            onLetter={(typed) => onLetters({ ...letters, [name]: typed })}
          />
          <span className="grow">{said.get(name) ?? name}</span>
          <button
            type="button"
            className="icon-button"
            aria-label={`No letter of its own for ${said.get(name) ?? name}`}
            onClick={() => onLetters(Object.fromEntries(Object.entries(letters).filter(([one]) => one !== name)))}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <Select
        aria-label="A letter for"
        className="field w-full"
        value=""
        words={[["", "Another letter for…"] as const, ...left.map((name) => [name, said.get(name) ?? name] as const)]}
        onPick={(name) => name && onLetters({ ...letters, [name]: parameters.find((one) => one.name === name)?.symbol ?? name })}
      />
    </fieldset>
  );
}

interface LetterProps {
  letter: string;
  /** Letters of the parameters that stand beside it in a model. */
  taken: readonly string[];
  label: string;
  onLetter: (letter: string) => void;
}

/** What cannot be its letter is said, not taken, and gone when the field is left. */
function LetterField({ letter, taken, label, onLetter }: LetterProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const wrong = draft === null ? "" : wrongWith(draft.trim(), taken);
  return (
    <>
      <input
        className="field w-16 font-book italic"
        aria-label={label}
        aria-invalid={!!wrong}
        maxLength={12}
        value={draft ?? letter}
        onChange={(event) => {
          const typed = event.target.value;
          setDraft(typed);
          if (!wrongWith(typed.trim(), taken)) onLetter(typed.trim());
        }}
        onBlur={() => setDraft(null)}
      />
      {wrong && (
        <span role="alert" className="text-amber">
          {wrong}
        </span>
      )}
    </>
  );
}
