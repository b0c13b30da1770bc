import { ToggleGroup } from "radix-ui";

import { type Lens, setView, useView } from "../study/view";

const LENSES: Record<Lens, string> = { plot: "Plot", residuals: "Residuals", compare: "Compare", resample: "Resample", report: "Report" };

/** Which view stands in the middle. */
export function LensTabs() {
  const lens = useView((view) => view.lens);
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="Lens"
      className="flex"
      value={lens}
      onValueChange={(next) => next && setView({ lens: next as Lens, caught: null })}
    >
      {(Object.keys(LENSES) as Lens[]).map((name) => (
        <ToggleGroup.Item
          key={name}
          value={name}
          className="rounded-(--radius) px-[7px] py-0.5 text-[13px] text-mute hover:text-ink aria-checked:bg-sheet aria-checked:font-semibold aria-checked:text-ink"
        >
          {LENSES[name]}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
