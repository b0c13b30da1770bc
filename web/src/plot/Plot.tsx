import { useEffect, useMemo, useRef } from "react";

import { useKeepLastGood } from "../fits/lastGood";
import { useAnalysis, useLooking, useStudy } from "../study/context";
import { Own } from "../study/Own";
import { setView, useView } from "../study/view";
import { LineForm } from "../picture/LineForm";
import { MeasureForm } from "../picture/MeasureForm";
import { PictureBar } from "../picture/PictureBar";
import { PictureLayer } from "../picture/PictureLayer";
import { ScaleForm } from "../picture/ScaleForm";
import { areasOf } from "./areas";
import { CaughtBar } from "./CaughtBar";
import { unplaceable } from "./domains";
import { EdgeCounts } from "./EdgeCounts";
import { bringIn, countBeyond } from "./edges";
import { PlotBar } from "./PlotBar";
import { PlotDrawing } from "./PlotDrawing";
import { PlotNotes } from "./PlotNotes";
import { usePlaced } from "./usePlaced";
import { usePlotScales } from "./usePlotScales";
import { useSize } from "./useSize";
import { SelectedReading } from "./SelectedReading";
import { useZoom } from "./useZoom";
import { isDrawn } from "../fits/kinds";
import { FirstSteps } from "./FirstSteps";
import { PlotTwin } from "./PlotTwin";

/** The lens in the middle: readings, curves and residual strip on one x axis. */
export function Plot() {
  const analysis = useAnalysis();
  const asked = useView((view) => view.asked);
  const looking = useView((view) => view.tool === "look");
  const onPicture = useView((view) => view.tool === "line" || view.tool === "measure" || view.tool === "mark" || view.tool === "add");
  const frame = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { width, height } = useSize(frame);
  const areas = useMemo(() => areasOf(width, height), [width, height]);
  const scales = usePlotScales(areas);
  const { domain, shapes } = scales;
  const { row_count, picture } = useStudy();
  const own = !useLooking();
  const empty = row_count === 0 && !picture && looking && !analysis.fits.some((fit) => isDrawn(fit) && fit.curve);
  const drawn = !empty && scales.drawable && areas.room;
  const zoom = useZoom(svg, domain, shapes, { width, height: areas.floor }, drawn, looking);
  const shape = (areas.floor - areas.top) / (areas.right - areas.left);
  useEffect(() => setView({ seen: { ...domain, aspect: width > 0 ? height / width : 0, shape } }), [domain, width, height, shape]);
  useKeepLastGood(analysis);
  const placed = usePlaced(analysis);
  const beyond = useMemo(() => countBeyond(placed, domain, shapes), [placed, domain, shapes]);
  const lost = useMemo(() => unplaceable(analysis, shapes), [analysis, shapes]);
  return (
    <section aria-label="Plot" className="flex h-full min-h-0 flex-col gap-2">
      <PlotBar onZoom={zoom.by} />
      <Own>
        <PictureBar />
      </Own>
      <div
        ref={frame}
        className={`relative min-h-0 grow border bg-sheet print:h-auto print:border-0 ${picture && onPicture ? "border-pine outline-2 outline-pine" : "border-rule"}`}
      >
        {!empty && !scales.drawable && (
          <p role="status" className="absolute inset-0 grid place-content-center p-8 text-center text-mute">
            These numbers are too large, too small or too close together to be drawn. Choose another unit for x or y.
          </p>
        )}
        {!empty ? <PlotTwin /> : own && <FirstSteps />}
        {drawn && (
          <>
            <PictureLayer areas={areas} scales={scales} />
            <PlotDrawing svg={svg} areas={areas} scales={scales} zoom={zoom} />
            <SelectedReading areas={areas} />
            <CaughtBar />
            {picture && own && (
              <>
                <ScaleForm />
                <LineForm x={scales.x} y={scales.y} />
                <MeasureForm picture={picture} />
              </>
            )}
            <PlotNotes asked={asked} domain={domain} lost={lost} areas={areas} />
            <EdgeCounts beyond={beyond} areas={areas} onBringIn={(edge) => setView({ domain: bringIn(placed, domain, edge, shapes) })} />
          </>
        )}
      </div>
    </section>
  );
}
