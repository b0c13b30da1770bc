import type { MouseEvent } from "react";

import { isLit } from "../../study/view";
import { nearestMark, pixelOf } from "../../plot/nearest";
import { makeScale } from "../../plot/scales";
import { Ticks } from "../../plot/small/Ticks";

const WIDTH = 330;
const HEIGHT = 196;
const REACH = 14;
const AREA = { left: 52, right: 322, top: 10, bottom: 156 };

interface Frame {
  title: string;
  xTitle: string;
  yTitle: string;
  x: [number, number];
  y: [number, number];
}

interface Props extends Frame {
  rows: number[];
  xs: (number | null)[];
  ys: (number | null)[];
  color: string;
  lit: [number, number] | null;
  onChoose: (row: number) => void;
  /** The line that the marks should follow. */
  guide: "zero" | "diagonal";
  /** Half-width of the band around zero. */
  band?: number;
}

/** A small scatter of residuals; a mark that is pressed is chosen everywhere. */
export function SmallPlot({ rows, xs, ys, color, lit, onChoose, guide, band, ...frame }: Props) {
  const x = makeScale(frame.x, [AREA.left, AREA.right]);
  const y = makeScale(frame.y, [AREA.bottom, AREA.top]);
  const many = rows.length > 400;
  function choose(event: MouseEvent<SVGSVGElement>) {
    const found = nearestMark(pixelOf(event, event.currentTarget), { xs, ys, x, y }, REACH);
    if (found !== null) onChoose(rows[found]!);
  }
  return (
    <figure className="border border-rule bg-sheet">
      <figcaption className="px-2.5 pt-1.5 text-note font-semibold text-mute">{frame.title}</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`${frame.title}: ${frame.yTitle} against ${frame.xTitle}, ${rows.length} readings`}
        onClick={choose}
      >
        <Axes {...frame} />
        {band && (
          <rect
            x={AREA.left}
            width={AREA.right - AREA.left}
            y={y(band)}
            height={Math.max(0, y(-band) - y(band))}
            fill={color}
            opacity="0.1"
          />
        )}
        {guide === "zero" ? (
          <line x1={AREA.left} x2={AREA.right} y1={y(0)} y2={y(0)} stroke={color} />
        ) : (
          <line
            x1={x(Math.max(frame.x[0], frame.y[0]))}
            y1={y(Math.max(frame.x[0], frame.y[0]))}
            x2={x(Math.min(frame.x[1], frame.y[1]))}
            y2={y(Math.min(frame.x[1], frame.y[1]))}
            stroke={color}
          />
        )}
        {rows.map((row, i) => {
          const [vx, vy] = [xs[i], ys[i]];
          if (vx == null || vy == null) return null;
          const bright = isLit(lit, row);
          return (
            <circle
              key={row}
              data-row={row + 1}
              cx={x(vx)}
              cy={y(vy)}
              r={bright ? 5 : many ? 1.4 : 3}
              fill={bright ? "var(--color-lichen)" : color}
              stroke={bright ? "var(--color-ink)" : "none"}
              strokeWidth="1.4"
            />
          );
        })}
      </svg>
    </figure>
  );
}

/** How often residuals of each size occur. */
export function Histogram({ bins, color, ...frame }: Frame & { bins: { low: number; high: number; count: number }[]; color: string }) {
  const x = makeScale(frame.x, [AREA.left, AREA.right]);
  const y = makeScale(frame.y, [AREA.bottom, AREA.top]);
  return (
    <figure className="border border-rule bg-sheet">
      <figcaption className="px-2.5 pt-1.5 text-note font-semibold text-mute">{frame.title}</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`${frame.title}: ${bins.map((bin) => bin.count).join(", ")}`}
      >
        <Axes {...frame} />
        {bins.map((bin) => (
          <rect
            key={bin.low}
            x={x(bin.low) + 0.5}
            width={Math.max(0.5, x(bin.high) - x(bin.low) - 1)}
            y={y(bin.count)}
            height={AREA.bottom - y(bin.count)}
            fill={color}
            opacity="0.75"
          />
        ))}
      </svg>
    </figure>
  );
}

function Axes({ x: xDomain, y: yDomain, xTitle, yTitle }: Frame) {
  const x = makeScale(xDomain, [AREA.left, AREA.right]);
  const y = makeScale(yDomain, [AREA.bottom, AREA.top]);
  return (
    <g fontSize="var(--text-note)" fill="var(--color-mute)">
      <Ticks x={x} y={y} area={AREA} count={{ x: 4, y: 4 }} base={AREA.bottom + 15} />
      <path d={`M${AREA.left} ${AREA.top}V${AREA.bottom}H${AREA.right}`} fill="none" stroke="var(--color-edge)" />
      <text x={(AREA.left + AREA.right) / 2} y={HEIGHT - 7} textAnchor="middle" fill="var(--color-ink)">
        {xTitle}
      </text>
      <text transform={`translate(12 ${(AREA.top + AREA.bottom) / 2}) rotate(-90)`} textAnchor="middle" fill="var(--color-ink)">
        {yTitle}
      </text>
    </g>
  );
}
