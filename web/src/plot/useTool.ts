import type { KeyboardEvent, PointerEvent } from "react";

import type { Analysis } from "../api/client";
import { setView, take, useView } from "../study/view";
import type { Areas } from "./areas";
import { type Pixel, pixelOf } from "./nearest";
import type { Scale } from "./scales";
import { useBoxTool } from "./useBoxTool";
import { useMoveTool } from "./useMoveTool";
import { usePointing } from "./usePointing";

const RIM = 4;

/** What the tool in hand does with the pointer and the keys: drag a box, catch a region, move or add a reading, press on the picture. */
export function useTool(analysis: Analysis, x: Scale, y: Scale, area: Areas) {
  const tool = useView((view) => view.tool);
  const boxing = useBoxTool(analysis, x, y);
  const moving = useMoveTool(analysis, x, y);
  const pointing = usePointing(x, y, area);
  const within = ({ px, py }: Pixel) => px >= area.left - RIM && py <= area.floor + RIM;

  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    if (!event.isPrimary) {
      // A second finger zooms: whatever the first one began is let go.
      pointing.letGo();
      moving.cancel();
      return boxing.drop();
    }
    if (tool === "look" || event.button) return;
    if (event.target instanceof Element && event.target.closest("[data-handle]")) return;
    const at = pixelOf(event, event.currentTarget);
    if (!within(at)) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    if (tool === "box" || tool === "region") boxing.begin(at);
    if (tool === "shift") moving.begin(at);
    pointing.begin(at, event.pointerType === "touch");
  }

  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    const at = pixelOf(event, event.currentTarget);
    if (event.isPrimary) pointing.move(at, within(at));
    if (boxing.box) boxing.move(at);
    else if (event.currentTarget.hasPointerCapture(event.pointerId)) moving.move(at);
  }

  function onPointerUp(event: PointerEvent<SVGSVGElement>) {
    if (!event.isPrimary) return;
    const at = pixelOf(event, event.currentTarget);
    if (boxing.box) boxing.end(at, tool === "box" ? "box" : "region");
    else if (moving.isHolding()) moving.settle();
    else pointing.end(at);
  }

  /** Whether the key was used. */
  function onKeyDown(event: KeyboardEvent): boolean {
    if (event.key === "Escape" && (moving.isHolding() || boxing.box || tool !== "look")) {
      moving.drop();
      boxing.drop();
      take("look");
      return true;
    }
    return pointing.onKeyDown(event) || (tool === "shift" && moving.onKeyDown(event));
  }

  function onPointerLeave() {
    if (useView.getState().cursor) setView({ cursor: null });
  }

  function onPointerCancel() {
    pointing.letGo();
    boxing.drop();
    moving.settle();
  }

  return {
    tool,
    box: boxing.box,
    onKeyDown,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerLeave, onPointerCancel, onKeyUp: moving.onKeyUp },
  };
}
