import type { Analysis, Curve, PlotSettings } from "../api/client";
import { isDrawn } from "../fits/kinds";
import { useAllLastGood } from "../fits/lastGood";
import { lookOf } from "../fits/looks";
import { useView } from "../study/view";
import { GhostCurve, MovingCurve } from "./CurveMarks";
import type { Scale } from "./scales";
import { measuredIn } from "./usePlotScales";

interface Props {
  analysis: Analysis;
  curves: (Curve | null)[];
  plot: PlotSettings;
  x: Scale;
  y: Scale;
  /** Whether curves have a light edge, to stand out from a cloud of readings. */
  cased: boolean;
}

/** Every curve, the leading one on top; as ghosts what was before a mistake, before a turn, and without a reading. */
export function PlotCurves({ analysis, curves, plot, x, y, cased }: Props) {
  const kept = useAllLastGood();
  const turning = useView((view) => view.turning);
  const without = useView((view) => view.without);
  const order = analysis.fits.map((fit, place) => ({ fit, place, curve: curves[place] })).reverse();
  return (
    <>
      {order.map(({ fit, place, curve }) => {
        const measured: [number, number] | null = isDrawn(fit) ? [fit.measured.low, fit.measured.high] : measuredIn(analysis);
        if (!curve || !measured) return null;
        return (
          <MovingCurve
            key={fit.letter}
            kind={fit.kind}
            curve={curve}
            x={x}
            y={y}
            measured={measured}
            letter={fit.letter}
            weight={plot.line ?? 2.2}
            leading={place === 0}
            cased={cased}
          />
        );
      })}
      {analysis.fits.map((fit) => {
        const before = isDrawn(fit) ? null : kept[fit.letter]?.curve;
        return before && <GhostCurve key={fit.letter} curve={before} x={x} y={y} id={`old-${fit.letter}`} />;
      })}
      {turning?.before && <GhostCurve curve={turning.before} x={x} y={y} id="before" />}
      {without && <GhostCurve curve={without.curve} x={x} y={y} id="without" color={lookOf(without.letter).color} />}
    </>
  );
}
