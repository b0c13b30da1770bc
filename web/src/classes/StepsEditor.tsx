import { ArrowDown, ArrowUp, Plus, X } from "lucide-react";

import type { WorksheetStep } from "../api/client";
import { useCatalogue } from "../fits/catalogue";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";

type Needs = NonNullable<WorksheetStep["needs"]>;
type Kind = NonNullable<Needs["kind"]>;

const KINDS: readonly (readonly [Kind, string])[] = [
  ["tick", "a tick by the student"],
  ["readings", "so many readings"],
  ["fit", "a fit"],
  ["answer", "an answer"],
  ["text", "a text of their own"],
];

interface Props {
  steps: WorksheetStep[];
  onSteps: (steps: WorksheetStep[]) => void;
}

/** The steps of a worksheet in their order: the text of each, and what must be there before the next is told. */
export function StepsEditor({ steps, onSteps }: Props) {
  const put = (place: number, step: WorksheetStep) => onSteps(steps.map((one, at) => (at === place ? step : one)));
  const move = (from: number, to: number) => {
    const next = [...steps];
    next.splice(to, 0, ...next.splice(from, 1));
    onSteps(next);
  };
  return (
    <div className="grid gap-3">
      <ol aria-label="Steps" className="grid gap-3">
        {steps.map((step, place) => (
          <li key={step.key || `new ${place}`} className="grid gap-1.5 border border-rule bg-sheet p-3">
            <div className="flex items-center justify-between gap-2">
              <h3 className="text-note font-semibold text-mute">Step {place + 1}</h3>
              <span className="flex">
                {place > 0 && (
                  <button
                    type="button"
                    className="icon-button"
                    aria-label={`Step ${place + 1} one up`}
                    onClick={() => move(place, place - 1)}
                  >
                    <ArrowUp size={14} />
                  </button>
                )}
                {place < steps.length - 1 && (
                  <button
                    type="button"
                    className="icon-button"
                    aria-label={`Step ${place + 1} one down`}
                    onClick={() => move(place, place + 1)}
                  >
                    <ArrowDown size={14} />
                  </button>
                )}
                <button
                  type="button"
                  className="icon-button"
                  aria-label={`Remove step ${place + 1}`}
                  onClick={() => onSteps(steps.filter((_, at) => at !== place))}
                >
                  <X size={14} />
                </button>
              </span>
            </div>
            <textarea
              className="field h-auto w-full [field-sizing:content] py-1"
              aria-label={`Text of step ${place + 1}`}
              rows={2}
              maxLength={4000}
              placeholder="What is to be done. Formulas stand between dollar signs: $y = m x + c$"
              value={step.text}
              onChange={(event) => put(place, { ...step, text: event.target.value })}
            />
            <NeedsFields needs={step.needs ?? {}} place={place} onNeeds={(needs) => put(place, { ...step, needs })} />
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => onSteps([...steps, { text: "", needs: { kind: "tick" } }])}
      >
        <Plus size={14} /> Add a step
      </button>
    </div>
  );
}

function NeedsFields({ needs, place, onNeeds }: { needs: Needs; place: number; onNeeds: (needs: Needs) => void }) {
  const offers = useCatalogue();
  const kind = needs.kind ?? "tick";
  const families = [...new Map(offers.map((offer) => [offer.family, offer])).values()].map(({ family, name }) => [family, name] as const);
  const count = (word: string) => (
    <label className="flex items-center gap-1.5">
      of
      <input
        type="number"
        min={1}
        max={10000}
        className="field numerals w-20 text-right"
        aria-label={`How many ${word} for step ${place + 1}`}
        value={needs.count ?? 1}
        onChange={(event) => onNeeds({ ...needs, count: Math.max(1, Math.round(Number(event.target.value)) || 1) })}
      />
      {word}
    </label>
  );
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-plain">
      <label className="flex items-center gap-1.5">
        Done by
        <Select
          className="field"
          aria-label={`What step ${place + 1} needs`}
          value={kind}
          words={KINDS}
          onPick={(next) => onNeeds({ ...needs, kind: next })}
        />
      </label>
      {kind === "readings" && count("readings")}
      {kind === "text" && count("words")}
      {kind === "fit" && (
        <Select
          className="field"
          aria-label={`Which fit for step ${place + 1}`}
          value={needs.family ?? ""}
          words={[["", "of any kind"] as const, ...families]}
          onPick={(family) => onNeeds({ ...needs, family })}
        />
      )}
      {kind === "answer" && (
        <>
          <NumberField
            word="of"
            label={`Value for step ${place + 1}`}
            value={needs.value ?? 0}
            onValue={(value) => onNeeds({ ...needs, value })}
          />
          <NumberField
            word="±"
            label={`Tolerance for step ${place + 1}`}
            value={needs.tolerance ?? 0}
            onValue={(tolerance) => onNeeds({ ...needs, tolerance: Math.abs(tolerance) })}
          />
        </>
      )}
    </div>
  );
}
