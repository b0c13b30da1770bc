import { useMemo } from "react";

import { useAnalysisPart, useNaming, useStudy } from "../study/context";
import type { Division } from "./Axes";

const CLOCKS = ["h:min", "min:s", "h:min:s"];

/** How both axes are divided and named, as the plot's settings want it. */
export function useDivisions(): { x: Division; y: Division } {
  const { plot, columns } = useStudy();
  const naming = useNaming();
  const straight = useAnalysisPart((analysis) => analysis.straight);
  const straightened = plot.straighten ? straight : null;
  const [xClock, yClock] = ["x", "y"].map((role) => {
    const unit = columns.find((column) => column.role === role)?.unit ?? "";
    return CLOCKS.includes(unit) ? unit : "";
  });
  return useMemo(() => {
    const grid = plot.grid ?? "major";
    const divided = (step: number | null | undefined, clock: string, over: string, title?: string): Division => ({
      step: straightened ? null : step,
      grid,
      clock: clock !== "",
      // Clock times stand over the unit of the clock, everything else over that of its numbers.
      over: clock || over,
      title,
    });
    return {
      x: divided(plot.x_step, xClock!, naming.x_over, straightened?.x_title),
      y: divided(plot.y_step, yClock!, naming.y_over, straightened?.y_title),
    };
  }, [plot, naming, straightened, xClock, yClock]);
}
