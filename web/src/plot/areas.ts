export const MARGIN = { left: 66, right: 16, top: 12 };
const STRIP = 104;
const BETWEEN = 26;
const FOOT = 48;
/** Height from which on there is room for the residuals below the plot. */
const WITH_STRIP = 300;

/**
 * Where the parts of the plot stand in its frame, in pixels: the readings from `top` to `floor`, below them the strip of residuals,
 * which a low frame does without: then it has no height.
 */
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
  const [between, strip] = height < WITH_STRIP ? [0, 0] : [BETWEEN, STRIP];
  const floor = MARGIN.top + Math.max(height - MARGIN.top - between - strip - FOOT, 1);
  const stripTop = floor + between;
  const room = width > 120 && height > FOOT + 50;
  return { width, height, left: MARGIN.left, right, top: MARGIN.top, floor, stripTop, stripFloor: stripTop + strip, room };
}
