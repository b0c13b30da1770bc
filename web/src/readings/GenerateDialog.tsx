import { useState } from "react";

import { api, type Change, messageOf } from "../api/client";
import { useChange, useNaming, useStudy } from "../study/context";
import { readNumber } from "../ui/numbers";
import { Sheet } from "../ui/Sheet";
import { Radio } from "../ui/Radio";
import { keysOf } from "../ui/keys";

const FIELDS = { low: "From", high: "To", step: "Step", count: "Count", noise: "Noise s (standard deviation)", seed: "Seed" } as const;
type Name = keyof typeof FIELDS;
type Where = "replace" | "below";
const ALONG_X: Name[] = ["low", "high", "step"];

/** Readings from a formula: from, to, by step or count, with seeded scatter. */
export function GenerateDialog({ onClose }: { onClose: () => void }) {
  const study = useStudy();
  const naming = useNaming();
  const change = useChange();
  const [draft, setDraft] = useState<Record<Name, string>>({ low: "0", high: "10", step: "1", count: "", noise: "0", seed: "1" });
  const [formula, setFormula] = useState("");
  const [where, setWhere] = useState<Where>("below");
  const [problem, setProblem] = useState("");
  const filled = study.columns.some((column) => column.cells.some(Boolean));

  async function generate() {
    const numbers = numbersOf(draft, naming.x_clock);
    if (typeof numbers === "string") return setProblem(numbers);
    const place = filled ? where : "replace";
    const wanted: Change = { kind: "generate_readings", ...numbers, formula, where: place };
    // Tried first, so that what is wrong is said here and nothing typed is lost.
    const refusal = await refusalOf(study, wanted);
    if (refusal) return setProblem(refusal);
    change(wanted);
    onClose();
  }
  const field = (name: Name, disabled = false) => (
    <label className="grid gap-0.5">
      <span className="text-mute">{FIELDS[name]}</span>
      <input
        className="field numerals w-full text-right"
        inputMode="decimal"
        disabled={disabled}
        value={draft[name]}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <Sheet title="Generate readings" width="w-[min(26rem,94vw)]" onClose={onClose}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void generate();
        }}
      >
        <div className="grid grid-cols-4 gap-2">
          {field("low")}
          {field("high")}
          {field("step", draft.count.trim() !== "")}
          {field("count")}
        </div>
        <label className="flex items-baseline gap-2">
          <i className="font-book text-lead">{naming.y}</i> =
          <input
            className="field grow font-mono text-plain"
            aria-label={`Formula for ${naming.y}`}
            placeholder={`2*${naming.x} + 1`}
            spellCheck={false}
            value={formula}
            onChange={(event) => setFormula(event.target.value)}
          />
        </label>
        <div className="grid grid-cols-4 gap-2">
          {field("noise")}
          {field("seed")}
        </div>
        {filled && <WhereTo where={where} onPick={setWhere} />}
        {problem && (
          <p role="alert" className="text-amber">
            {problem}
          </p>
        )}
        <button className="button-main justify-self-end">Generate</button>
      </form>
    </Sheet>
  );
}

const PLACES = [
  ["replace", "Replace these readings"],
  ["below", "Add below them"],
] as const;

function WhereTo({ where, onPick }: { where: Where; onPick: (where: Where) => void }) {
  return (
    <div className="flex flex-wrap gap-x-4">
      {PLACES.map(([place, word]) => (
        <Radio key={place} name="generated-where" checked={where === place} onPick={() => onPick(place)}>
          {word}
        </Radio>
      ))}
    </div>
  );
}

/** The numbers as typed, or what is wrong with them. */
function numbersOf(draft: Record<Name, string>, clock: string) {
  const numbers: Partial<Record<Name, number>> = {};
  for (const name of keysOf(FIELDS)) {
    if (!draft[name].trim()) continue;
    const number = readNumber(draft[name], ALONG_X.includes(name) ? clock : "");
    if (number === null) return `${FIELDS[name]}: '${draft[name]}' is not a number.`;
    numbers[name] = number;
  }
  const { low, high, step, count, noise = 0, seed = 1 } = numbers;
  if (low === undefined || high === undefined) return "Say from where to where.";
  return { low, high, step: count === undefined ? step : undefined, count, noise, seed };
}

/** Why a change would be refused; empty where it would not, or where nobody can be asked. */
async function refusalOf({ id, version }: { id: string; version: number }, change: Change): Promise<string> {
  const params = { path: { study_id: id } };
  const tried = await api.POST("/api/studies/{study_id}/preview", { params, body: { version, change } }).catch(() => null);
  return tried && !tried.data ? messageOf(tried.error) : "";
}
