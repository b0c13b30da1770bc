import { type KeyboardEvent, type MouseEvent, useEffect, useId, useMemo, useRef } from "react";

import { lookOf } from "../fits/looks";
import { useAllLastGood, useKeepLastGood } from "../fits/lastGood";
import { Grips } from "../hand/Grips";
import { STATUS, useAnalysis, useStudy } from "../study/context";
import { type Domain, isLit, litRows, select, setView, useView } from "../study/view";
import { AnswerMarks } from "./AnswerMarks";
import { type Division, XAxis, XGrid, xTicks, YAxis } from "./Axes";
import { CanvasLayer } from "./CanvasLayer";
import { CaughtBar } from "./CaughtBar";
import { CurveLabels } from "./CurveLabels";
import { equalised, settledView, shapesOf, unplaceable } from "./domains";
import { GhostCurve, MovingCurve } from "./CurveMarks";
import { EdgeCounts } from "./EdgeCounts";
import { bringIn, countBeyond } from "./edges";
import { Ground, Hatch, MeasuredBar } from "./Ground";
import { InHand } from "./InHand";
import { JoiningLine } from "./JoiningLine";
import { PlotBar } from "./PlotBar";
import { ReadingMarks } from "./ReadingMarks";
import { drawable, LINEAR, makeScale, MARGIN } from "./scales";
import { SeriesLegend } from "./SeriesLegend";
import { Strip } from "./Strip";
import { useCurves } from "./useCurves";
import { useMarksOnCanvas } from "./useMarksOnCanvas";
import { usePlaced } from "./usePlaced";
import { useSize } from "./useSize";
import { useTool } from "./useTool";
import { useZoom } from "./useZoom";
import { wholeView } from "./wholeView";
import { computed, curveOf, isDrawn } from "../fits/kinds";

const STRIP = 104;
const BETWEEN = 26;
const FOOT = 48;
const CLOCKS = ["h:min", "min:s", "h:min:s"];
const NOBODY = new Set<number>();

/** The lens in the middle: readings, curves and residual strip on one x axis. */
export function Plot() {
  const study = useStudy();
  const analysis = useAnalysis();
  const chosen = useView((view) => view.domain);
  const selection = useView((view) => view.selection);
  const asked = useView((view) => view.asked);
  const caughtRows = useView((view) => view.caught);
  const frame = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { width, height } = useSize(frame);
  const id = useId();
  const { plot } = study;

  const measured: [number, number] | null = useMemo(
    () => (analysis.measured ? [analysis.measured.low, analysis.measured.high] : null),
    [analysis.measured],
  );
  const { straight } = analysis;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- of the analysis only the straight coordinates count
  const shapes = useMemo(() => shapesOf(plot, analysis), [plot, straight]);
  const inner = { width: width - MARGIN.left - MARGIN.right, height: height - MARGIN.top - BETWEEN - STRIP - FOOT };
  const right = MARGIN.left + Math.max(inner.width, 1);
  const floor = MARGIN.top + Math.max(inner.height, 1);
  // While a reading is dragged the view stands still, as it was before.
  const steady = useView((view) => view.inHand !== null || view.turning !== null);
  const settling = steady ? study.analysis : analysis;
  const settledCurves = useMemo(() => settling.fits.map(curveOf), [settling]);
  const turning = useView((view) => view.turning);
  const without = useView((view) => view.without);
  const kept = useAllLastGood();
  useKeepLastGood(analysis);
  const whole = useMemo(() => {
    const own: [number, number] | null = settling.measured ? [settling.measured.low, settling.measured.high] : null;
    const settled = settledView(wholeView(settling.view, own, asked), plot, shapes, settling);
    return plot.equal && shapes.x === LINEAR && shapes.y === LINEAR ? equalised(settled, right - MARGIN.left, floor - MARGIN.top) : settled;
  }, [settling, asked, plot, shapes, right, floor]);
  // The same object as long as its numbers are, so that an answer that moves within the view draws nothing else again.
  const [[x0, x1], [y0, y1]] = [(chosen ?? whole).x, (chosen ?? whole).y];
  const domain: Domain = useMemo(() => ({ x: [x0, x1], y: [y0, y1] }), [x0, x1, y0, y1]);
  const fits = drawable(domain.x, shapes.x) && drawable(domain.y, shapes.y) && drawable([-settling.view.residual, settling.view.residual]);
  const room = width > 120 && height > STRIP + BETWEEN + FOOT + 60;
  const tool = useView((view) => view.tool);
  const { by, pan } = useZoom(svg, domain, shapes, { width, height: height - STRIP - BETWEEN - FOOT }, fits, tool === "look");
  const uneven = shapes.x !== LINEAR;
  const stray = plot.x_low != null || plot.x_high != null || plot.equal;
  const curves = useCurves(chosen ?? (asked?.mark || uneven || stray ? domain : null), uneven);

  const stripTop = floor + BETWEEN;
  const x = useMemo(() => makeScale(domain.x, [MARGIN.left, right], shapes.x), [domain.x, right, shapes.x]);
  const y = useMemo(() => makeScale(domain.y, [floor, MARGIN.top], shapes.y), [domain.y, floor, shapes.y]);
  const largest = settling.view.residual;
  const residual = useMemo(() => makeScale([-largest, largest], [stripTop + STRIP, stripTop]), [largest, stripTop]);
  const gesture = useTool(analysis, x, y, { left: MARGIN.left, right, top: MARGIN.top, bottom: floor });
  useEffect(() => setView({ seen: { ...domain, aspect: width > 0 ? height / width : 0 } }), [domain, width, height]);
  const lit = useMemo(() => litRows(selection), [selection]);
  const caught = useMemo(() => (caughtRows ? new Set(caughtRows) : NOBODY), [caughtRows]);
  const aside = useMemo(() => new Set(study.aside.map(({ row }) => row)), [study.aside]);
  const assumed = useMemo(() => new Set(study.assumed.map(({ row }) => row)), [study.assumed]);
  const litAnswers = analysis.unknowns
    .filter((unknown) => unknown.rows.some((row) => isLit(lit, row)))
    .map((unknown) => unknown.answer.key);
  const placed = usePlaced(analysis);
  const still = usePlaced(settling);
  const beyond = useMemo(() => countBeyond(placed, domain), [placed, domain]);
  const lost = useMemo(() => unplaceable(analysis, shapes), [analysis, shapes]);
  const fit = analysis.fits[0];
  const residuals = computed(fit)?.residuals;
  const { many, crowded, single, layers } = useMarksOnCanvas({
    placed: still,
    plot,
    residuals,
    letter: fit?.letter,
    x,
    y,
    residual,
    lit,
    caught,
    aside,
    assumed,
    on: fits,
  });

  const askedOutside =
    asked?.mark && (asked.mark.x < domain.x[0] || asked.mark.x > domain.x[1] || asked.mark.y < domain.y[0] || asked.mark.y > domain.y[1]);
  const points = useMemo(
    () =>
      many || !fits
        ? []
        : still.x.flatMap((vx, row) => (vx != null && still.y[row] != null ? [[x(vx), y(still.y[row])] as [number, number]] : [])),
    [many, fits, still, x, y],
  );
  const clock = (role: string) => {
    const unit = study.columns.find((column) => column.role === role)?.unit ?? "";
    return CLOCKS.includes(unit) ? unit : "";
  };
  const straightened = plot.straighten ? straight : null;
  const [xClock, yClock] = [clock("x"), clock("y")];
  // Clock times stand over the unit of the clock, everything else over that of its numbers.
  const [xOver, yOver] = [xClock || analysis.naming.x_over, yClock || analysis.naming.y_over];
  const xDivision: Division = useMemo(
    () => ({
      step: straightened ? null : plot.x_step,
      grid: plot.grid ?? "major",
      clock: xClock !== "",
      over: xOver,
      title: straightened?.x_title,
    }),
    [straightened, plot, xClock, xOver],
  );
  const yDivision: Division = useMemo(
    () => ({
      step: straightened ? null : plot.y_step,
      grid: plot.grid ?? "major",
      clock: yClock !== "",
      over: yOver,
      title: straightened?.y_title,
    }),
    [straightened, plot, yClock, yOver],
  );
  const ticks = useMemo(() => (fits ? xTicks(x, xDivision) : []), [fits, x, xDivision]);

  function chooseNearest(event: MouseEvent<SVGSVGElement>) {
    if (gesture.tool !== "look") return;
    const box = event.currentTarget.getBoundingClientRect();
    const mx = event.clientX - box.left;
    const my = event.clientY - box.top;
    const inStrip = my > stripTop - 8;
    let best = 16;
    let found = -1;
    analysis.status.forEach((status, row) => {
      if (status !== STATUS.used && status !== STATUS.aside) return;
      const vx = analysis.x[row];
      const value = inStrip ? residuals?.[row] : analysis.y[row];
      if (vx == null || value == null) return;
      const distance = Math.hypot(x(vx) - mx, (inStrip ? residual(value) : y(value)) - my);
      if (distance < best) {
        best = distance;
        found = row;
      }
    });
    if (found >= 0)
      select({
        row: found,
        col: Math.max(
          0,
          study.columns.findIndex((column) => column.role === "y"),
        ),
      });
    else setView({ selection: null });
  }

  function onKeyDown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (gesture.onKeyDown(event)) return event.preventDefault();
    const steps: Record<string, () => void> = {
      "+": () => by(1.3),
      "=": () => by(1.3),
      "-": () => by(1 / 1.3),
      "0": () => setView({ domain: null }),
      ArrowLeft: () => pan(40, 0),
      ArrowRight: () => pan(-40, 0),
      ArrowUp: () => pan(0, 40),
      ArrowDown: () => pan(0, -40),
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    step();
  }

  const used = useMemo(() => placed.status.reduce((count, status) => count + (status === STATUS.used ? 1 : 0), 0), [placed]);
  const label =
    fit && isDrawn(fit)
      ? `Plot of ${used} readings with the ${fit.name} ${computed(fit)?.equation_text ?? ""}, and their residuals below`
      : `Plot of ${used} readings`;
  const cursor = { look: "cursor-crosshair", box: "cursor-zoom-in", region: "cursor-cell", shift: "cursor-grab", add: "cursor-copy" }[
    gesture.tool
  ];
  return (
    <section aria-label="Plot" className="flex h-full min-h-0 flex-col gap-2">
      <PlotBar onZoom={by} />
      <div ref={frame} className="relative min-h-0 grow border border-rule bg-sheet print:h-auto print:border-0">
        {!fits && (
          <p role="status" className="absolute inset-0 grid place-content-center p-8 text-center text-mute">
            These numbers are too large, too small or too close together to be drawn. Choose another unit for x or y.
          </p>
        )}
        {fits && room && (
          <>
            {layers.map((paint, place) => (
              <CanvasLayer key={place} width={width} height={height} paint={paint} />
            ))}
            <svg
              ref={svg}
              viewBox={`0 0 ${width} ${height}`}
              width={width}
              height={height}
              role="application"
              aria-roledescription="plot"
              aria-label={`${label}. Plus and minus zoom, arrows move, 0 shows all readings.`}
              tabIndex={0}
              onClick={chooseNearest}
              onKeyDown={onKeyDown}
              onKeyUp={gesture.onKeyUp}
              onPointerDown={gesture.onPointerDown}
              onPointerMove={gesture.onPointerMove}
              onPointerUp={gesture.onPointerUp}
              onPointerCancel={gesture.onPointerCancel}
              className={`absolute inset-0 block touch-none select-none print:static ${cursor}`}
            >
              <defs>
                <Hatch id={`${id}hatch`} />
                <clipPath id={`${id}plot`}>
                  <rect x={MARGIN.left} y={MARGIN.top - 4} width={right - MARGIN.left} height={floor - MARGIN.top + 4} />
                </clipPath>
                <clipPath id={`${id}strip`}>
                  <rect x={MARGIN.left} y={stripTop - 6} width={right - MARGIN.left} height={STRIP + 12} />
                </clipPath>
              </defs>
              <Ground x={x} top={MARGIN.top} bottom={floor} measured={measured} hatch={`${id}hatch`} />
              <XGrid x={x} top={MARGIN.top} bottom={floor} division={xDivision} ticks={ticks} />
              <YAxis y={y} right={right} naming={analysis.naming} division={yDivision} />
              <g clipPath={`url(#${id}plot)`}>
                {plot.join && !many && <JoiningLine placed={placed} x={x} y={y} />}
                {analysis.fits
                  .map((one, place) => ({ one, place, curve: curves[place] }))
                  .reverse()
                  .map(({ one, place, curve }) => {
                    const own: [number, number] | null = isDrawn(one) ? [one.measured.low, one.measured.high] : measured;
                    return (
                      curve &&
                      own && (
                        <MovingCurve
                          key={one.letter}
                          kind={one.kind}
                          curve={curve}
                          x={x}
                          y={y}
                          measured={own}
                          letter={one.letter}
                          weight={plot.line ?? 2.2}
                          leading={place === 0}
                          cased={many || crowded}
                        />
                      )
                    );
                  })}
                {analysis.fits.map(
                  (one) =>
                    !isDrawn(one) &&
                    kept[one.letter]?.curve && (
                      <GhostCurve key={one.letter} curve={kept[one.letter]!.curve!} x={x} y={y} id={`old-${one.letter}`} />
                    ),
                )}
                {turning?.before && <GhostCurve curve={turning.before} x={x} y={y} id="before" />}
                {without && <GhostCurve curve={without.curve} x={x} y={y} id="without" color={lookOf(without.letter).color} />}
                <ReadingMarks
                  placed={placed}
                  plot={plot}
                  x={x}
                  y={y}
                  lit={lit}
                  caught={many ? NOBODY : caught}
                  assumed={assumed}
                  only={single}
                />
                <AnswerMarks
                  answers={[...analysis.answers, ...analysis.unknowns.map((unknown) => unknown.answer)]}
                  asked={asked}
                  lit={litAnswers}
                  x={x}
                  y={y}
                />
                <Grips analysis={analysis} x={x} y={y} />
                <InHand x={x} y={y} size={plot.size ?? 4.5} />
                <CurveLabels
                  fits={steady ? settling.fits : analysis.fits}
                  curves={steady ? settledCurves : curves}
                  plot={plot}
                  x={x}
                  y={y}
                  points={points}
                />
                <SeriesLegend series={analysis.series} plot={plot} right={right} top={MARGIN.top} />
              </g>
              <MeasuredBar x={x} y={floor} measured={measured} />
              <Strip
                analysis={analysis}
                measured={measured}
                x={x}
                y={residual}
                lit={lit}
                hatch={`${id}hatch`}
                clip={`${id}strip`}
                only={single}
              />
              <XAxis x={x} at={stripTop + STRIP} naming={analysis.naming} division={xDivision} ticks={ticks} />
              {gesture.box && (
                <rect
                  data-testid="box"
                  x={Math.min(gesture.box.x0, gesture.box.x1)}
                  y={Math.min(gesture.box.y0, gesture.box.y1)}
                  width={Math.abs(gesture.box.x1 - gesture.box.x0)}
                  height={Math.abs(gesture.box.y1 - gesture.box.y0)}
                  fill="var(--color-lichen)"
                  fillOpacity="0.25"
                  stroke="var(--color-ink)"
                  strokeDasharray="4 3"
                />
              )}
            </svg>
            <CaughtBar />
            {(askedOutside || lost.length > 0) && (
              <p
                role="status"
                className="no-print absolute right-4 bottom-[188px] rounded bg-amber-well px-2 py-0.5 text-[12px] text-amber"
              >
                {askedOutside
                  ? "The answer lies outside the view"
                  : `${lost.length === 1 ? "One reading has" : `${lost.length} readings have`} no place on these axes: row ${lost
                      .slice(0, 4)
                      .map((row) => row + 1)
                      .join(", ")}${lost.length > 4 ? ", …" : ""}`}
              </p>
            )}
            <EdgeCounts beyond={beyond} onBringIn={(edge) => setView({ domain: bringIn(placed, domain, edge) })} />
          </>
        )}
      </div>
    </section>
  );
}
