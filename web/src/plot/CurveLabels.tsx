import { memo, type PointerEvent, useState } from "react";

import type { Curve, Fit, PlotSettings } from "../api/client";
import { lookOf } from "../fits/looks";
import { useChange } from "../study/context";
import type { ValuePlace } from "./answerValues";
import type { Scale } from "./scales";
import { isComputed } from "../fits/kinds";
import { pairOf } from "../ui/pairs";

interface Props {
  fits: Fit[];
  curves: (Curve | null)[];
  plot: PlotSettings;
  x: Scale;
  y: Scale;
  points: [number, number][];
  /** Where values at answers stand. */
  values: (ValuePlace | null)[];
}

type Box = { x: number; y: number; width: number };

/** A letter or an equation beside each curve, clear of readings, curves and one another; dragged where they are wanted. */
export const CurveLabels = memo(function CurveLabels({ fits, curves, plot, x, y, points, values }: Props) {
  if (plot.label === "none") return null;
  const taken = values.flatMap((place): Box[] =>
    place ? [{ x: (place.left + place.right) / 2, y: place.base, width: place.right - place.left }] : [],
  );
  const lines = curves.map((curve) => (curve ? trace(curve, x, y) : []));
  return (
    <>
      {fits.map((fit, i) => {
        const line = lines[i]!;
        if (!line.length) return null;
        const text = plot.label === "equation" && isComputed(fit) ? `${fit.letter}: ${fit.equation_text}` : fit.letter;
        const width = 8 + text.length * 7.2;
        const spot = findSpot(line, lines, points, taken, x, y, width);
        taken.push({ ...spot, width });
        return (
          <Label
            key={fit.letter}
            letter={fit.letter}
            text={text}
            spot={spot}
            moved={pairOf(plot.labels?.[fit.letter])}
            all={plot.labels ?? {}}
          />
        );
      })}
    </>
  );
});

function Label({
  letter,
  text,
  spot,
  moved,
  all,
}: {
  letter: string;
  text: string;
  spot: { x: number; y: number };
  moved: [number, number] | undefined;
  all: NonNullable<PlotSettings["labels"]>;
}) {
  const change = useChange();
  const [held, setHeld] = useState<[number, number] | null>(null);
  const [dx, dy] = held ?? moved ?? [0, 0];
  const put = (at: [number, number] | null) => {
    const labels = { ...all };
    if (at) labels[letter] = at;
    else delete labels[letter];
    change({ kind: "set_plot", settings: { labels } });
  };
  const onPointerMove = (event: PointerEvent<SVGGElement>) => {
    if (event.currentTarget.hasPointerCapture(event.pointerId)) setHeld([dx + event.movementX, dy + event.movementY]);
  };
  const onPointerUp = () => {
    if (held) put(held);
    setHeld(null);
  };
  const nudge: Record<string, [number, number]> = { ArrowLeft: [-6, 0], ArrowRight: [6, 0], ArrowUp: [0, -6], ArrowDown: [0, 6] };
  return (
    <g
      data-handle="label"
      role="button"
      tabIndex={0}
      aria-label={`Label of fit ${letter}: drag it, or move it with the arrows; Delete puts it back`}
      className="cursor-move"
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onKeyDown={(event) => {
        const step = nudge[event.key];
        if (step) put([dx + step[0], dy + step[1]]);
        else if (event.key === "Delete" && moved) put(null);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <text
        data-testid={`label-${letter}`}
        x={spot.x + dx}
        y={spot.y + dy}
        fill={lookOf(letter).color}
        stroke="var(--color-sheet)"
        strokeWidth="3.5"
        paintOrder="stroke"
        strokeLinejoin="round"
        fontSize={text.length > 1 ? "var(--text-note)" : "var(--text-plain)"}
        fontWeight="650"
        textAnchor="middle"
        fontFamily={text.length > 1 ? "var(--font-book)" : undefined}
      >
        {text}
      </text>
    </g>
  );
}

/** The curve as pixels inside the plot. */
function trace(curve: Curve, x: Scale, y: Scale): [number, number][] {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  return curve.x.flatMap((vx, i) => {
    const vy = curve.y[i];
    if (vy == null) return [];
    const at: [number, number] = [x(vx), y(vy)];
    return at[0] > left && at[0] < right && at[1] < bottom && at[1] > top ? [at] : [];
  });
}

/** Above or below the curve, where readings, curves and labels are farthest away. */
function findSpot(
  line: [number, number][],
  lines: [number, number][][],
  points: [number, number][],
  taken: Box[],
  x: Scale,
  y: Scale,
  width: number,
) {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  let best = { x: line[0]![0], y: line[0]![1] - 12 };
  let most = -Infinity;
  for (const share of [0.78, 0.6, 0.4, 0.22, 0.9, 0.1]) {
    const [cx, cy] = line[Math.round(share * (line.length - 1))]!;
    for (const [dx, dy] of [
      [-10, -13],
      [10, 22],
      [12, -13],
      [-12, 22],
    ] as const) {
      const spot = { x: Math.min(Math.max(cx + dx, left + width / 2), right - width / 2), y: cy + dy };
      if (spot.y < top + 14 || spot.y > bottom - 6) continue;
      const clear = (others: [number, number][], limit: number) =>
        others
          .slice(0, limit)
          .reduce(
            (least, [px, py]) => Math.min(least, Math.hypot(Math.max(0, Math.abs(px - spot.x) - width / 2 + 4), py - spot.y + 5)),
            40,
          );
      const room = Math.min(
        clear(points, 400),
        ...lines.map((other) => clear(other, 4000) * 2.2),
        ...taken.map((box) => Math.hypot(Math.max(0, Math.abs(box.x - spot.x) - (box.width + width) / 2), box.y - spot.y)),
      );
      if (room > most + 0.5) {
        most = room;
        best = spot;
      }
    }
  }
  return best;
}
