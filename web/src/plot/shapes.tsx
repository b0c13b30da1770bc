import type { PlotSettings } from "../api/client";
import type { ReactElement, SVGAttributes } from "react";

/** How a mark is drawn, whatever its shape. */
type PresentationProps = Pick<SVGAttributes<SVGElement>, "fill" | "stroke" | "strokeWidth" | "strokeDasharray">;

export const SHAPES = ["circle", "square", "triangle", "diamond", "cross"] as const;
export type MarkShape = (typeof SHAPES)[number];

const PATHS: Record<Exclude<MarkShape, "circle">, (x: number, y: number, r: number) => string> = {
  square: (x, y, r) => `M${x - 0.9 * r} ${y - 0.9 * r}h${1.8 * r}v${1.8 * r}h${-1.8 * r}z`,
  triangle: (x, y, r) => `M${x} ${y - 1.2 * r}L${x + 1.1 * r} ${y + 0.85 * r}H${x - 1.1 * r}z`,
  diamond: (x, y, r) => `M${x} ${y - 1.25 * r}l${1.25 * r} ${1.25 * r}l${-1.25 * r} ${1.25 * r}l${-1.25 * r} ${-1.25 * r}z`,
  cross: (x, y, r) => {
    const a = 0.42 * r;
    return `M${x - a} ${y - r}h${2 * a}v${r - a}h${r - a}v${2 * a}h${a - r}v${r - a}h${-2 * a}v${a - r}h${a - r}v${-2 * a}h${r - a}z`;
  },
};

/** The outline of a mark that is no circle. */
export const markPath = (shape: Exclude<MarkShape, "circle">, x: number, y: number, r: number): string => PATHS[shape](x, y, r);

/** A mark of a given shape and size; the rest are SVG properties. */
export function MarkShapeAt({
  shape,
  x,
  y,
  r,
  ...rest
}: { shape: MarkShape; x: number; y: number; r: number } & PresentationProps): ReactElement {
  if (shape === "circle") return <circle cx={x} cy={y} r={r} {...rest} />;
  return <path d={markPath(shape, x, y, r)} {...rest} />;
}

/** The shape of a reading: the study's own, or one for each series. */
export function shapeOf(first: MarkShape, series: number): MarkShape {
  return SHAPES[(SHAPES.indexOf(first) + Math.max(0, series)) % SHAPES.length]!;
}

/** The colours that markers can have. */
export const MARK_COLOURS = [
  ["ink", "black"],
  ["pine", "green"],
  ["copper", "orange"],
  ["iris", "violet"],
  ["plum", "purple"],
  ["slate", "blue"],
] as const;

export const inkOfMarks = ({ colour = "ink" }: PlotSettings) => `var(--color-${colour})`;
