import type { Resampling } from "../../api/client";
import { lookOf } from "../../fits/looks";
import { pathOf } from "../../plot/path";
import { makeScale } from "../../plot/scales";
import { useAnalysis } from "../../study/context";
import { STATUS } from "../../study/status";
import { Ticks } from "../../plot/small/Ticks";

const MOST_MARKS = 600;

/** One draw: readings that took part filled, those left out hollow, each fit's curve; or the curves of many draws. */
export function DrawPlot({ found, places, wide = false, label }: { found: Resampling; places: number[]; wide?: boolean; label: string }) {
  const analysis = useAnalysis();
  const [width, height] = wide ? [560, 330] : [224, 168];
  const area = { left: wide ? 46 : 38, right: width - 8, top: 8, bottom: height - 22 };
  const { view } = found;
  const x = makeScale([view.x.low, view.x.high], [area.left, area.right]);
  const y = makeScale([view.y.low, view.y.high], [area.bottom, area.top]);
  const out = new Set(places.length === 1 ? found.left_out[places[0]!] : []);
  const every = Math.max(1, Math.ceil(analysis.x.length / MOST_MARKS));
  const clip = `draw-${wide ? "all" : places[0]}`;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className={`block w-full ${wide ? "border border-rule bg-sheet" : ""}`}
      role="img"
      aria-label={label}
      data-testid="draw"
    >
      <clipPath id={clip}>
        <rect x={area.left} y={area.top} width={area.right - area.left} height={area.bottom - area.top} />
      </clipPath>
      <g fontSize={wide ? "var(--text-note)" : "var(--text-note)"} fill="var(--color-mute)">
        <Ticks x={x} y={y} area={area} count={wide ? { x: 7, y: 6 } : { x: 3, y: 3 }} base={height - 6} />
        <path d={`M${area.left} ${area.top}V${area.bottom}H${area.right}`} fill="none" stroke="var(--color-edge)" />
      </g>
      <g clipPath={`url(#${clip})`}>
        {found.fits.map((fit) =>
          places.map((place) => {
            const { color, dash } = lookOf(fit.letter);
            return (
              <path
                key={`${fit.letter}${place}`}
                data-testid="draw-curve"
                d={pathOf(fit.x, fit.draws[place]!.y, x, y)}
                fill="none"
                stroke={color}
                strokeWidth={wide ? 1.4 : 1.8}
                strokeDasharray={wide ? undefined : dash}
                opacity={wide ? Math.max(0.25, 0.75 - places.length / 50) : 1}
              />
            );
          }),
        )}
        {analysis.status.map((status, row) =>
          status !== STATUS.used || (row % every !== 0 && !out.has(row)) ? null : (
            <circle
              key={row}
              data-left-out={out.has(row) || undefined}
              cx={x(analysis.x[row]!)}
              cy={y(analysis.y[row]!)}
              r={out.has(row) ? 3 : 2.4}
              fill={out.has(row) ? "var(--color-sheet)" : "var(--color-ink)"}
              stroke="var(--color-ink)"
              strokeWidth={out.has(row) ? 1.2 : 0}
            />
          ),
        )}
      </g>
    </svg>
  );
}
