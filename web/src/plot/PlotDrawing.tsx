import { type MouseEvent, type RefObject, useId, useMemo } from "react";

import { computed, isDrawn } from "../fits/kinds";
import { useAnalysis, useStudy } from "../study/context";
import { isDrawnRow, STATUS } from "../study/status";
import { chooseReading, setView } from "../study/view";
import { Magnifier } from "../picture/Magnifier";
import { PictureHandles } from "../picture/PictureHandles";
import { PictureMarks } from "../picture/PictureMarks";
import type { Areas } from "./areas";
import { XAxis, XGrid, xTicks, YAxis } from "./Axes";
import { CanvasLayer } from "./CanvasLayer";
import { DraggedBox } from "./DraggedBox";
import { Ground, Hatch, MeasuredBar } from "./Ground";
import { nearestMark, pixelOf } from "./nearest";
import { PlotContent } from "./PlotContent";
import { Strip } from "./Strip";
import { useDivisions } from "./useDivisions";
import { useMarks } from "./useMarks";
import { usePlotKeys } from "./usePlotKeys";
import { measuredIn, type PlotScales } from "./usePlotScales";
import { useTool } from "./useTool";

const REACH = 16;
const CURSORS = {
  look: "cursor-crosshair",
  box: "cursor-zoom-in",
  region: "cursor-cell",
  shift: "cursor-grab",
  add: "cursor-copy",
  line: "cursor-crosshair",
  measure: "cursor-crosshair",
  mark: "cursor-crosshair",
};

interface Props {
  svg: RefObject<SVGSVGElement | null>;
  areas: Areas;
  scales: PlotScales;
  zoom: { by: (factor: number) => void; pan: (dx: number, dy: number) => void };
}

/** What is drawn: ground and axes, readings and curves, the strip of residuals; and what pressing on it does. */
export function PlotDrawing({ svg, areas, scales, zoom }: Props) {
  const { columns } = useStudy();
  const analysis = useAnalysis();
  const { x, y, residual } = scales;
  const { left, right, top, floor, stripTop, stripFloor } = areas;
  const id = useId();
  const [hatch, inside, strip] = [`${id}hatch`, `${id}plot`, `${id}strip`];
  const { measured: own } = analysis;
  const measured = useMemo(() => measuredIn({ measured: own }), [own]);
  const divisions = useDivisions();
  const along = useMemo(() => xTicks(x, divisions.x), [x, divisions.x]);
  const marks = useMarks(analysis, scales, areas.height);
  const tool = useTool(analysis, x, y, areas);
  const label = useLabel();
  const onKeyDown = usePlotKeys(tool.onKeyDown, zoom);

  function chooseNearest(event: MouseEvent<SVGSVGElement>) {
    if (tool.tool !== "look") return;
    const at = pixelOf(event, event.currentTarget);
    const residuals = computed(analysis.fits[0])?.residuals ?? [];
    const where = at.py > stripTop - 8 ? { ys: residuals, y: residual } : { ys: analysis.y, y };
    const row = nearestMark(at, { xs: analysis.x, x, ...where }, REACH, (row) => isDrawnRow(analysis.status[row]));
    if (row === null) setView({ selection: null });
    else chooseReading(columns, row);
  }

  return (
    <>
      {marks.layers.map((layer, place) => (
        <CanvasLayer key={place} width={areas.width} layer={layer} />
      ))}
      <svg
        ref={svg}
        viewBox={`0 0 ${areas.width} ${areas.height}`}
        width={areas.width}
        height={areas.height}
        role="application"
        aria-roledescription="plot"
        aria-label={`${label}. Plus and minus zoom, arrows move, 0 shows all readings.`}
        tabIndex={0}
        onClick={chooseNearest}
        onKeyDown={onKeyDown}
        {...tool.handlers}
        className={`absolute inset-0 block touch-none select-none print:static [&:not(:focus-visible)]:outline-none ${CURSORS[tool.tool]}`}
      >
        <defs>
          <Hatch id={hatch} />
          <clipPath id={inside}>
            <rect x={left} y={top - 4} width={right - left} height={floor - top + 4} />
          </clipPath>
          <clipPath id={strip}>
            <rect x={left} y={stripTop - 6} width={right - left} height={stripFloor - stripTop + 12} />
          </clipPath>
        </defs>
        <Ground x={x} top={top} bottom={floor} measured={measured} hatch={hatch} />
        <XGrid x={x} top={top} bottom={floor} division={divisions.x} ticks={along.ticks} />
        <YAxis y={y} right={right} naming={analysis.naming} division={divisions.y} />
        <g clipPath={`url(#${inside})`}>
          <PlotContent analysis={analysis} areas={areas} scales={scales} marks={marks} />
          <PictureMarks scales={scales} />
        </g>
        <MeasuredBar x={x} y={floor} measured={measured} />
        {stripFloor > stripTop && (
          <Strip
            analysis={analysis}
            measured={measured}
            x={x}
            y={residual}
            lit={marks.lit}
            hatch={hatch}
            clip={strip}
            only={marks.single}
          />
        )}
        <XAxis x={x} at={stripFloor} naming={analysis.naming} division={divisions.x} along={along} />
        {tool.box && <DraggedBox box={tool.box} />}
        <PictureHandles areas={areas} scales={scales} />
        <Magnifier areas={areas} scales={scales} />
      </svg>
    </>
  );
}

/** What the plot shows, in words. */
function useLabel(): string {
  const { status, fits } = useAnalysis();
  const used = useMemo(() => status.reduce((count, own) => count + (own === STATUS.used ? 1 : 0), 0), [status]);
  const fit = fits[0];
  if (!fit || !isDrawn(fit)) return `Plot of ${used} readings`;
  return `Plot of ${used} readings with the ${fit.name} ${computed(fit)?.equation_text ?? ""}, and their residuals below`;
}
