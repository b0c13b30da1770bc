import { Maximize, ZoomIn, ZoomOut } from "lucide-react";
import { type KeyboardEvent, type MouseEvent, useId, useMemo, useRef } from "react";

import { STATUS, useAnalysis, useStudy } from "../study/context";
import { isLit, litRows, select, setView, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { AnswerMarks } from "./AnswerMarks";
import { XAxis, YAxis } from "./Axes";
import { CanvasDots } from "./CanvasDots";
import { CurveMarks } from "./CurveMarks";
import { EdgeCounts } from "./EdgeCounts";
import { bringIn, countBeyond } from "./edges";
import { Ground, Hatch, MeasuredBar } from "./Ground";
import { ReadingMarks } from "./ReadingMarks";
import { drawable, makeScale, MARGIN } from "./scales";
import { SelectedReading } from "./SelectedReading";
import { Strip } from "./Strip";
import { useCurve } from "./useCurve";
import { useSize } from "./useSize";
import { useZoom } from "./useZoom";
import { wholeView } from "./wholeView";

const STRIP = 104;
const BETWEEN = 26;
const FOOT = 48;
/** From this many readings on they are drawn on a canvas. */
const MANY = 2000;
const LIT_AS_MARKS = 200;

/** The lens in the middle: readings, curve and residual strip on one x axis. */
export function Plot() {
  const study = useStudy();
  const analysis = useAnalysis();
  const chosen = useView((view) => view.domain);
  const selection = useView((view) => view.selection);
  const asked = useView((view) => view.asked);
  const frame = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { width, height } = useSize(frame);
  const id = useId();

  const measured: [number, number] | null = useMemo(
    () => (analysis.measured ? [analysis.measured.low, analysis.measured.high] : null),
    [analysis.measured],
  );
  const whole = useMemo(() => wholeView(analysis.view, measured, asked), [analysis.view, measured, asked]);
  const domain = chosen ?? whole;
  const fits = drawable(domain.x) && drawable(domain.y) && drawable([-analysis.view.residual, analysis.view.residual]);
  const room = width > 120 && height > STRIP + BETWEEN + FOOT + 60;
  const inner = { width: width - MARGIN.left - MARGIN.right, height: height - MARGIN.top - BETWEEN - STRIP - FOOT };
  const { by, pan } = useZoom(svg, domain, { width, height: height - STRIP - BETWEEN - FOOT }, fits);
  const curve = useCurve(chosen ?? (asked?.mark ? domain : null));

  const right = MARGIN.left + Math.max(inner.width, 1);
  const floor = MARGIN.top + Math.max(inner.height, 1);
  const stripTop = floor + BETWEEN;
  const x = makeScale(domain.x, [MARGIN.left, right]);
  const y = makeScale(domain.y, [floor, MARGIN.top]);
  const residual = makeScale([-analysis.view.residual, analysis.view.residual], [stripTop + STRIP, stripTop]);
  const lit = litRows(selection);
  const many = analysis.status.length > MANY;
  // Of many readings only a few chosen ones are drawn as marks; the rest, and a large choice, are on the canvas.
  const litAnswers = analysis.unknowns.filter((unknown) => unknown.rows.some((row) => isLit(lit, row))).map((unknown) => unknown.answer.key);
  const litOnCanvas = many && lit !== null && lit[1] - lit[0] >= LIT_AS_MARKS;
  const drawn = many ? (lit && !litOnCanvas ? Array.from({ length: lit[1] - lit[0] + 1 }, (_, i) => lit[0] + i) : []) : null;
  const beyond = useMemo(() => countBeyond(analysis, domain), [analysis, domain]);
  const fit = analysis.fits[0];

  const [litFrom, litTo] = lit ?? [-1, -1];
  const [x0, x1] = domain.x;
  const [y0, y1] = domain.y;
  const askedOutside = asked?.mark && (asked.mark.x < x0 || asked.mark.x > x1 || asked.mark.y < y0 || asked.mark.y > y1);
  const groups = useMemo(() => {
    if (!many || !fits) return [];
    const px = makeScale([x0, x1], [MARGIN.left, right]);
    const py = makeScale([y0, y1], [floor, MARGIN.top]);
    const pr = makeScale([-analysis.view.residual, analysis.view.residual], [stripTop + STRIP, stripTop]);
    const from = litOnCanvas ? litFrom : Infinity;
    const collect = (wanted: (row: number) => boolean, value: (row: number) => number | null | undefined, place: (value: number) => number, top: number, bottom: number) => {
      const xs: number[] = [];
      const ys: number[] = [];
      analysis.status.forEach((own, row) => {
        const vx = analysis.x[row];
        const v = value(row);
        if (!wanted(row) || own === STATUS.problem || vx == null || v == null || vx < x0 || vx > x1) return;
        const at = place(v);
        if (at < top || at > bottom) return;
        xs.push(px(vx));
        ys.push(at);
      });
      return { x: xs, y: ys };
    };
    const dots = (wanted: (row: number) => boolean) => collect(wanted, (row) => analysis.y[row], py, MARGIN.top, floor);
    const strip = (wanted: (row: number) => boolean) => collect(wanted, (row) => fit?.residuals?.[row], pr, stripTop, stripTop + STRIP);
    const used = (row: number) => analysis.status[row] === STATUS.used;
    const bright = (row: number) => used(row) && row >= from && row <= litTo;
    return [
      { ...dots(used), color: "--color-ink", radius: 1.6 },
      { ...dots((row) => analysis.status[row] === STATUS.aside), color: "--color-mute", radius: 2.2, hollow: true },
      { ...dots(bright), color: "--color-lichen", radius: 1.3 },
      { ...strip(used), color: "--color-pine", radius: 1.3 },
      { ...strip(bright), color: "--color-lichen", radius: 1 },
    ];
  }, [many, fits, x0, x1, y0, y1, right, floor, stripTop, analysis, fit, litOnCanvas, litFrom, litTo]);

  const points = useMemo(() => {
    if (many || !fits) return [];
    const px = makeScale([x0, x1], [MARGIN.left, right]);
    const py = makeScale([y0, y1], [floor, MARGIN.top]);
    return analysis.x.flatMap((vx, row) => (vx != null && analysis.y[row] != null ? [[px(vx), py(analysis.y[row])] as [number, number]] : []));
  }, [many, fits, x0, x1, y0, y1, right, floor, analysis]);

  function chooseNearest(event: MouseEvent<SVGSVGElement>) {
    const box = event.currentTarget.getBoundingClientRect();
    const mx = event.clientX - box.left;
    const my = event.clientY - box.top;
    const inStrip = my > stripTop - 8;
    let best = 16;
    let found = -1;
    analysis.status.forEach((status, row) => {
      if (status !== STATUS.used && status !== STATUS.aside) return;
      const vx = analysis.x[row];
      const value = inStrip ? fit?.residuals?.[row] : analysis.y[row];
      if (vx == null || value == null) return;
      const distance = Math.hypot(x(vx) - mx, (inStrip ? residual(value) : y(value)) - my);
      if (distance < best) {
        best = distance;
        found = row;
      }
    });
    if (found >= 0) select({ row: found, col: Math.max(0, study.columns.findIndex((column) => column.role === "y")) });
    else setView({ selection: null });
  }

  function onKeyDown(event: KeyboardEvent) {
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
    const step = event.ctrlKey || event.metaKey || event.altKey ? undefined : steps[event.key];
    if (!step) return;
    event.preventDefault();
    step();
  }

  const used = analysis.status.filter((status) => status === STATUS.used).length;
  const label = fit && !fit.refusal ? `Plot of ${used} readings with the line ${fit.equation_text}, and their residuals below` : `Plot of ${used} readings`;
  return (
    <section aria-label="Plot" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] items-center gap-1">
        <SelectedReading />
        <Hint text="Zoom in (+)">
          <button className="icon-button" aria-label="Zoom in" onClick={() => by(1.4)}>
            <ZoomIn size={16} />
          </button>
        </Hint>
        <Hint text="Zoom out (−)">
          <button className="icon-button" aria-label="Zoom out" onClick={() => by(1 / 1.4)}>
            <ZoomOut size={16} />
          </button>
        </Hint>
        <button className="button" disabled={chosen === null} onClick={() => setView({ domain: null })}>
          <Maximize size={14} /> All readings
        </button>
      </div>
      <div ref={frame} className="relative min-h-0 grow border border-rule bg-sheet print:h-auto print:border-0">
        {!fits && (
          <p role="status" className="absolute inset-0 grid place-content-center p-8 text-center text-mute">
            These numbers are too large, too small or too close together to be drawn. Choose another unit for x or y.
          </p>
        )}
        {fits && room && (
          <>
            {many && <CanvasDots width={width} height={height} groups={groups} />}
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
              className="absolute inset-0 block cursor-crosshair touch-none select-none print:static"
            >
              <defs>
                <Hatch id={`${id}hatch`} />
                <clipPath id={`${id}plot`}>
                  <rect x={MARGIN.left} y={MARGIN.top - 4} width={inner.width} height={inner.height + 4} />
                </clipPath>
                <clipPath id={`${id}strip`}>
                  <rect x={MARGIN.left} y={stripTop - 6} width={inner.width} height={STRIP + 12} />
                </clipPath>
              </defs>
              <Ground x={x} top={MARGIN.top} bottom={floor} measured={measured} hatch={`${id}hatch`} />
              <YAxis y={y} right={right} naming={analysis.naming} />
              <g clipPath={`url(#${id}plot)`}>
                {curve && measured && fit && (
                  <CurveMarks curve={curve} x={x} y={y} measured={measured} letter={fit.letter} points={points} cased={many} />
                )}
                <ReadingMarks analysis={analysis} x={x} y={y} lit={lit} only={drawn} />
                <AnswerMarks answers={[...analysis.answers, ...analysis.unknowns.map((unknown) => unknown.answer)]} asked={asked} lit={litAnswers} x={x} y={y} />
              </g>
              <MeasuredBar x={x} y={floor} measured={measured} />
              <Strip analysis={analysis} measured={measured} x={x} y={residual} lit={lit} hatch={`${id}hatch`} clip={`${id}strip`} only={drawn} />
              <XAxis x={x} at={stripTop + STRIP} naming={analysis.naming} />
            </svg>
            {askedOutside && (
              <p className="no-print absolute right-4 bottom-[188px] rounded bg-amber-well px-2 py-0.5 text-[12px] text-amber">The answer lies outside the view</p>
            )}
            <EdgeCounts beyond={beyond} onBringIn={(edge) => setView({ domain: bringIn(analysis, domain, edge) })} />
          </>
        )}
      </div>
    </section>
  );
}
