import type { Analysis, Moving } from "../api/client";
import { withMoved } from "./moving";
import { share } from "./sharing";
import { setView, useView } from "./view";

/** The table and the page follow when the hand rests for so many milliseconds, and for so many times as long as a picture takes, */
const REST = 250;
const PICTURES = 5;
/** and while it does not, so often, unless a picture takes longer than LIGHT: then the hand goes first. */
const CALM = 2000;
const LIGHT = 80;

let waiting = 0;
let followed = 0;

/**
 * Show what a hand moves on the plot at once, which took so many milliseconds to be had; `whole` asks for all that is said of
 * it, for the table and the page.
 */
export function showMoving(moving: Moving, stored: Analysis, took: number, whole: () => void) {
  const before = useView.getState().preview;
  setView({ preview: share(before ?? stored, withMoved(before ?? stored, moving)) });
  const now = performance.now();
  if (!before) followed = now;
  const rest = Math.max(REST, PICTURES * took);
  const due = took > LIGHT ? rest : Math.min(rest, followed + CALM - now);
  const follow = () => {
    followed = performance.now();
    whole();
  };
  window.clearTimeout(waiting);
  waiting = window.setTimeout(follow, Math.max(0, due));
}

/** The table and the page as they would be; the plot too, unless the hand has `moved` on since. */
export function showWhole(found: Analysis, stored: Analysis, moved: boolean) {
  const before = useView.getState().preview ?? stored;
  const whole = share(before, found.same_readings ? { ...found, ...readingsOf(stored) } : found);
  setView(moved ? { calm: whole } : { preview: whole, calm: whole });
}

/** What a preview that leaves the readings alone does not carry. */
export const readingsOf = ({ status, x, y, x_error, y_error, series_of, repeated_x }: Analysis) => ({
  status,
  x,
  y,
  x_error,
  y_error,
  series_of,
  repeated_x,
});

/** Back to the analysis of the study. */
export function endPreview() {
  window.clearTimeout(waiting);
  setView({ preview: null, calm: null });
}
