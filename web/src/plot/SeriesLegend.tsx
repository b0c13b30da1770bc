import { memo } from "react";

import type { PlotSettings } from "../api/client";
import { MarkShapeAt, shapeOf } from "./shapes";

/** Which mark belongs to which series. */
export const SeriesLegend = memo(function SeriesLegend({
  series,
  plot,
  right,
  top,
}: {
  series: string[];
  plot: PlotSettings;
  right: number;
  top: number;
}) {
  const names = series.slice(0, 8);
  if (names.length < 2) return null;
  const width = Math.max(...names.map((name) => name.length)) * 6.6 + 30;
  return (
    <g transform={`translate(${right - width - 8} ${top + 8})`} fontSize="var(--text-note)" data-testid="legend">
      <rect
        x="-6"
        y="-4"
        width={width + 8}
        height={names.length * 18 + 6}
        fill="var(--color-sheet)"
        opacity="0.86"
        stroke="var(--color-rule)"
      />
      {names.map((name, i) => (
        <g key={name} transform={`translate(0 ${i * 18 + 9})`}>
          <MarkShapeAt shape={shapeOf(plot.shape ?? "circle", i)} x={5} y={0} r={4.5} fill="var(--color-ink)" />
          <text x="16" dy="0.35em" fill="var(--color-ink)">
            {name}
          </text>
        </g>
      ))}
    </g>
  );
});
