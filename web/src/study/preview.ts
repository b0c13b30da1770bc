import type { Analysis } from "../api/client";
import { share } from "./sharing";
import { setView, useView } from "./view";

/** Milliseconds between two updates of what only follows a gesture: the table and the page. */
const CALM = 160;

let last = 0;
let waiting = 0;

/** Show the analysis as it would be: the plot at once, the table and the page a few times a second. */
export function showPreview(found: Analysis, stored: Analysis) {
  const preview = share(useView.getState().preview ?? stored, found.same_readings ? { ...found, ...readingsOf(stored) } : found);
  const now = performance.now();
  window.clearTimeout(waiting);
  if (now - last > CALM) {
    last = now;
    setView({ preview, calm: preview });
  } else {
    setView({ preview });
    waiting = window.setTimeout(() => {
      last = performance.now();
      setView((view) => ({ calm: view.preview }));
    }, CALM);
  }
}

/** What a preview that leaves the readings alone does not carry. */
const readingsOf = ({ status, x, y, x_error, y_error, series_of, repeated_x }: Analysis) => ({ status, x, y, x_error, y_error, series_of, repeated_x });

/** Back to the analysis of the study. */
export function endPreview() {
  window.clearTimeout(waiting);
  setView({ preview: null, calm: null });
}
