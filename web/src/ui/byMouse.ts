const last = { x: NaN, y: NaN };

window.addEventListener(
  "pointermove",
  ({ screenX, screenY }) => {
    last.x = screenX;
    last.y = screenY;
  },
  { capture: true, passive: true },
);

interface Pointing {
  pointerType: string;
  screenX: number;
  screenY: number;
}

/** Whether somebody pointed with a mouse. What a page moves under a mouse at rest is not pointed at by who goes on by keyboard. */
export function byMouse({ pointerType, screenX, screenY }: Pointing): boolean {
  if (pointerType !== "mouse") return false;
  const atRest = screenX === last.x && screenY === last.y;
  return !(atRest && document.activeElement?.matches(":focus-visible"));
}
