import { useMemo } from "react";

import type { Analysis, Placed } from "../api/client";

/** The readings of an analysis; the same object as long as they are the same. */
export function usePlaced({ status, x, y, x_error, y_error, series_of }: Analysis): Placed {
  return useMemo(() => ({ status, x, y, x_error, y_error, series_of }), [status, x, y, x_error, y_error, series_of]);
}
