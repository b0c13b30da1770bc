import { type KeyboardEvent, type PointerEvent, useState } from "react";

import type { Analysis } from "../api/client";
import { STATUS, useQueue, useSnapshot } from "../study/context";
import type { HeldColumn } from "../study/changes";
import { useGesture } from "../study/useGesture";
import { litRows, select, setView, useView } from "../study/view";
import { placing, snapStep } from "./moving";
import type { Scale } from "./scales";

export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

interface Area {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const REACH = 18;
const LEAST_BOX = 5;
const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

const inHand = () => useView.getState().inHand;

/** The number in a plainly typed cell. */
function numberIn({ cells, exponent, formula }: HeldColumn, row: number): number | null {
  const text = formula ? "" : (cells[row] ?? "").trim();
  const value = text ? Number(text) * 10 ** exponent : NaN;
  return Number.isFinite(value) ? value : null;
}

/** What the tool in hand does with the pointer and the arrow keys: draw a box, catch a region, move or add a reading. */
export function useTool(analysis: Analysis, x: Scale, y: Scale, area: Area) {
  const queue = useQueue();
  const { study } = useSnapshot();
  const tool = useView((view) => view.tool);
  const selection = useView((view) => view.selection);
  const [box, setBox] = useState<Box | null>(null);
  const trial = useGesture();

  const at = (event: PointerEvent<SVGSVGElement>) => {
    const frame = event.currentTarget.getBoundingClientRect();
    return { px: event.clientX - frame.left, py: event.clientY - frame.top };
  };

  function nearest(px: number, py: number): number {
    let best = REACH;
    let found = -1;
    analysis.status.forEach((status, row) => {
      const vx = analysis.x[row];
      const vy = analysis.y[row];
      if ((status !== STATUS.used && status !== STATUS.aside) || vx == null || vy == null) return;
      const distance = Math.hypot(x(vx) - px, y(vy) - py);
      if (distance < best) {
        best = distance;
        found = row;
      }
    });
    return found;
  }

  function tryOut(row: number, to: { x: number; y: number }) {
    const change = placing(study, row, x, y, to, "move");
    if (!change) return;
    setView({ inHand: { row, ...to } });
    trial.tryOut(change);
  }

  function settle() {
    setView({ inHand: null });
    trial.keep();
  }

  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    if (tool === "look" || event.button || !event.isPrimary) return;
    if (event.target instanceof Element && event.target.closest("[data-handle]")) return;
    const { px, py } = at(event);
    if (px < area.left - 4 || py > area.bottom + 4) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    if (tool === "box" || tool === "region") setBox({ x0: px, y0: py, x1: px, y1: py });
    if (tool === "shift") {
      const row = nearest(px, py);
      if (row >= 0) {
        select({
          row,
          col: Math.max(
            0,
            study.columns.findIndex((column) => column.role === "y"),
          ),
        });
        setView({ inHand: { row, x: analysis.x[row]!, y: analysis.y[row]! } });
      }
    }
  }

  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    const { px, py } = at(event);
    const held = inHand();
    if (box) setBox({ ...box, x1: px, y1: py });
    else if (held && event.currentTarget.hasPointerCapture(event.pointerId)) tryOut(held.row, { x: x.invert(px), y: y.invert(py) });
  }

  function onPointerUp(event: PointerEvent<SVGSVGElement>) {
    const { px, py } = at(event);
    if (box) {
      setBox(null);
      const [left, right] = [Math.min(box.x0, px), Math.max(box.x0, px)];
      const [top, bottom] = [Math.min(box.y0, py), Math.max(box.y0, py)];
      if (right - left < LEAST_BOX || bottom - top < LEAST_BOX) return;
      if (tool === "box") zoomTo(left, right, top, bottom);
      else catchRegion(left, right, top, bottom);
    } else if (inHand()) settle();
    else if (tool === "add" && px >= area.left && px <= area.right && py >= area.top && py <= area.bottom) {
      const change = placing(study, firstFreeRow(), x, y, { x: x.invert(px), y: y.invert(py) }, "add");
      if (change) queue.change(change);
    }
  }

  function firstFreeRow(): number {
    let row = study.row_count;
    while (row > 0 && study.columns.every((column) => column.formula || !column.cells[row - 1])) row--;
    return row;
  }

  function zoomTo(left: number, right: number, top: number, bottom: number) {
    const rising = ([a, b]: [number, number]): [number, number] => (a < b ? [a, b] : [b, a]);
    setView({ domain: { x: rising([x.invert(left), x.invert(right)]), y: rising([y.invert(bottom), y.invert(top)]) }, tool: "look" });
  }

  function catchRegion(left: number, right: number, top: number, bottom: number) {
    const rows: number[] = [];
    analysis.status.forEach((status, row) => {
      const vx = analysis.x[row];
      const vy = analysis.y[row];
      if ((status !== STATUS.used && status !== STATUS.aside) || vx == null || vy == null) return;
      const [px, py] = [x(vx), y(vy)];
      if (px >= left && px <= right && py >= top && py <= bottom) rows.push(row);
    });
    setView({ caught: rows.length ? rows : null });
  }

  /** Arrow keys move the chosen reading by small steps, with Shift by ten; whether the key was used. */
  function onKeyDown(event: KeyboardEvent): boolean {
    const arrow = ARROWS[event.key];
    const lit = litRows(selection);
    if (event.key === "Escape" && (inHand() || box || tool !== "look")) {
      trial.drop();
      setBox(null);
      setView({ tool: "look", caught: null, inHand: null });
      return true;
    }
    if (tool !== "shift" || !arrow || !lit || lit[0] !== lit[1]) return false;
    const row = lit[0];
    const size = event.shiftKey ? 10 : 1;
    const [xColumn, yColumn] = ["x", "y"].map((role) => study.columns.find((column) => column.role === role)!) as [HeldColumn, HeldColumn];
    // The cell already holds what the last press put there; the analysis may still be on its way.
    const held = inHand();
    const from = held?.row === row ? held : { x: numberIn(xColumn, row) ?? analysis.x[row], y: numberIn(yColumn, row) ?? analysis.y[row] };
    if (from.x == null || from.y == null) return false;
    const stepX = snapStep(xColumn.cells, x, from.x, xColumn.exponent) * 10 ** xColumn.exponent;
    const stepY = snapStep(yColumn.cells, y, from.y, yColumn.exponent) * 10 ** yColumn.exponent;
    tryOut(row, { x: from.x + arrow[0] * stepX * size, y: from.y + arrow[1] * stepY * size });
    return true;
  }

  /** Letting go of the arrow keys keeps the new place as one step. */
  function onKeyUp(event: KeyboardEvent) {
    if (event.key in ARROWS && inHand() && trial.isPending()) settle();
  }

  return {
    tool,
    box,
    onPointerDown,
    onPointerMove,
    onPointerUp,
    onPointerCancel: () => {
      setBox(null);
      settle();
    },
    onKeyDown,
    onKeyUp,
  };
}
