import { useState } from "react";

import { api, type Change, messageOf } from "../api/client";
import { useNaming, useChange, useStudy } from "../study/context";
import { readNumber } from "../ui/decimals";
import { Sheet } from "../ui/Sheet";

const FIELDS = { low: "From", high: "To", step: "Step", count: "Count", noise: "Noise s (standard deviation)", seed: "Seed" } as const;
type Name = keyof typeof FIELDS;

/** Readings from a formula: from, to, by step or count, with seeded scatter. */
export function GenerateDialog({ onClose }: { onClose: () => void }) {
  const study = useStudy();
  const naming = useNaming();
  const change = useChange();
  const [draft, setDraft] = useState<Record<Name, string>>({ low: "0", high: "10", step: "1", count: "", noise: "0", seed: "1" });
  const [formula, setFormula] = useState("");
  const [where, setWhere] = useState<"replace" | "below">("below");
  const [problem, setProblem] = useState("");
  const filled = study.columns.some((column) => column.cells.some(Boolean));

  async function generate() {
    const numbers: Partial<Record<Name, number>> = {};
    for (const name of Object.keys(FIELDS) as Name[]) {
      if (!draft[name].trim()) continue;
      const number = readNumber(draft[name], ["low", "high", "step"].includes(name) ? naming.x_clock : "");
      if (number === null) return setProblem(`${FIELDS[name]}: '${draft[name]}' is not a number.`);
      numbers[name] = number;
    }
    if (numbers.low === undefined || numbers.high === undefined) return setProblem("Say from where to where.");
    const wanted: Change = {
      kind: "generate_readings",
      low: numbers.low,
      high: numbers.high,
      step: numbers.count === undefined ? numbers.step : undefined,
      count: numbers.count,
      formula,
      noise: numbers.noise ?? 0,
      seed: numbers.seed ?? 1,
      where: filled ? where : "replace",
    };
    // Tried first, so that what is wrong is said here and nothing typed is lost.
    const tried = await api
      .POST("/api/studies/{study_id}/preview", {
        params: { path: { study_id: study.id } },
        body: { version: study.version, change: wanted },
      })
      .catch(() => null);
    if (tried && !tried.data) return setProblem(messageOf(tried.error));
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
          <i className="font-book text-[15px]">{naming.y}</i> =
          <input
            className="field grow font-mono text-[12.5px]"
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
        {filled && (
          <div className="flex flex-wrap gap-x-4">
            {(["replace", "below"] as const).map((place) => (
              <label key={place} className="flex items-center gap-1.5">
                <input
                  type="radio"
                  name="generated-where"
                  className="accent-pine"
                  checked={where === place}
                  onChange={() => setWhere(place)}
                />
                {place === "replace" ? "Replace these readings" : "Add below them"}
              </label>
            ))}
          </div>
        )}
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
