import { useRef } from "react";

import type { Analysis } from "../../api/client";
import { type DrawnFit, isComputed } from "../../fits/kinds";
import { lookOf } from "../../fits/looks";
import { Swatch } from "../../fits/Swatch";
import { Ground, Hatch, MeasuredBar } from "../Ground";
import { pathOf } from "../path";
import { makeScale } from "../scales";
import { useSize } from "../useSize";
import { isDrawnRow, STATUS } from "../../study/status";
import { Ticks } from "./Ticks";
import { ResidualSticks } from "./ResidualSticks";

const MOST_MARKS = 600;
const MARGIN = { left: 44, right: 8, top: 8, base: 20 };

/** One fit over the readings on the axes that all share, with its residuals below. */
export function FitCard({ fit, analysis }: { fit: DrawnFit; analysis: Analysis }) {
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const { color, dash } = lookOf(fit.letter);
  const { view, measured } = analysis;
  const height = Math.min(Math.max(width * 0.5, 120), 220);
  const strip = { top: height + 22, bottom: height + 22 + Math.max(40, height * 0.3) };
  const area = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: height };
  const x = makeScale([view.x.low, view.x.high], [area.left, area.right]);
  const y = makeScale([view.y.low, view.y.high], [area.bottom, area.top]);
  const every = Math.max(1, Math.ceil(analysis.x.length / MOST_MARKS));
  const rows = analysis.status.flatMap((status, row) => (isDrawnRow(status) && row % every === 0 ? [row] : []));
  const curve = fit.curve!;
  const within = (at: number) => measured !== null && at >= measured.low && at <= measured.high;
  const path = (inside: boolean) => pathOf(curve.x, curve.y, x, y, (at) => within(at) === inside);
  const name = fit.label || fit.name;
  const ends: [number, number] | null = measured && [measured.low, measured.high];
  const hatch = `fit-card-hatch-${fit.letter}`;
  const clip = `fit-card-clip-${fit.letter}`;
  return (
    <li className="border border-rule bg-sheet">
      <h2 className="flex items-center gap-2 px-2.5 pt-1.5 text-plain">
        <Swatch letter={fit.letter} />{" "}
        <span title={name} className="truncate font-book text-plain leading-normal">
          {name}
        </span>
      </h2>
      <div ref={frame} className="min-h-px">
        {width > 0 && (
          <svg
            width={width}
            height={strip.bottom + MARGIN.base}
            className="block"
            role="img"
            aria-label={`${fit.letter}, ${name}: ${isComputed(fit) ? `${fit.equation_text}${fit.typical_miss && `, typical miss ${fit.typical_miss}`}` : ""}`}
          >
            <defs>
              <Hatch id={hatch} />
              <clipPath id={clip}>
                <rect x={area.left} y={area.top} width={area.right - area.left} height={area.bottom - area.top} />
              </clipPath>
            </defs>
            <Ground x={x} top={area.top} bottom={area.bottom} measured={ends} hatch={hatch} />
            <g fontSize="var(--text-note)" fill="var(--color-mute)">
              <Ticks x={x} y={y} area={area} count={{ x: Math.max(2, width / 60), y: 4 }} base={strip.bottom + MARGIN.base - 5} />
            </g>
            <MeasuredBar x={x} y={area.bottom} measured={ends} />
            <g clipPath={`url(#${clip})`}>
              <path d={path(false)} fill="none" stroke={color} strokeWidth="2" strokeDasharray="0.1 4.6" strokeLinecap="round" />
              <path d={path(true)} fill="none" stroke={color} strokeWidth="2" strokeDasharray={dash} />
              {rows.map((row) => (
                <circle
                  key={row}
                  cx={x(analysis.x[row]!)}
                  cy={y(analysis.y[row]!)}
                  r="2.6"
                  fill={analysis.status[row] === STATUS.used ? "var(--color-ink)" : "var(--color-sheet)"}
                  stroke="var(--color-ink)"
                />
              ))}
            </g>
            <ResidualSticks fit={fit} analysis={analysis} rows={rows} x={x} area={{ ...area, ...strip }} />
          </svg>
        )}
      </div>
    </li>
  );
}
