import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { api, type Overlay } from "../api/client";
import { must } from "../api/must";
import { pathOf } from "../plot/path";
import { makeScale } from "../plot/scales";
import { Ticks } from "../plot/small/Ticks";
import { useSize } from "../plot/useSize";

const HEIGHT = 300;
const MARGIN = { left: 64, right: 12, top: 10, base: 44 };

/** Everybody's readings and leading fit over one plot; whoever is chosen stands out. */
export function ClassPlot({ id, changed }: { id: string; changed: number }) {
  const frame = useRef<HTMLDivElement>(null);
  const { width } = useSize(frame);
  const [chosen, setChosen] = useState<string | null>(null);
  const { data } = useQuery({
    queryKey: ["overlay", id, changed],
    placeholderData: (before) => before,
    queryFn: async () => {
      const found = await api.GET("/api/worksheets/{worksheet_id}/overlay", { params: { path: { worksheet_id: id } } });
      return found.response.ok ? (found.data ?? null) : must(Promise.resolve(found));
    },
  });
  return (
    <figure className="grid gap-2 border border-rule bg-sheet p-3">
      <div ref={frame} className="min-h-px">
        {data && width > 0 && <Drawing data={data} width={width} chosen={chosen} />}
      </div>
      <figcaption className="grid gap-1.5 text-plain">
        <span role="group" aria-label="Who stands out" className="flex flex-wrap gap-1">
          {data?.students.map((one) => (
            <button
              key={one.study}
              className="button aria-pressed:bg-lichen aria-pressed:text-on-lichen"
              aria-pressed={one.study === chosen}
              onClick={() => setChosen(one.study === chosen ? null : one.study)}
            >
              {one.student}
            </button>
          ))}
        </span>
        {data && data.left_out.length > 0 && <span className="text-note text-mute">Left out: {data.left_out.join(", ")}.</span>}
      </figcaption>
    </figure>
  );
}

function Drawing({ data, width, chosen }: { data: Overlay; width: number; chosen: string | null }) {
  const area = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: HEIGHT - MARGIN.base };
  const x = makeScale([data.x.low, data.x.high], [area.left, area.right]);
  const y = makeScale([data.y.low, data.y.high], [area.bottom, area.top]);
  const others = data.students.filter((one) => one.study !== chosen);
  const front = data.students.filter((one) => one.study === chosen);
  return (
    <svg
      width={width}
      height={HEIGHT}
      className="block"
      role="img"
      aria-label={`${data.y_title} against ${data.x_title}: readings and fits of ${data.students.length} students`}
    >
      <g fontSize="var(--text-note)" fill="var(--color-mute)">
        <Ticks x={x} y={y} area={area} count={{ x: Math.max(2, width / 90), y: 6 }} base={area.bottom + 18} />
        <text x={(area.left + area.right) / 2} y={HEIGHT - 6} textAnchor="middle">
          {data.x_title}
        </text>
        <text transform={`translate(14 ${(area.top + area.bottom) / 2}) rotate(-90)`} textAnchor="middle">
          {data.y_title}
        </text>
      </g>
      <line x1={area.left} x2={area.right} y1={area.bottom} y2={area.bottom} stroke="var(--color-edge)" />
      {[...others, ...front].map((one) => {
        const lit = one.study === chosen;
        return (
          <g key={one.study} opacity={chosen === null || lit ? 1 : 0.3} data-testid={`of-${one.student}`}>
            <title>{one.student}</title>
            <path
              d={pathOf(one.curve_x, one.curve_y, x, y)}
              fill="none"
              stroke="var(--color-pine)"
              strokeWidth={lit ? 3 : 1.2}
              opacity={lit ? 1 : 0.7}
            />
            {one.x.map((value, place) => (
              <circle
                key={place}
                cx={x(value)}
                cy={y(one.y[place]!)}
                r={lit ? 4 : 2.4}
                fill={lit ? "var(--color-lichen)" : "var(--color-ink)"}
                stroke="var(--color-ink)"
              />
            ))}
          </g>
        );
      })}
    </svg>
  );
}
