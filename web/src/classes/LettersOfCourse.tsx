import { X } from "lucide-react";

import { Select } from "../ui/Select";
import { useParameters } from "./parametersOffered";

type Letters = Record<string, string>;

/** Letters that the course has for parameters, each with what it stands for. */
export function LettersOfCourse({ letters, onLetters }: { letters: Letters; onLetters: (letters: Letters) => void }) {
  const parameters = useParameters();
  // A name that several models have is told by the first of them.
  const said = new Map([...parameters].reverse().map((one) => [one.name, one.said]));
  const left = [...new Set(parameters.map(({ name }) => name))].filter((name) => !(name in letters));
  return (
    <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-1">
      <legend>Letters of parameters</legend>
      {Object.entries(letters).map(([name, letter]) => (
        <div key={name} className="flex flex-wrap items-center gap-2">
          <input
            className="field w-16 font-book italic"
            aria-label={`Letter for ${said.get(name) ?? name}`}
            maxLength={12}
            required
            defaultValue={letter}
            onChange={(event) => event.target.value.trim() && onLetters({ ...letters, [name]: event.target.value.trim() })}
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
        onPick={(name) => name && onLetters({ ...letters, [name]: name.slice(0, 1) })}
      />
    </fieldset>
  );
}
