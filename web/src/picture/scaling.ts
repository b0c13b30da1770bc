import type { Change, Picture } from "../api/client";
import type { PicturePixel, Scaling } from "../study/view";

/** What each mark is called, and what its value means. */
export const NAMES: Record<Scaling["kind"], string[]> = {
  none: [],
  length: ["first end", "second end"],
  axes: ["x, first mark", "x, second mark", "y, first mark", "y, second mark"],
};
/** How a mark is named on the picture. */
export const SHORT: Record<Scaling["kind"], string[]> = { none: [], length: ["1", "2"], axes: ["x₁", "x₂", "y₁", "y₂"] };

/** A scale as it is kept, to be changed. */
export function scalingOf({ laid }: Picture): Scaling {
  const marks = laid.scale ? [...laid.scale.x_marks, ...(laid.scale.y_marks ?? [])] : [];
  const kind = !laid.scale ? "none" : laid.scale.y_marks ? "axes" : "length";
  return {
    kind,
    places: marks.map(({ px, py }): PicturePixel => [px, py]),
    values: marks.map(({ value }) => value ?? ""),
    next: 0,
    log_x: laid.log_x ?? false,
    log_y: laid.log_y ?? false,
    follow: true,
  };
}

/** The same in another way: marks that it has as well stay. */
export function ofKind(scaling: Scaling, kind: Scaling["kind"]): Scaling {
  const names = NAMES[kind];
  const places = names.map((_, i) => scaling.places[i] ?? null);
  return { ...scaling, kind, places, values: names.map((_, i) => scaling.values[i] ?? ""), next: Math.max(0, places.indexOf(null)) };
}

/** What is still missing, in words; empty where the scale can be applied. */
export function missing({ kind, places, values }: Scaling): string {
  const open = NAMES[kind].filter((_, i) => !places[i]);
  if (open.length) return `Press on the picture: ${open[0]}.`;
  const untyped = NAMES[kind].find((_, i) => !(kind === "length" && i === 0) && !values[i]?.trim());
  return untyped ? (kind === "length" ? "Type how long it is." : `Type the value of ${untyped}.`) : "";
}

/** The change that a finished scale makes. */
export function scaleChange({ kind, places, values, log_x, log_y, follow }: Scaling): Change {
  const mark = (i: number) => ({ px: places[i]![0], py: places[i]![1], value: values[i]!.trim() });
  const logs = kind === "axes" ? { log_x, log_y } : { log_x: false, log_y: false };
  if (kind === "none") return { kind: "scale_picture", scale: null, log_x, log_y, follow };
  const scale = kind === "axes" ? { x_marks: [mark(0), mark(1)], y_marks: [mark(2), mark(3)] } : { x_marks: [mark(0), mark(1)] };
  return { kind: "scale_picture", scale, ...logs, follow };
}
