import { LayoutGrid } from "lucide-react";
import { useState } from "react";

import type { Fit } from "../api/client";
import { useAnalysis, useChange } from "../study/context";
import { EditableText } from "../ui/EditableText";
import { Hint } from "../ui/Hint";
import { CHOICES, choiceOf } from "./catalogue";
import { Gallery } from "./Gallery";

const DEGREES = [4, 5, 6, 7, 8, 9, 10, 11, 12];
const LOGARITHMS = ["exponential", "power", "logarithmic"];

/** What a fit is, changed where it stands: the model, what can be chosen within it, the series it is fitted to. */
export function ModelSettings({ fit }: { fit: Fit }) {
  const change = useChange();
  const { series, x_error: xError, y_error: yError, naming } = useAnalysis();
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
          const next = CHOICES.find(({ value }) => value === event.target.value)!;
          set({ family: next.family, options: next.options });
        }}
      >
        {CHOICES.map(({ value, word }) => (
          <option key={value} value={value}>
            {word}
          </option>
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
      {fit.family === "formula" && <Angles fit={fit} onPick={(degrees) => set({ options: { degrees } })} />}
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
        <div className="flex w-full items-baseline gap-1.5 font-book text-[15px]">
          <i>{naming.y}</i> =
          <div className="grow">
            <EditableText label={`Formula of fit ${fit.letter}`} value={String(fit.options.text ?? "")} placeholder={`a*exp(k*${naming.x}) + b`} className="font-mono text-[13.5px]" onCommit={(text) => set({ options: { text } })} />
          </div>
        </div>
      )}
    </div>
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
