import { ChevronRight } from "lucide-react";
import { useState } from "react";

import type { FormulaLook } from "../api/client";
import { makeScale } from "../plot/scales";
import { useAnalysisPart, useNaming } from "../study/context";
import { Symbol } from "../ui/Symbol";
import { Typeset } from "../ui/Typeset";
import { ticksOf } from "../plot/ticks";
import { pathOf } from "../plot/path";

const WIDTH = 320;
const HEIGHT = 110;

interface Props {
  parts: string[];
  part: NonNullable<FormulaLook["part"]> | null;
  place: number | null;
  onPlace: (place: number | null) => void;
}

/** A part of the formula on its own: as a curve over the readings, and its value at each of them. */
export function PartLook({ parts, part, place, onPlace }: Props) {
  const [open, setOpen] = useState(false);
  const naming = useNaming();
  const x = useAnalysisPart((analysis) => analysis.x);
  return (
    <div className="mt-1">
      <button
        type="button"
        aria-expanded={open}
        className="-ml-1 inline-flex items-center gap-1 rounded-sm px-1 text-plain text-mute hover:text-ink"
        onClick={() => {
          setOpen(!open);
          onPlace(open ? null : Math.min(1, parts.length - 1));
        }}
      >
        <ChevronRight size={14} className={open ? "rotate-90" : ""} /> Look at a part of it
      </button>
      {open && (
        <div className="mt-1 grid gap-1.5">
          <select
            className="field w-full font-mono"
            aria-label="Part of the formula"
            value={place ?? 0}
            onChange={(event) => onPlace(Number(event.target.value))}
          >
            {parts.map((text, i) => (
              <option key={text} value={i}>
                {text}
              </option>
            ))}
          </select>
          {part && (
            <>
              <Typeset latex={part.latex} text={part.text} className="font-book text-lead" />
              <PartCurve xs={part.x} ys={part.y} label={part.text} />
              <div className="max-h-36 overflow-auto border border-rule" tabIndex={0} role="region" aria-label="Its value at each reading">
                <table className="numerals w-full text-right text-plain">
                  <caption className="sr-only">Its value at each reading</caption>
                  <thead>
                    <tr className="text-note text-mute">
                      <th scope="col" className="px-2 font-normal">
                        row
                      </th>
                      <th scope="col" className="px-2 font-normal">
                        <Symbol text={naming.x} />
                      </th>
                      <th scope="col" className="px-2 font-mono font-normal">
                        {part.text.length > 24 ? "part" : part.text}
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {part.values.map((value, row) =>
                      x[row] == null ? null : (
                        <tr key={row} className={value ? "" : "bg-amber-well text-amber"}>
                          <th scope="row" className="px-2 font-normal text-mute">
                            {row + 1}
                          </th>
                          <td className="px-2">{x[row]}</td>
                          <td className="px-2">{value || "no value"}</td>
                        </tr>
                      ),
                    )}
                  </tbody>
                </table>
              </div>
            </>
          )}
        </div>
      )}
    </div>
  );
}

function PartCurve({ xs, ys, label }: { xs: number[]; ys: (number | null)[]; label: string }) {
  const known = ys.filter((value): value is number => value !== null);
  if (!known.length) return <p className="text-plain text-amber">It has no value anywhere in view.</p>;
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const room = (high - low) * 0.08 || Math.abs(high) * 0.1 || 1;
  const x = makeScale([xs[0]!, xs[xs.length - 1]!], [46, WIDTH - 6]);
  const y = makeScale([low - room, high + room], [HEIGHT - 18, 6]);
  const path = pathOf(xs, ys, x, y);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full border border-rule bg-sheet"
      role="img"
      aria-label={`Curve of ${label}`}
      data-testid="part-curve"
    >
      <g fontSize="var(--text-note)" fill="var(--color-mute)">
        {ticksOf(y, 3).map(({ key, at, text }) => (
          <g key={key}>
            <line x1="46" x2={WIDTH - 6} y1={at} y2={at} stroke="var(--color-rule)" strokeWidth="0.6" />
            <text x="42" y={at} dy="0.34em" textAnchor="end">
              {text}
            </text>
          </g>
        ))}
        {ticksOf(x, 5).map(({ key, at, text }) => (
          <text key={key} x={at} y={HEIGHT - 5} textAnchor="middle">
            {text}
          </text>
        ))}
      </g>
      <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="1.8" />
    </svg>
  );
}
