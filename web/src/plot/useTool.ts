import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { Analysis } from "../api/client";
import { useQueue, useStudy } from "../study/context";
import { useOnPicture } from "../picture/useOnPicture";
import { setView, take, type Tool, useView } from "../study/view";
import type { Areas } from "./areas";
import { firstFreeRow, placing } from "./moving";
import { type Pixel, pixelOf } from "./nearest";
import type { Scale } from "./scales";
import { useBoxTool } from "./useBoxTool";
import { useMoveTool } from "./useMoveTool";

const RIM = 4;
/** Pixels by which a press may move and still be one. */
const STILL = 8;
const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Tools that are pressed onto a place, and point at it before. */
const points = (tool: Tool) => tool === "add" || tool === "line" || tool === "measure" || tool === "mark";

/** What the tool in hand does with the pointer and the keys: drag a box, catch a region, move or add a reading. */
export function useTool(analysis: Analysis, x: Scale, y: Scale, area: Areas) {
  const queue = useQueue();
  const study = useStudy();
  const tool = useView((view) => view.tool);
  const pressed = useRef<Pixel | null>(null);
  const boxing = useBoxTool(analysis, x, y);
  const moving = useMoveTool(analysis, x, y);
  const onPicture = useOnPicture(x, y);

  /** What a tool does that is pressed onto a place. */
  function press(at: Pixel) {
    if (at.px < area.left || at.px > area.right || at.py < area.top || at.py > area.floor) return;
    if (tool === "line" || tool === "measure" || tool === "mark") return onPicture.press(tool, at);
    const change = placing(study, firstFreeRow(study), x, y, { x: x.invert(at.px), y: y.invert(at.py) }, "add", onPicture.there);
    if (!change) return;
    // The view stands still under the hand, however few the readings are.
    setView({ domain: useView.getState().domain ?? { x: x.domain, y: y.domain } });
    queue.change(change);
  }

  /** The place that the keys point at, moved by pixels of the picture, or of the drawing. */
  function point(event: KeyboardEvent): boolean {
    const arrow = ARROWS[event.key];
    const middle = { px: (area.left + area.right) / 2, py: (area.top + area.floor) / 2 };
    const at = useView.getState().cursor ?? middle;
    if (event.key === "Enter" || event.key === " ") {
      setView({ cursor: at });
      press(at);
      return true;
    }
    if (!arrow) return false;
    const step = onPicture.pixel * (event.shiftKey ? 10 : 1);
    const within = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);
    const px = within(at.px + arrow[0] * step, area.left, area.right);
    setView({ cursor: { px, py: within(at.py + arrow[1] * step, area.top, area.floor) } });
    return true;
  }

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
    if (points(tool) && event.isPrimary) setView({ cursor: at.px >= area.left - RIM && at.py <= area.floor + RIM ? at : null });
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
    else if (points(tool) && stayed) press(at);
  }

  /** Whether the key was used. */
  function onKeyDown(event: KeyboardEvent): boolean {
    if (event.key === "Escape" && (moving.isHolding() || boxing.box || tool !== "look")) {
      moving.drop();
      boxing.drop();
      take("look");
      return true;
    }
    return points(tool) ? point(event) : tool === "shift" && moving.onKeyDown(event);
  }

  function onPointerLeave() {
    if (useView.getState().cursor) setView({ cursor: null });
  }

  function onPointerCancel() {
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
