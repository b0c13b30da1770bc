import type { Placed, PlotSettings } from "../api/client";
import { STATUS } from "../study/status";
import type { Paint } from "./CanvasLayer";
import { errorBars, reachOf } from "./errorBars";
import type { Scale } from "./scales";
import { markPath, shapeOf } from "./shapes";
import { STEM, type Stems } from "./stems";

/** Pixels that marks at the edges of the plot may reach beyond them. */
export const MARK = 4;

interface Marks {
  placed: Placed;
  plot: PlotSettings;
  x: Scale;
  y: Scale;
  /** Rows that are drawn one by one, above these. */
  apart: Set<number>;
}

/** The readings in use as plain marks with their error bars: a thousand elements would be too slow to follow a drag. */
export const paintMarks =
  ({ placed, plot, x, y, apart }: Marks): Paint =>
  (context, color) => {
    const size = plot.size ?? 4.5;
    const marks = new Path2D();
    const bars: string[] = [];
    placed.status.forEach((status, row) => {
      const [vx, vy] = [placed.x[row], placed.y[row]];
      if (status !== STATUS.used || vx == null || vy == null || apart.has(row)) return;
      const [px, py] = [tenth(x(vx)), tenth(y(vy))];
      if (!Number.isFinite(px) || !Number.isFinite(py)) return;
      bars.push(errorBars([px, py], reachOf(x, vx, placed.x_error?.[row]), reachOf(y, vy, placed.y_error?.[row])));
      const shape = shapeOf(plot.shape ?? "circle", placed.series_of?.[row] ?? 0);
      if (shape === "circle") {
        marks.moveTo(px + size, py);
        marks.arc(px, py, size, 0, 6.2832);
      } else marks.addPath(new Path2D(markPath(shape, px, py, size)));
    });
    clip(context, x, y, MARK);
    context.lineWidth = 1;
    context.strokeStyle = context.fillStyle = color(`--color-${plot.colour ?? "ink"}`);
    context.stroke(new Path2D(bars.join("")));
    context.fill(marks);
    context.strokeStyle = color("--color-sheet");
    context.stroke(marks);
    context.restore();
  };

/** The residuals of those readings, each on its stem from zero. `ink`: CSS variable of the fit's colour. */
export const paintStems =
  ({ px, py, x, y }: Stems, ink: string): Paint =>
  (context, color) => {
    const zero = y(0);
    const stems = new Path2D();
    const dots = new Path2D();
    px.forEach((across, place) => {
      const down = py[place]!;
      if (Number.isNaN(across + down)) return;
      stems.moveTo(across, zero);
      stems.lineTo(across, down);
      dots.moveTo(across, down);
      dots.arc(across, down, 2.4, 0, 6.2832);
    });
    clip(context, x, y, STEM);
    context.lineWidth = 1;
    context.fillStyle = context.strokeStyle = color(ink);
    context.globalAlpha = 0.5;
    context.stroke(stems);
    context.globalAlpha = 1;
    context.fill(dots);
    context.restore();
  };

function clip(context: CanvasRenderingContext2D, x: Scale, y: Scale, room: number) {
  const [left, right] = x.range();
  const [bottom, top] = y.range();
  context.save();
  context.beginPath();
  context.rect(left, top - room, right - left, bottom - top + 2 * room);
  context.clip();
}

const tenth = (value: number) => Math.round(value * 10) / 10;
