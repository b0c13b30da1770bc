import { useMemo } from "react";

import type { Analysis } from "../api/client";
import { useAnalysis, useStudy } from "../study/context";
import { type Domain, useView } from "../study/view";
import { extentOf } from "../picture/edges";
import { seenPicture } from "../picture/usePicture";
import type { Areas } from "./areas";
import { equalised, settledView, type Shapes, shapesOf } from "./domains";
import { drawable, LINEAR, makeScale, type Scale } from "./scales";
import { wholeView } from "./wholeView";

export interface PlotScales {
  /** The analysis that the view goes by; while something is dragged, the one from before. */
  settling: Analysis;
  /** Whether something is being dragged, and the view stands still. */
  steady: boolean;
  shapes: Shapes;
  domain: Domain;
  x: Scale;
  y: Scale;
  residual: Scale;
  /** Whether these stretches can be drawn at all. */
  drawable: boolean;
}

/** What stretches of x, y and the residuals are shown, and the scales that place them. */
export function usePlotScales({ left, right, top, floor, stripTop, stripFloor }: Areas): PlotScales {
  const study = useStudy();
  const { plot, analysis: saved } = study;
  const picture = useMemo(() => seenPicture(study), [study]);
  const analysis = useAnalysis();
  const chosen = useView((view) => view.domain);
  const asked = useView((view) => view.asked);
  const steady = useView((view) => view.inHand !== null || view.turning !== null);
  const settling = steady ? saved : analysis;
  const { straight } = analysis;
  const shapes = useMemo(() => shapesOf(plot, straight), [plot, straight]);
  const whole = useMemo(() => {
    const under = picture && extentOf(picture);
    const settled = settledView(wholeView(settling.view, measuredIn(settling), asked), plot, shapes, settling, under);
    return plot.equal && shapes.x === LINEAR && shapes.y === LINEAR ? equalised(settled, right - left, floor - top) : settled;
  }, [settling, asked, plot, shapes, picture, left, right, top, floor]);
  // The same object as long as its numbers are, so that an answer that moves within the view draws nothing else again.
  const [[x0, x1], [y0, y1]] = [(chosen ?? whole).x, (chosen ?? whole).y];
  const domain: Domain = useMemo(() => ({ x: [x0, x1], y: [y0, y1] }), [x0, x1, y0, y1]);
  const x = useMemo(() => makeScale(domain.x, [left, right], shapes.x), [domain.x, left, right, shapes.x]);
  const y = useMemo(() => makeScale(domain.y, [floor, top], shapes.y), [domain.y, floor, top, shapes.y]);
  const largest = settling.view.residual;
  const residual = useMemo(
    () => makeScale([-largest, largest], [Math.max(stripFloor, stripTop + 1), stripTop]),
    [largest, stripFloor, stripTop],
  );
  const can = drawable(domain.x, shapes.x) && drawable(domain.y, shapes.y) && drawable([-largest, largest]);
  return { settling, steady, shapes, domain, x, y, residual, drawable: can };
}

/** Both ends of the measured range; null without readings. */
export const measuredIn = ({ measured }: Pick<Analysis, "measured">): [number, number] | null =>
  measured ? [measured.low, measured.high] : null;
