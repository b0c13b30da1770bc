import { useMemo } from "react";

import type { Analysis } from "../api/client";
import { curveOf } from "../fits/kinds";
import { Grips } from "../hand/Grips";
import { useStudy } from "../study/context";
import { Own } from "../study/Own";
import { isLit, useView } from "../study/view";
import { AnswerMarks } from "./AnswerMarks";
import { placeValues, singly } from "./answerValues";
import type { Areas } from "./areas";
import { CurveLabels } from "./CurveLabels";
import { InHand } from "./InHand";
import { JoiningLine } from "./JoiningLine";
import { PlotCurves } from "./PlotCurves";
import { ReadingMarks } from "./ReadingMarks";
import { NextPlaceStrip } from "./NextPlaceStrip";
import { LINEAR } from "./scales";
import { SeriesLegend } from "./SeriesLegend";
import { useCurves } from "./useCurves";
import type { Marks } from "./useMarks";
import type { PlotScales } from "./usePlotScales";

interface Props {
  analysis: Analysis;
  areas: Areas;
  scales: PlotScales;
  marks: Marks;
}

/** Curves, readings, answers and what can be taken hold of, from the bottom up. */
export function PlotContent({ analysis, areas, scales, marks }: Props) {
  const { plot } = useStudy();
  const chosen = useView((view) => view.domain);
  const asked = useView((view) => view.asked);
  const { settling, steady, shapes, domain, x, y } = scales;
  const { placed, still, many, lit } = marks;
  const settledCurves = useMemo(() => settling.fits.map(curveOf), [settling]);
  const uneven = shapes.x !== LINEAR;
  const stray = plot.x_low != null || plot.x_high != null || plot.equal;
  const curves = useCurves(chosen ?? (asked?.mark || uneven || stray ? domain : null), uneven);
  const points = useMemo(
    () =>
      many ? [] : still.x.flatMap((vx, row): [number, number][] => (vx != null && still.y[row] != null ? [[x(vx), y(still.y[row])]] : [])),
    [many, still, x, y],
  );
  const unknowns = analysis.unknowns;
  const answers = [...analysis.answers, ...unknowns.map(({ answer }) => answer)].flatMap(singly).filter(({ mark }) => mark);
  const values = placeValues(answers, x, y, points);
  const litAnswers = unknowns.filter(({ rows }) => rows.some((row) => isLit(lit, row))).map(({ answer }) => answer.key);
  return (
    <>
      {plot.join && !many && <JoiningLine placed={placed} x={x} y={y} />}
      <PlotCurves analysis={analysis} curves={curves} plot={plot} x={x} y={y} cased={many || marks.crowded} />
      <ReadingMarks placed={placed} plot={plot} x={x} y={y} lit={lit} caught={marks.caught} assumed={marks.assumed} only={marks.single} />
      <NextPlaceStrip x={x} y={y} />
      <AnswerMarks answers={answers} values={values} asked={asked} lit={litAnswers} x={x} y={y} />
      <Own>
        <Grips analysis={analysis} x={x} y={y} />
      </Own>
      <InHand x={x} y={y} size={plot.size ?? 4.5} />
      <CurveLabels
        fits={steady ? settling.fits : analysis.fits}
        curves={steady ? settledCurves : curves}
        plot={plot}
        x={x}
        y={y}
        points={points}
        values={values}
      />
      <SeriesLegend series={analysis.series} plot={plot} right={areas.right} top={areas.top} />
    </>
  );
}
