import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { Analysis } from "../api/client";
import { useQueue, useStudy } from "../study/context";
import type { HeldStudy } from "../study/changes";
import { setView, useView } from "../study/view";
import type { Areas } from "./areas";
import { placing } from "./moving";
import { type Pixel, pixelOf } from "./nearest";
import type { Scale } from "./scales";
import { useBoxTool } from "./useBoxTool";
import { useMoveTool } from "./useMoveTool";

const RIM = 4;
/** Pixels by which a press may move and still be one. */
const STILL = 8;

/** What the tool in hand does with the pointer and the keys: drag a box, catch a region, move or add a reading. */
export function useTool(analysis: Analysis, x: Scale, y: Scale, area: Areas) {
  const queue = useQueue();
  const study = useStudy();
  const tool = useView((view) => view.tool);
  const pressed = useRef<Pixel | null>(null);
  const boxing = useBoxTool(analysis, x, y);
  const moving = useMoveTool(analysis, x, y);

  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    if (!event.isPrimary) {
      // A second finger zooms: whatever the first one began is let go.
      pressed.current = null;
      moving.cancel();
      return boxing.drop();
    }
    if (tool === "look" || event.button) return;
    if (event.target instanceof Element && event.target.closest("[data-handle]")) return;
    const at = pixelOf(event, event.currentTarget);
    if (at.px < area.left - RIM || at.py > area.floor + RIM) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    pressed.current = at;
    if (tool === "box" || tool === "region") boxing.begin(at);
    if (tool === "shift") moving.begin(at);
  }

  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    const at = pixelOf(event, event.currentTarget);
    if (boxing.box) boxing.move(at);
    else if (event.currentTarget.hasPointerCapture(event.pointerId)) moving.move(at);
  }

  function onPointerUp(event: PointerEvent<SVGSVGElement>) {
    if (!event.isPrimary) return;
    const at = pixelOf(event, event.currentTarget);
    const from = pressed.current;
    pressed.current = null;
    const stayed = from !== null && Math.hypot(at.px - from.px, at.py - from.py) <= STILL;
    if (boxing.box) boxing.end(at, tool === "box" ? "box" : "region");
    else if (moving.isHolding()) moving.settle();
    else if (tool === "add" && stayed && at.px >= area.left && at.px <= area.right && at.py >= area.top && at.py <= area.floor) {
      const change = placing(study, firstFreeRow(study), x, y, { x: x.invert(at.px), y: y.invert(at.py) }, "add");
      if (!change) return;
      // The view stands still under the hand, however few the readings are.
      setView({ domain: useView.getState().domain ?? { x: x.domain, y: y.domain } });
      queue.change(change);
    }
  }

  /** Whether the key was used. */
  function onKeyDown(event: KeyboardEvent): boolean {
    if (event.key === "Escape" && (moving.isHolding() || boxing.box || tool !== "look")) {
      moving.drop();
      boxing.drop();
      setView({ tool: "look", caught: null, inHand: null });
      return true;
    }
    return tool === "shift" && moving.onKeyDown(event);
  }

  function onPointerCancel() {
    boxing.drop();
    moving.settle();
  }

  return {
    tool,
    box: boxing.box,
    onKeyDown,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onKeyUp: moving.onKeyUp },
  };
}

function firstFreeRow({ row_count, columns }: HeldStudy): number {
  let row = row_count;
  while (row > 0 && columns.every((column) => column.formula || !column.cells[row - 1])) row--;
  return row;
}
