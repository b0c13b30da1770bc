import type { Answer } from "../api/client";
import type { Domain } from "../study/view";
import type { Areas } from "./areas";

const NAMED = 4;

/** What cannot be seen of the readings and of the answer that is asked for. */
export function PlotNotes({ asked, domain, lost, areas }: { asked: Answer | null; domain: Domain; lost: number[]; areas: Areas }) {
  const mark = asked?.mark;
  const outside = mark && !(within(mark.x, domain.x) && within(mark.y, domain.y));
  if (!outside && !lost.length) return null;
  const rows = lost.slice(0, NAMED).map((row) => row + 1);
  const many = lost.length === 1 ? "One reading has" : `${lost.length} readings have`;
  return (
    <p
      role="status"
      className="no-print absolute right-4 rounded bg-amber-well px-2 py-0.5 text-note text-amber"
      style={{ bottom: areas.height - areas.floor + 8 }}
    >
      {outside
        ? "The answer lies outside the view"
        : `${many} no place on these axes: row ${rows.join(", ")}${lost.length > NAMED ? ", …" : ""}`}
    </p>
  );
}

const within = (value: number, [low, high]: [number, number]) => value >= low && value <= high;
