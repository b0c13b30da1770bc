import { type MouseEvent, type PointerEvent, useEffect, useRef } from "react";

const LONG = 500; // ms, after which browsers too speak of a long press

/** Handlers that call `onLong` when a finger stays on an element; the click that follows is swallowed, and so is the browser's menu. */
export function useLongPress(onLong: () => void) {
  const timer = useRef(0);
  const held = useRef(false);
  const stop = () => window.clearTimeout(timer.current);
  useEffect(() => stop, []);
  return {
    onPointerDown: (event: PointerEvent) => {
      held.current = false;
      if (event.pointerType !== "touch") return;
      stop();
      timer.current = window.setTimeout(() => {
        held.current = true;
        onLong();
      }, LONG);
    },
    onPointerUp: stop,
    onPointerCancel: stop,
    onPointerLeave: stop,
    onClickCapture: (event: MouseEvent) => {
      if (!held.current) return;
      held.current = false;
      event.preventDefault();
      event.stopPropagation();
    },
    onContextMenu: (event: MouseEvent) => held.current && event.preventDefault(),
  };
}
