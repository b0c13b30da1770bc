import { LayoutGrid } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";

import type { Fit } from "../api/client";
import { useAnalysisPart, useChange, useNaming } from "../study/context";
import { FormulaEditor } from "../formula/FormulaEditor";
import { inField, readNumber } from "../ui/decimals";
import { Hint } from "../ui/Hint";
import { CHOICES, choiceOf, INTERPOLATIONS } from "./catalogue";
import { Gallery } from "./Gallery";

const DEGREES = [4, 5, 6, 7, 8, 9, 10, 11, 12];
const LOGARITHMS = ["exponential", "power", "logarithmic"];

/** What a fit is, changed where it stands: the model, what can be chosen within it, the series it is fitted to. */
export function ModelSettings({ fit }: { fit: Fit }) {
  const change = useChange();
  const naming = useNaming();
  const series = useAnalysisPart((analysis) => analysis.series);
  const [xError, yError] = [useAnalysisPart((analysis) => analysis.x_error !== null), useAnalysisPart((analysis) => analysis.y_error !== null)];
  const set = (part: object) => change({ kind: "set_fit", letter: fit.letter, ...part });
  const [choosing, setChoosing] = useState(false);
  const choice = choiceOf(fit);
  const methods: [string, string][] = [["y", `least squares in ${naming.y}`]];
  if (LOGARITHMS.includes(fit.family) && !fit.options.level && !fit.options.shift) methods.push(["logarithms", "least squares in logarithms"]);
  if (xError && yError) methods.push(["orthogonal", `least squares in ${naming.x} and ${naming.y}`]);
  return (
    <div className="no-print flex flex-wrap items-center gap-1.5 text-[12.5px]">
      <select
        className="inline-choice font-book text-[14.5px]"
        aria-label={`Model of fit ${fit.letter}`}
        value={choice.value}
        onChange={(event) => {
          const next = [...CHOICES, ...INTERPOLATIONS].find(({ value }) => value === event.target.value)!;
          set({ family: next.family, options: next.options });
        }}
      >
        {[
          { title: "Models", choices: CHOICES },
          { title: "Through every reading", choices: INTERPOLATIONS },
        ].map(({ title, choices }) => (
          <optgroup key={title} label={title}>
            {choices.map(({ value, word }) => (
              <option key={value} value={value}>
                {word}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <Hint text="Choose among all models, drawn over these readings">
        <button className="icon-button" aria-label={`All models for fit ${fit.letter}`} onClick={() => setChoosing(true)}>
          <LayoutGrid size={15} />
        </button>
      </Hint>
      {choosing && <Gallery fit={fit} onClose={() => setChoosing(false)} />}
      {choice.value === "polynomial" && (
        <Pick label="Degree" value={String(fit.options.degree)} words={DEGREES.map((degree) => [String(degree), `degree ${degree}`])} onPick={(value) => set({ options: { degree: Number(value) } })} />
      )}
      {fit.family === "polynomial" && <Terms fit={fit} onPick={(terms) => set({ options: { terms } })} />}
      {fit.family === "interpolation" && <InterpolationSettings fit={fit} set={set} />}
      {fit.family === "sinusoid" && (
        <>
          <Pick
            label="Sine or cosine"
            value={String(fit.options.form)}
            words={[
              ["sin", "as a sine"],
              ["cos", "as a cosine"],
            ]}
            onPick={(form) => set({ options: { form } })}
          />
          <Angles fit={fit} onPick={(degrees) => set({ options: { degrees } })} />
        </>
      )}
      {fit.family === "formula" && (Boolean(fit.options.degrees) || /sin|cos|tan/.test(String(fit.options.text ?? ""))) && <Angles fit={fit} onPick={(degrees) => set({ options: { degrees } })} />}
      {methods.length > 1 && <Pick label="Least squares" value={fit.least_squares_in} words={methods} onPick={(method) => set({ method })} />}
      {series.length > 0 && (
        <Pick
          label="Fitted to"
          value={fit.series}
          words={[["", "all series"], ...(series.includes(fit.series) || !fit.series ? series : [fit.series, ...series]).map((name): [string, string] => [name, `only ${name}`])]}
          onPick={(name) => set({ series: name })}
        />
      )}
      {fit.family === "formula" && (
        <FormulaEditor fit={fit} onKeep={(text) => set({ options: { text } })} />
      )}
    </div>
  );
}

/** Powers of a polynomial, each of which can be left out but the highest. */
function Terms({ fit, onPick }: { fit: Fit; onPick: (terms: number[]) => void }) {
  const degree = Number(fit.options.degree);
  const all = Array.from({ length: degree + 1 }, (_, power) => power);
  const terms = Array.isArray(fit.options.terms) ? fit.options.terms.map(Number) : all;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button className="inline-choice" aria-label={`Terms of fit ${fit.letter}`}>
          {terms.length === all.length ? "all terms" : `${terms.length} of ${all.length} terms`}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="floating grid w-48 gap-1" aria-label="Terms">
          {[...all].reverse().map((power) => (
            <label key={power} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-(--color-pine)"
                checked={terms.includes(power)}
                disabled={power === degree}
                onChange={(event) => onPick(event.target.checked ? [...terms, power].sort((a, b) => a - b) : terms.filter((other) => other !== power))}
              />
              {power === 0 ? "constant" : power === 1 ? "first power" : `power ${power}`}
            </label>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What can be chosen within an interpolation: ends, degree, and whether repeats are averaged. */
function InterpolationSettings({ fit, set }: { fit: Fit; set: (part: object) => void }) {
  const { kind, ends, average } = fit.options;
  const slope = (name: "first_slope" | "last_slope", label: string) => (
    <label className="flex items-center gap-1">
      {label}
      <input
        key={String(fit.options[name])}
        className="field numerals !h-[24px] w-16 text-right"
        defaultValue={inField(Number(fit.options[name] ?? 0))}
        onBlur={(event) => {
          const value = readNumber(event.target.value);
          if (value === null) event.target.value = inField(Number(fit.options[name] ?? 0));
          else if (value !== fit.options[name]) set({ options: { [name]: value } });
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
  return (
    <>
      {kind === "cubic-spline" && (
        <Pick
          label="Ends"
          value={String(ends)}
          words={[
            ["natural", "no curvature at its ends"],
            ["not-a-knot", "not-a-knot ends"],
            ["clamped", "given slopes at its ends"],
            ["periodic", "ends that repeat"],
          ]}
          onPick={(value) => set({ options: { ends: value } })}
        />
      )}
      {kind === "cubic-spline" && ends === "clamped" && (
        <>
          {slope("first_slope", "first slope")}
          {slope("last_slope", "last slope")}
        </>
      )}
      {kind === "spline" && (
        <Pick label="Degree of the spline" value={String(fit.options.spline_degree)} words={[1, 2, 3, 4, 5].map((degree) => [String(degree), `degree ${degree}`])} onPick={(value) => set({ options: { spline_degree: Number(value) } })} />
      )}
      {Boolean(average) && (
        <label className="flex items-center gap-1">
          <input type="checkbox" className="accent-(--color-pine)" checked onChange={() => set({ options: { average: false } })} />
          repeats averaged
        </label>
      )}
    </>
  );
}

function Angles({ fit, onPick }: { fit: Fit; onPick: (degrees: boolean) => void }) {
  return (
    <Pick
      label="Angles in"
      value={fit.options.degrees ? "degrees" : "radians"}
      words={[
        ["radians", "angles in radians"],
        ["degrees", "angles in degrees"],
      ]}
      onPick={(value) => onPick(value === "degrees")}
    />
  );
}

function Pick({ label, value, words, onPick }: { label: string; value: string; words: [string, string][]; onPick: (value: string) => void }) {
  return (
    <select className="inline-choice" aria-label={label} value={value} onChange={(event) => onPick(event.target.value)}>
      {words.map(([name, word]) => (
        <option key={name} value={name}>
          {word}
        </option>
      ))}
    </select>
  );
}
