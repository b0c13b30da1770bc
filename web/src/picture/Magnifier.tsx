import { useId } from "react";

import type { Areas } from "../plot/areas";
import type { PlotScales } from "../plot/usePlotScales";
import { useStudy } from "../study/context";
import { useView } from "../study/view";
import { addressOf } from "./PictureLayer";
import { usePicture } from "./usePicture";

const RADIUS = 58;
const TIMES = 4;
const AWAY = 84;

/** A round glass beside what the tool in hand points at, and a cross where it points. */
export function Magnifier({ areas, scales: { x, y } }: { areas: Areas; scales: PlotScales }) {
  const { id } = useStudy();
  const found = usePicture(x, y);
  const at = useView((view) => view.cursor);
  const clip = useId();
  if (!at) return null;
  // Above the place, or below it where there is no room: a finger lies over neither.
  const down = at.py - areas.top > AWAY + RADIUS ? -AWAY : AWAY;
  const cx = Math.min(Math.max(at.px, areas.left + RADIUS + 2), areas.right - RADIUS - 2);
  const cy = at.py + down;
  return (
    <g pointerEvents="none" data-testid="magnifier">
      <path d={`M${at.px - 9} ${at.py}h18M${at.px} ${at.py - 9}v18`} stroke="var(--color-sheet)" strokeWidth="3.5" />
      <path d={`M${at.px - 9} ${at.py}h18M${at.px} ${at.py - 9}v18`} stroke="var(--color-ink)" strokeWidth="1.2" />
      {found && (
        <>
          <clipPath id={clip}>
            <circle cx={cx} cy={cy} r={RADIUS} />
          </clipPath>
          <circle cx={cx} cy={cy} r={RADIUS + 2} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="1.5" />
          <g clipPath={`url(#${clip})`}>
            <g transform={`translate(${cx} ${cy}) scale(${TIMES}) translate(${-at.px} ${-at.py})`}>
              <image
                href={addressOf(id, found.picture.laid.digest)}
                width={found.picture.laid.width}
                height={found.picture.laid.height}
                transform={`matrix(${found.matrix.join(" ")})`}
                preserveAspectRatio="none"
              />
            </g>
          </g>
          <path
            d={`M${cx - RADIUS} ${cy}h${RADIUS - 5}M${cx + 5} ${cy}h${RADIUS - 5}M${cx} ${cy - RADIUS}v${RADIUS - 5}M${cx} ${cy + 5}v${RADIUS - 5}`}
            stroke="var(--color-copper)"
            strokeWidth="1"
          />
        </>
      )}
    </g>
  );
}
