import { useState } from "react";

import type { Analysis } from "../api/client";
import { isDrawnRow } from "../study/status";
import { setView } from "../study/view";
import type { Pixel } from "./nearest";
import type { Scale } from "./scales";
import { rising } from "../ui/pairs";

/** A dragged rectangle in pixels, from where it began to where it is. */
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

const LEAST = 5;

/** A rectangle is dragged: the view zooms to it, or the readings in it are caught. */
export function useBoxTool(analysis: Analysis, x: Scale, y: Scale) {
  const [box, setBox] = useState<Box | null>(null);
  return {
    box,
    begin: ({ px, py }: Pixel) => setBox({ x0: px, y0: py, x1: px, y1: py }),
    move: ({ px, py }: Pixel) => setBox(box && { ...box, x1: px, y1: py }),
    drop: () => setBox(null),
    end: ({ px, py }: Pixel, what: "box" | "region") => {
      if (!box) return;
      setBox(null);
      const [left, right] = rising([box.x0, px]);
      const [top, bottom] = rising([box.y0, py]);
      if (right - left < LEAST || bottom - top < LEAST) return;
      if (what === "box") {
        const domain = { x: rising([x.invert(left), x.invert(right)]), y: rising([y.invert(bottom), y.invert(top)]) };
        return setView({ domain, tool: "look" });
      }
      const caught = rowsWithin(analysis, x, y, { left, right, top, bottom });
      setView({ caught: caught.length ? caught : null });
    },
  };
}

function rowsWithin(
  analysis: Analysis,
  x: Scale,
  y: Scale,
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
): number[] {
  const rows: number[] = [];
  analysis.status.forEach((status, row) => {
    const [vx, vy] = [analysis.x[row], analysis.y[row]];
    if (!isDrawnRow(status) || vx == null || vy == null) return;
    const [px, py] = [x(vx), y(vy)];
    if (px >= left && px <= right && py >= top && py <= bottom) rows.push(row);
  });
  return rows;
}
