import { useMemo } from "react";

import type { Analysis } from "../api/client";
import { computed } from "../fits/kinds";
import { useStudy } from "../study/context";
import { litRows, useView } from "../study/view";
import { useMarksOnCanvas } from "./useMarksOnCanvas";
import { usePlaced } from "./usePlaced";
import type { PlotScales } from "./usePlotScales";

const NOBODY = new Set<number>();

/** Which readings are marked how, and which of them are drawn as elements, which on canvases of a frame of this height. */
export function useMarks(analysis: Analysis, { settling, x, y, residual }: PlotScales, height: number) {
  const study = useStudy();
  const selection = useView((view) => view.selection);
  const caughtRows = useView((view) => view.caught);
  const lit = useMemo(() => litRows(selection), [selection]);
  const caught = useMemo(() => (caughtRows ? new Set(caughtRows) : NOBODY), [caughtRows]);
  const aside = useMemo(() => new Set(study.aside.map(({ row }) => row)), [study.aside]);
  const assumed = useMemo(() => new Set(study.assumed.map(({ row }) => row)), [study.assumed]);
  const placed = usePlaced(analysis);
  const still = usePlaced(settling);
  const leading = analysis.fits[0];
  const drawn = useMarksOnCanvas({
    placed: still,
    plot: study.plot,
    residuals: computed(leading)?.residuals,
    letter: leading?.letter,
    x,
    y,
    residual,
    height,
    lit,
    caught,
    aside,
    assumed,
  });
  return { ...drawn, lit, caught: drawn.many ? NOBODY : caught, assumed, placed, still };
}

export type Marks = ReturnType<typeof useMarks>;
