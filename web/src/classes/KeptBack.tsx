import { Select } from "../ui/Select";

const PARTS = [
  ["fit", "the fit by least squares: curves are set by hand until then"],
  ["quality", "R² and how well it fits"],
  ["suggestions", "which model is better"],
  ["workings", "the workings"],
  ["answers", "answers to questions and unknowns"],
] as const;

interface Props {
  /** Each with the number of the step that must be done before it is told. */
  withheld: Record<string, number>;
  steps: number;
  onWithheld: (withheld: Record<string, number>) => void;
}

/** What students are not told until they have tried. */
export function KeptBack({ withheld, steps, onWithheld }: Props) {
  const words = Array.from({ length: Math.max(1, steps) }, (_, place) => [place + 1, `step ${place + 1} is done`] as const);
  const put = (part: string, step: number | null) => {
    const others = Object.fromEntries(Object.entries(withheld).filter(([one]) => one !== part));
    onWithheld(step === null ? others : { ...others, [part]: step });
  };
  return (
    <fieldset className="grid gap-1 text-plain">
      <legend>Kept back from students, on the server too, until</legend>
      {PARTS.map(([part, word]) => {
        const until = withheld[part];
        return (
          <div key={part} className="flex min-h-[32px] flex-wrap items-center gap-2">
            <label className="flex items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-(--color-pine)"
                checked={until !== undefined}
                onChange={(event) => put(part, event.target.checked ? 1 : null)}
              />
              {word}
            </label>
            {until !== undefined && (
              <Select
                className="field"
                aria-label={`Until which step: ${word}`}
                value={Math.min(until, words.length)}
                words={words}
                onPick={(step) => put(part, step)}
              />
            )}
          </div>
        );
      })}
    </fieldset>
  );
}
