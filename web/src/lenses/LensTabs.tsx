import { ToggleGroup } from "radix-ui";

import { type Lens, setView, useView } from "../study/view";
import { keysOf } from "../ui/keys";

export const LENSES: Record<Lens, string> = {
  plot: "Plot",
  residuals: "Residuals",
  compare: "Compare",
  resample: "Resample",
  workings: "Workings",
  report: "Report",
};

/** Which view stands in the middle. */
export function LensTabs() {
  const lens = useView((view) => view.lens);
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="Lens"
      className="flex flex-wrap"
      value={lens}
      onValueChange={(next) => {
        const lens = keysOf(LENSES).find((name) => name === next);
        if (lens) setView({ lens, caught: null });
      }}
    >
      {keysOf(LENSES).map((name, place) => (
        <ToggleGroup.Item
          key={name}
          value={name}
          title={`${LENSES[name]} (Alt+${place + 1})`}
          className="rounded-(--radius) px-[7px] py-0.5 text-plain @max-[40rem]:px-[3px] @max-[40rem]:text-note @max-[40rem]:tracking-tight pointer-coarse:@max-[44rem]:px-0.5 pointer-coarse:@max-[44rem]:text-note max-sm:px-1 text-mute hover:text-ink aria-checked:bg-sheet aria-checked:font-semibold aria-checked:text-ink"
        >
          {LENSES[name]}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
