import type { Analysis } from "../api/client";
import { share } from "./sharing";
import { setView, useView } from "./view";

/** The table and the page follow when the hand rests for so many milliseconds, */
const REST = 120;
/** and while it does not, so often. */
const CALM = 400;

let waiting = 0;
let followed = 0;

/** Show the analysis as it would be: the plot at once, the table and the page after it. */
export function showPreview(found: Analysis, stored: Analysis) {
  const { preview: before, calm } = useView.getState();
  const preview = share(before ?? stored, found.same_readings ? { ...found, ...readingsOf(stored) } : found);
  const now = performance.now();
  if (before === calm) followed = now;
  setView({ preview });
  window.clearTimeout(waiting);
  waiting = window.setTimeout(follow, Math.max(0, Math.min(REST, followed + CALM - now)));
}

const follow = () => {
  followed = performance.now();
  setView((view) => ({ calm: view.preview }));
};

/** What a preview that leaves the readings alone does not carry. */
const readingsOf = ({ status, x, y, x_error, y_error, series_of, repeated_x }: Analysis) => ({
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
