import type { KeyboardEvent } from "react";

import type { Analysis } from "../api/client";
import { seenPicture } from "../picture/usePicture";
import type { HeldColumn } from "../study/changes";
import { useStudy } from "../study/context";
import { isDrawnRow } from "../study/status";
import { useGesture } from "../study/useGesture";
import { chooseReading, litRows, setView, useView } from "../study/view";
import { placing, snapStep } from "./moving";
import { nearestMark, type Pixel } from "./nearest";
import type { Scale } from "./scales";

const REACH = 18;
const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

const inHand = () => useView.getState().inHand;

/** The number in a plainly typed cell. */
function numberIn({ cells, exponent, formula }: HeldColumn, row: number): number | null {
  const text = formula ? "" : (cells[row] ?? "").trim();
  const value = text ? Number(text) * 10 ** exponent : NaN;
  return Number.isFinite(value) ? value : null;
}

/** A reading is moved by dragging it, or by the arrow keys; letting go keeps its place as one step. */
export function useMoveTool(analysis: Analysis, x: Scale, y: Scale) {
  const study = useStudy();
  const selection = useView((view) => view.selection);
  const trial = useGesture();

  function tryOut(row: number, to: { x: number; y: number }) {
    const change = placing(study, row, x, y, to, "move", seenPicture(study) !== null);
    if (!change) return;
    setView({ inHand: { row, ...to } });
    trial.tryOut(change);
  }

  function settle() {
    setView({ inHand: null });
    trial.keep();
  }

  return {
    isHolding: () => inHand() !== null,
    settle,
    drop: () => trial.drop(),
    /** Let the reading in hand go back to where it was. */
    cancel: () => {
      if (!inHand()) return;
      setView({ inHand: null });
      trial.drop();
    },
    begin: (at: Pixel) => {
      const row = nearestMark(at, { xs: analysis.x, ys: analysis.y, x, y }, REACH, (row) => isDrawnRow(analysis.status[row]));
      if (row === null) return;
      chooseReading(study.columns, row);
      setView({ inHand: { row, x: analysis.x[row]!, y: analysis.y[row]! } });
    },
    move: ({ px, py }: Pixel) => {
      const held = inHand();
      if (held) tryOut(held.row, { x: x.invert(px), y: y.invert(py) });
    },
    /** By small steps, with Shift by ten; whether the key was used. */
    onKeyDown: (event: KeyboardEvent): boolean => {
      const arrow = ARROWS[event.key];
      const lit = litRows(selection);
      const [xColumn, yColumn] = ["x", "y"].map((role) => study.columns.find((column) => column.role === role));
      if (!arrow || !lit || lit[0] !== lit[1] || !xColumn || !yColumn) return false;
      const row = lit[0];
      const size = event.shiftKey ? 10 : 1;
      // The cell already holds what the last press put there; the analysis may still be on its way.
      const held = inHand();
      const from =
        held?.row === row ? held : { x: numberIn(xColumn, row) ?? analysis.x[row], y: numberIn(yColumn, row) ?? analysis.y[row] };
      if (from.x == null || from.y == null) return false;
      const stepX = snapStep(xColumn.cells, x, from.x, xColumn.exponent) * 10 ** xColumn.exponent;
      const stepY = snapStep(yColumn.cells, y, from.y, yColumn.exponent) * 10 ** yColumn.exponent;
      tryOut(row, { x: from.x + arrow[0] * stepX * size, y: from.y + arrow[1] * stepY * size });
      return true;
    },
    onKeyUp: (event: KeyboardEvent) => {
      if (event.key in ARROWS && inHand() && trial.isPending()) settle();
    },
  };
}
