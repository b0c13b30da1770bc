import { type MouseEvent, useRef } from "react";

import { type DrawnFit, isDrawn } from "../../fits/kinds";
import { lookOf } from "../../fits/looks";
import { nearestMark, pixelOf } from "../../plot/nearest";
import { pathOf } from "../../plot/path";
import { makeScale } from "../../plot/scales";
import { Ticks } from "../../plot/small/Ticks";
import { useSize } from "../../plot/useSize";
import { useAnalysis, useStudy } from "../../study/context";
import { isDrawnRow, STATUS } from "../../study/status";
import { chooseReading, isLit, litRows, useView } from "../../study/view";

const HEIGHT = 104;
const MARGIN = { left: 48, right: 8, top: 6, base: 18 };
const MOST_MARKS = 600;
const REACH = 14;

/** The readings and the curve that is followed, low above the steps: where the reading of a number that is pointed at lies. */
export function FollowedPlot({ of }: { of: string }) {
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const { columns } = useStudy();
  const analysis = useAnalysis();
  const source = useView((view) => view.source);
  const selection = useView((view) => view.selection);
  const chosen = litRows(selection);
  const { view } = analysis;
  const area = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: HEIGHT - MARGIN.base };
  const x = makeScale([view.x.low, view.x.high], [area.left, area.right]);
  const y = makeScale([view.y.low, view.y.high], [area.bottom, area.top]);
  const every = Math.max(1, Math.ceil(analysis.x.length / MOST_MARKS));
  const lit = (row: number) => row === source || isLit(chosen, row);
  const rows = analysis.status.flatMap((status, row) => (isDrawnRow(status) && (row % every === 0 || lit(row)) ? [row] : []));
  const fit = analysis.fits.find((one): one is DrawnFit => one.letter === of && isDrawn(one));
  const choose = (event: MouseEvent<SVGSVGElement>) => {
    const [xs, ys] = [rows.map((row) => analysis.x[row]!), rows.map((row) => analysis.y[row]!)];
    const found = nearestMark(pixelOf(event, event.currentTarget), { xs, ys, x, y }, REACH);
    if (found !== null) chooseReading(columns, rows[found]!);
  };
  return (
    <div ref={frame} className="h-[104px] shrink-0 border border-rule bg-sheet [@media(max-height:35rem)]:hidden">
      {width > 0 && (
        <svg
          viewBox={`0 0 ${width} ${HEIGHT}`}
          className="block h-full w-full"
          role="img"
          aria-label={source === null ? "The readings" : `The readings, number ${source + 1} lit`}
          onClick={choose}
        >
          <g fontSize="var(--text-note)" fill="var(--color-mute)">
            <Ticks x={x} y={y} area={area} count={{ x: Math.max(2, width / 80), y: 3 }} base={HEIGHT - 4} />
          </g>
          <clipPath id="followed-area">
            <rect x={area.left} y={0} width={area.right - area.left} height={area.bottom} />
          </clipPath>
          {fit?.curve && (
            <path
              clipPath="url(#followed-area)"
              d={pathOf(fit.curve.x, fit.curve.y, x, y)}
              fill="none"
              stroke={lookOf(fit.letter).color}
              strokeWidth="1.6"
            />
          )}
          {rows.map((row) => (
            <circle
              key={row}
              data-row={row + 1}
              cx={x(analysis.x[row]!)}
              cy={y(analysis.y[row]!)}
              r="2.4"
              fill={analysis.status[row] === STATUS.used ? "var(--color-ink)" : "var(--color-sheet)"}
              stroke="var(--color-ink)"
            />
          ))}
          {/* What is lit is drawn once more on top: a mark that moved to the end of the others would take a press away under the hand. */}
          {rows.filter(lit).map((row) => (
            <circle
              key={row}
              data-over={row + 1}
              data-source={row === source || undefined}
              cx={x(analysis.x[row]!)}
              cy={y(analysis.y[row]!)}
              r="5"
              fill={row === source ? "var(--color-lichen)" : "var(--color-ink)"}
              stroke="var(--color-ink)"
              strokeWidth="1.4"
              pointerEvents="none"
            />
          ))}
        </svg>
      )}
    </div>
  );
}
