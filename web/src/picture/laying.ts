import type { PicturePlace } from "../api/client";
import type { PicturePixel } from "../study/view";
import { apply, inverse, type Matrix } from "./matrix";

/** A picture with its middle at a pixel of the drawing; `table`: from numbers of the table to the drawing. */
export function moved(place: PicturePlace, to: PicturePixel, table: Matrix): PicturePlace {
  const [x, y] = apply(inverse(table), to);
  return { ...place, x, y };
}

/** A picture one of whose corners is drawn along its diagonal to beside a pixel; the other corner stays. */
export function scaled(place: PicturePlace, corner: PicturePixel, other: PicturePixel, to: PicturePixel, table: Matrix): PicturePlace {
  const [dx, dy] = [corner[0] - other[0], corner[1] - other[1]];
  const along = ((to[0] - other[0]) * dx + (to[1] - other[1]) * dy) / (dx * dx + dy * dy);
  const times = Math.max(along, 0.02);
  const [ox, oy] = apply(inverse(table), other);
  const { width, height } = place;
  return { ...place, x: ox + (place.x - ox) * times, y: oy + (place.y - oy) * times, width: width * times, height: height * times };
}

const STRAIGHT = 1.5;

/** A picture turned so that what is above its middle points at a pixel; near to upright or level it is exactly so. */
export function turned(place: PicturePlace, to: PicturePixel, middle: PicturePixel): PicturePlace {
  const angle = (Math.atan2(middle[0] - to[0], middle[1] - to[1]) * 180) / Math.PI;
  const right = Math.round(angle / 90) * 90;
  const turn = Math.abs(angle - right) < STRAIGHT ? right : Math.round(angle * 10) / 10;
  return { ...place, turn: turn === -180 ? 180 : turn };
}
