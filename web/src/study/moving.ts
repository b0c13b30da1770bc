import type { Analysis, Fit, Moving } from "../api/client";
import { isComputed } from "../fits/kinds";

/** The analysis with all that is drawn as it is while a hand moves; what is said of it stays until the hand rests. */
export function withMoved(analysis: Analysis, moving: Moving): Analysis {
  return {
    ...analysis,
    ...readingsMoved(analysis, moving.rows),
    fits: analysis.fits.map((fit) => fitMoved(fit, moving.fits)),
    answers: analysis.answers.map((answer) => answerMoved(answer, moving.answers)),
    unknowns: analysis.unknowns.map((unknown) => ({ ...unknown, answer: answerMoved(unknown.answer, moving.unknowns) })),
  };
}

type Placing = Pick<Analysis, "x" | "y" | "x_error" | "y_error" | "status">;

function readingsMoved(analysis: Analysis, rows: Moving["rows"]): Placing | null {
  if (rows.length === 0) return null;
  const { x, y, x_error, y_error, status } = analysis;
  const now = {
    x: x.slice(),
    y: y.slice(),
    x_error: x_error && x_error.slice(),
    y_error: y_error && y_error.slice(),
    status: status.slice(),
  };
  for (const moved of rows) {
    [now.x[moved.row], now.y[moved.row], now.status[moved.row]] = [moved.x, moved.y, moved.status];
    if (now.x_error) now.x_error[moved.row] = moved.x_error ?? null;
    if (now.y_error) now.y_error[moved.row] = moved.y_error ?? null;
  }
  return now;
}

function fitMoved(fit: Fit, moved: Moving["fits"]): Fit {
  const now = moved.find((one) => one.letter === fit.letter);
  if (!now || fit.kind === "refused") return fit;
  if (!isComputed(fit)) return { ...fit, curve: now.curve };
  const { curve, residuals = [], r_squared = fit.r_squared, typical_miss = fit.typical_miss, deviation = null } = now;
  const drawn = { curve, residuals, r_squared, typical_miss, deviation };
  if (fit.kind === "hand") {
    const { handles, grips, difference } = now;
    return { ...fit, ...drawn, handles: handles ?? fit.handles, grips: grips ?? fit.grips, difference };
  }
  return fit.kind === "known" ? { ...fit, ...drawn, difference: now.difference } : { ...fit, ...drawn };
}

type Answer = Analysis["answers"][number];

function answerMoved(answer: Answer, moved: Moving["answers"]): Answer {
  const now = moved.find((one) => one.key === answer.key);
  if (!now) return answer;
  const rows = (answer.rows ?? []).map((row, place) => ({ ...row, mark: now.marks[place] ?? null }));
  return { ...answer, mark: now.mark, short: now.short, rows };
}
