export const MARGIN = { left: 66, right: 16, top: 12 };
const STRIP = 104;
const BETWEEN = 26;
const FOOT = 48;

/** Where the parts of the plot stand in its frame, in pixels: the readings from `top` to `floor`, below them the strip of residuals. */
export interface Areas {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  floor: number;
  stripTop: number;
  stripFloor: number;
  /** Whether there is room to draw at all. */
  room: boolean;
}

export function areasOf(width: number, height: number): Areas {
  const right = MARGIN.left + Math.max(width - MARGIN.left - MARGIN.right, 1);
  const floor = MARGIN.top + Math.max(height - MARGIN.top - BETWEEN - STRIP - FOOT, 1);
  const stripTop = floor + BETWEEN;
  const room = width > 120 && height > STRIP + BETWEEN + FOOT + 60;
  return { width, height, left: MARGIN.left, right, top: MARGIN.top, floor, stripTop, stripFloor: stripTop + STRIP, room };
}
