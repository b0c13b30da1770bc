import { useMemo } from "react";

import type { Picture, PlotSettings } from "../api/client";
import type { Scale } from "../plot/scales";
import { exponentsOf, type HeldStudy } from "../study/changes";
import { useStudy } from "../study/context";
import { useView } from "../study/view";
import { followedBy, inPlot, type Matrix, onScreen, placed } from "./matrix";

const log = (kind: PlotSettings["x_scale"]) => kind === "log";

/** Whether a picture lies on the axes as they are drawn. */
export const onTheseAxes = ({ laid }: Picture, plot: PlotSettings): boolean =>
  !plot.straighten && log(plot.x_scale) === (laid.log_x ?? false) && log(plot.y_scale) === (laid.log_y ?? false);

/** The picture where it is seen; null while there is none, or it is hidden, wrongly marked or drawn on other axes. */
export function seenPicture({ picture, plot }: HeldStudy): (Picture & { matrix: number[] }) | null {
  if (!picture?.matrix || picture.laid.hidden || !onTheseAxes(picture, plot)) return null;
  return { ...picture, matrix: picture.matrix };
}

/** The picture that is seen, and the way from its pixels to those of the drawing. */
export function usePicture(x: Scale, y: Scale): { picture: Picture; matrix: Matrix } | null {
  const study = useStudy();
  const laying = useView((view) => view.laying);
  return useMemo(() => {
    const picture = seenPicture(study);
    if (!picture) return null;
    const { laid } = picture;
    const [a, b, c, d, e, f] = picture.matrix;
    const own: Matrix = laying
      ? followedBy(placed(laying, laid), inPlot(exponentsOf(study), [laid.log_x ?? false, laid.log_y ?? false]))
      : [a!, b!, c!, d!, e!, f!];
    return { picture, matrix: followedBy(own, onScreen(x, y)) };
  }, [study, laying, x, y]);
}
