import { type KeyboardEvent, useRef } from "react";

import { useOnPicture } from "../picture/useOnPicture";
import { useQueue, useStudy } from "../study/context";
import { setView, type Tool, useView } from "../study/view";
import type { Areas } from "./areas";
import { firstFreeRow, placing } from "./moving";
import type { Pixel } from "./nearest";
import type { Scale } from "./scales";

/** Pixels by which a press may move and still be one. */
const STILL = 8;
/** Milliseconds after which a finger that stays is aiming: it may slide then, and what it points at when it is lifted is meant. */
const AIMS = 350;
const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Tools that are pressed onto a place, and point at it before. */
const points = (tool: Tool) => tool === "add" || tool === "line" || tool === "measure" || tool === "mark";

/** Pointing at a place of the plot and pressing it, with a mouse, a finger or the keys: to add a reading, or to do what the picture's tools do. */
export function usePointing(x: Scale, y: Scale, area: Areas) {
  const queue = useQueue();
  const study = useStudy();
  const tool = useView((view) => view.tool);
  const onPicture = useOnPicture(x, y);
  const pressed = useRef<Pixel | null>(null);
  const aim = useRef({ timer: 0, on: false });

  function press(at: Pixel) {
    if (at.px < area.left || at.px > area.right || at.py < area.top || at.py > area.floor) return;
    if (tool === "line" || tool === "measure" || tool === "mark") return onPicture.press(tool, at);
    const change = placing(study, firstFreeRow(study), x, y, { x: x.invert(at.px), y: y.invert(at.py) }, "add", onPicture.there);
    if (!change) return;
    // The view stands still under the hand, however few the readings are.
    setView({ domain: useView.getState().domain ?? { x: x.domain, y: y.domain } });
    queue.change(change);
  }

  /** Let go what a finger or a mouse began. */
  function letGo() {
    window.clearTimeout(aim.current.timer);
    aim.current = { timer: 0, on: false };
    pressed.current = null;
  }

  return {
    letGo,
    begin(at: Pixel, finger: boolean) {
      letGo();
      if (!points(tool)) return;
      pressed.current = at;
      if (!finger) return;
      setView({ cursor: at });
      aim.current.timer = window.setTimeout(() => (aim.current.on = true), AIMS);
    },
    /** `there`: whether the pointer is over what can be pressed. */
    move(at: Pixel, there: boolean) {
      if (!points(tool)) return;
      // A finger that slides before it aims is on its way elsewhere.
      if (!aim.current.on && moved(pressed.current, at)) window.clearTimeout(aim.current.timer);
      setView({ cursor: there ? at : null });
    },
    end(at: Pixel) {
      const from = pressed.current;
      const meant = from !== null && points(tool) && (aim.current.on || !moved(from, at));
      letGo();
      if (meant) press(at);
    },
    /** The place that the keys point at, moved by pixels of the picture, or of the drawing, and pressed; whether the key was used. */
    onKeyDown(event: KeyboardEvent): boolean {
      if (!points(tool)) return false;
      const middle = { px: (area.left + area.right) / 2, py: (area.top + area.floor) / 2 };
      const at = useView.getState().cursor ?? middle;
      if (event.key === "Enter" || event.key === " ") {
        setView({ cursor: at });
        press(at);
        return true;
      }
      const arrow = ARROWS[event.key];
      if (!arrow) return false;
      const step = onPicture.pixel * (event.shiftKey ? 10 : 1);
      const px = within(at.px + arrow[0] * step, area.left, area.right);
      setView({ cursor: { px, py: within(at.py + arrow[1] * step, area.top, area.floor) } });
      return true;
    },
  };
}

const moved = (from: Pixel | null, to: Pixel) => from !== null && Math.hypot(to.px - from.px, to.py - from.py) > STILL;
const within = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);
