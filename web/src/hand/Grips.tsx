import { type KeyboardEvent, type PointerEvent, useEffect, useRef } from "react";

import type { Analysis } from "../api/client";
import type { HandFit } from "../fits/kinds";
import { lookOf } from "../fits/looks";
import { pixelOf } from "../plot/nearest";
import type { Scale } from "../plot/scales";
import { useSnapshot } from "../study/context";
import { useGesture } from "../study/useGesture";
import { setView } from "../study/view";

const SIZE = 6;
const STEPS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Places of the curves set by hand that are dragged, or moved with the arrows once they have the focus. */
export function Grips({ analysis, x, y }: { analysis: Analysis; x: Scale; y: Scale }) {
  return (
    <>
      {analysis.fits
        .filter((fit): fit is HandFit => fit.kind === "hand" && !fit.hidden)
        .map((fit) => (
          <GripsOf key={fit.letter} fit={fit} x={x} y={y} />
        ))}
    </>
  );
}

function GripsOf({ fit, x, y }: { fit: HandFit; x: Scale; y: Scale }) {
  const trial = useGesture();
  const saved = useSnapshot().saving === "saved";
  /** Where the arrows have brought a grip. Until that is saved, the next press goes on from there, not from the drawn place. */
  const at = useRef<{ grip: string; place: [number, number] } | null>(null);
  const moving = useRef(false);
  const { color } = lookOf(fit.letter);
  useEffect(() => {
    if (saved && !moving.current) at.current = null;
  }, [saved, fit]);

  const move = (grip: string, px: number, py: number) => {
    at.current = { grip, place: [px, py] };
    const to = { x: x.invert(px), y: y.invert(py) };
    if (Number.isFinite(to.x) && Number.isFinite(to.y)) trial.tryOut({ kind: "move_grip", letter: fit.letter, grip, ...to });
  };
  const begin = () => {
    moving.current = true;
    setView({ turning: { letter: fit.letter, before: fit.curve ?? null } });
  };
  const end = () => {
    moving.current = false;
    trial.keep();
    setView({ turning: null });
  };
  return (
    <>
      {fit.grips.map((grip) => {
        const [px, py] = [x(grip.x), y(grip.y)];
        if (!Number.isFinite(px) || !Number.isFinite(py)) return null;
        const onPointerMove = (event: PointerEvent<SVGGElement>) => {
          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
          const at = pixelOf(event, event.currentTarget.ownerSVGElement!);
          move(grip.name, at.px, at.py);
        };
        const onKeyDown = (event: KeyboardEvent) => {
          const step = STEPS[event.key];
          if (!step) return;
          event.preventDefault();
          event.stopPropagation();
          if (!moving.current) begin();
          const [fromX, fromY] = at.current?.grip === grip.name ? at.current.place : [px, py];
          const size = event.shiftKey ? 10 : 1;
          move(grip.name, fromX + step[0] * size, fromY + step[1] * size);
        };
        return (
          <g
            key={grip.name}
            data-handle="grip"
            data-testid={`grip-${fit.letter}-${grip.name}`}
            role="button"
            tabIndex={0}
            aria-label={`${grip.name} of ${fit.letter}: ${grip.does}. Drag it, or move it with the arrows.`}
            className="cursor-grab"
            onClick={(event) => event.stopPropagation()}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              begin();
            }}
            onPointerMove={onPointerMove}
            onPointerUp={end}
            onPointerCancel={end}
            onKeyDown={onKeyDown}
            onKeyUp={(event) => event.key in STEPS && end()}
          >
            <title>{grip.does}</title>
            <circle cx={px} cy={py} r="16" fill="transparent" />
            <rect
              x={px - SIZE}
              y={py - SIZE}
              width={2 * SIZE}
              height={2 * SIZE}
              rx="1.5"
              fill="var(--color-lichen)"
              stroke={color}
              strokeWidth="2"
            />
          </g>
        );
      })}
    </>
  );
}
