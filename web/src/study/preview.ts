import type { Analysis } from "../api/client";
import { share } from "./sharing";
import { setView, useView } from "./view";

/** Milliseconds after which the table and the page follow: by then the plot is drawn. */
const CALM = 120;

let waiting = 0;

/** Show the analysis as it would be: the plot at once, the table and the page a few times a second. */
export function showPreview(found: Analysis, stored: Analysis) {
  const preview = share(useView.getState().preview ?? stored, found.same_readings ? { ...found, ...readingsOf(stored) } : found);
  setView({ preview });
  waiting ||= window.setTimeout(() => {
    waiting = 0;
    setView((view) => ({ calm: view.preview }));
  }, CALM);
}

/** What a preview that leaves the readings alone does not carry. */
const readingsOf = ({ status, x, y, x_error, y_error, series_of, repeated_x }: Analysis) => ({ status, x, y, x_error, y_error, series_of, repeated_x });

/** Back to the analysis of the study. */
export function endPreview() {
  window.clearTimeout(waiting);
  waiting = 0;
  setView({ preview: null, calm: null });
}
