import type { Pair } from "../ui/pairs";
import { MOST_TICKS } from "./ticks";

interface Axis {
  /** As typed; null where the plot chooses. */
  low: number | null;
  high: number | null;
  /** What is seen at the moment. */
  seen: Pair<number>;
  logarithmic: boolean;
}

/** What is wrong with a limit or a tick step of an axis; empty where it can be drawn. */
export function limitProblem(end: "low" | "high" | "step", value: number, { low, high, seen, logarithmic }: Axis): string {
  const [from, to] = [low ?? seen[0], high ?? seen[1]];
  if (end === "step") {
    if (value <= 0) return "Ticks have to be more than 0 apart.";
    const count = Math.floor((to - from) / value);
    return !logarithmic && count > MOST_TICKS ? `That would be ${count} ticks: ${MOST_TICKS} at most are drawn.` : "";
  }
  if (logarithmic && value <= 0) return "A logarithmic axis has only numbers above 0.";
  if (end === "low" && high !== null && value >= high) return `It begins at ${value}, not below ${high}, where it ends.`;
  if (end === "high" && low !== null && value <= low) return `It ends at ${value}, not above ${low}, where it begins.`;
  return "";
}
