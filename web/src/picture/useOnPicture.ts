import type { Pixel } from "../plot/nearest";
import type { Scale } from "../plot/scales";
import { type OnPicture, type PicturePixel, setView, useView } from "../study/view";
import { apply, inverse } from "./matrix";
import { usePicture } from "./usePicture";

/** Picks along a line that is followed, unless another number is typed. */
export const PICKS = 40;
const MOST_SPANNED = 3;

/** What the tools of the picture do with a place that is pressed, and how far one of its pixels is on the drawing. */
export function useOnPicture(x: Scale, y: Scale) {
  const found = usePicture(x, y);
  const pixelAt = ({ px, py }: Pixel): PicturePixel | null => (found ? apply(inverse(found.matrix), [px, py]) : null);
  return {
    there: found !== null,
    /** Pixels of the drawing that one of the picture takes. */
    pixel: found ? Math.hypot(found.matrix[0], found.matrix[1]) : 1,
    press(tool: OnPicture, at: Pixel) {
      const pixel = pixelAt(at);
      if (pixel) setView((view) => pressed[tool](view, pixel));
    },
  };
}

type ViewState = ReturnType<typeof useView.getState>;

const pressed: Record<OnPicture, (view: ViewState, at: PicturePixel) => Partial<ViewState>> = {
  mark: ({ scaling }, at) => {
    if (!scaling) return {};
    const places = scaling.places.map((place, i) => (i === scaling.next ? at : place));
    const open = places.findIndex((place) => place === null);
    return { scaling: { ...scaling, places, next: open < 0 ? scaling.next : open } };
  },
  line: ({ tracing }, at) => {
    const again = tracing && !tracing.stop && tracing.found;
    const fresh = { count: tracing?.count ?? PICKS, found: null, problem: "" };
    return { tracing: again ? { ...tracing, stop: at, problem: "" } : { ...fresh, start: at, stop: null } };
  },
  measure: ({ spanned }, at) => ({ spanned: spanned.length < MOST_SPANNED ? [...spanned, at] : [at] }),
};
