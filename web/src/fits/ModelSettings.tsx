import { LayoutGrid } from "lucide-react";
import { useState } from "react";

import type { Fit } from "../api/client";
import { useAnalysisPart, useChange, useStudy } from "../study/context";
import { Hint } from "../ui/Hint";
import { later } from "../ui/later";
import { useCatalogue, useOffered } from "./catalogue";
import { Gallery } from "./lateGallery";
import { SettingControl } from "./SettingControl";
import { Select, widthOf } from "../ui/Select";

const FormulaEditor = later(() => import("../formula/FormulaEditor").then((one) => one.FormulaEditor));

/** What a fit is, changed where it stands: the model, what can be chosen within it, the series it is fitted to. */
export function ModelSettings({ fit }: { fit: Fit }) {
  const change = useChange();
  const course = useStudy().course;
  const settings = course?.degrees == null ? fit.settings : fit.settings.filter(({ option }) => option !== "degrees");
  const series = useAnalysisPart((analysis) => analysis.series);
  const set = (part: object) => change({ kind: "set_fit", letter: fit.letter, ...part });
  const [choosing, setChoosing] = useState(false);
  return (
    <div className="no-print flex flex-wrap items-center gap-1.5 text-plain">
      <ModelChoice fit={fit} />
      <Hint text="Choose among all models, drawn over these readings">
        <button className="icon-button" aria-label={`All models for fit ${fit.letter}`} onClick={() => setChoosing(true)}>
          <LayoutGrid size={15} />
        </button>
      </Hint>
      {choosing && <Gallery fit={fit} onClose={() => setChoosing(false)} />}
      {settings.map((setting) => (
        <SettingControl
          key={setting.option}
          setting={setting}
          letter={fit.letter}
          onSet={(value) => set({ options: { [setting.option]: value } })}
        />
      ))}
      {fit.ways.length > 1 && (
        <Select
          className="inline-choice"
          aria-label="Least squares"
          value={fit.least_squares_in}
          words={fit.ways.map(({ method, word }) => [method, word] as const)}
          onPick={(method) => set({ method })}
        />
      )}
      {series.length > 0 && (
        <Select
          className="inline-choice"
          aria-label="Fitted to"
          value={fit.series}
          words={[
            ["", "all series"] as const,
            ...(series.includes(fit.series) || !fit.series ? series : [fit.series, ...series]).map(
              (name) => [name, `only ${name}`] as const,
            ),
          ]}
          onPick={(name) => set({ series: name })}
        />
      )}
      {fit.family === "formula" && <FormulaEditor fit={fit} onKeep={(text) => set({ options: { text } })} />}
    </div>
  );
}

/** The models under the names that the catalogue gives them. */
function ModelChoice({ fit }: { fit: Fit }) {
  const change = useChange();
  const offered = useOffered();
  // What is there may stay, though the course does not have it.
  const offers = useCatalogue().filter((offer) => offer.key === fit.form || offered.includes(offer));
  const groups = [
    { title: "Models", of: offers.filter((offer) => offer.group === "model") },
    { title: "Through every reading", of: offers.filter((offer) => offer.group === "interpolation") },
  ];
  return (
    <select
      className="inline-choice font-book text-plain"
      aria-label={`Model of fit ${fit.letter}`}
      value={fit.form}
      style={widthOf(offers.find(({ key }) => key === fit.form)?.name ?? fit.name)}
      onChange={(event) => {
        const chosen = offers.find(({ key }) => key === event.target.value);
        if (chosen) change({ kind: "set_fit", letter: fit.letter, family: chosen.family, options: chosen.options });
      }}
    >
      {offers.length === 0 && <option value={fit.form}>{fit.name}</option>}
      {groups.map(({ title, of }) => (
        <optgroup key={title} label={title}>
          {of.map(({ key, name }) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}
