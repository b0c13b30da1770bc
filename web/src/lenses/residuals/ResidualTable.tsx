import { useState } from "react";

import type { Residuals } from "../../api/client";
import { isLit } from "../../study/view";
import { byMouse } from "../../ui/byMouse";
import { Term } from "../../ui/Hint";
import { quantity } from "../quantity";
import { TableCard } from "../TableCard";

const COLUMNS = ["observed", "fitted", "residual", "squared", "standardised", "leverage", "cook"] as const;
const WORDS: Record<(typeof COLUMNS)[number], string> = {
  observed: "observed",
  fitted: "fitted",
  residual: "residual",
  squared: "residual²",
  standardised: "standardised",
  leverage: "leverage",
  cook: "Cook’s distance",
};
const MEANINGS: Partial<Record<(typeof COLUMNS)[number], string>> = {
  standardised: "The residual in units of its own standard deviation: beyond ±2 is unusual, beyond ±3 rare.",
  leverage: "How much its place along x lets the reading pull the curve, from 0 to 1.",
  cook: "How far the whole curve moves when the reading is removed, in units of its uncertainty: above 1 is much.",
};

type Line = Residuals["table"][number];

interface Props {
  found: Residuals;
  lit: [number, number] | null;
  onChoose: (row: number) => void;
  /** The row that is pointed at; null once it is left. */
  onPoint: (row: number | null) => void;
}

/** What the views are drawn from, reading by reading; a row that is pressed is chosen everywhere. */
export function ResidualTable({ found, lit, onChoose, onPoint }: Props) {
  const [byInfluence, setByInfluence] = useState(false);
  const lines = byInfluence ? [...found.table].sort((a, b) => (Number(b.cook) || 0) - (Number(a.cook) || 0)) : found.table;
  const head = (name: (typeof COLUMNS)[number]) => quantity(WORDS[name], found.over[name] ?? "");
  const cells = () => [
    ["row", ...COLUMNS.map(head)],
    ...found.table.map((line) => [String(line.row + 1), ...COLUMNS.map((name) => line[name])]),
  ];
  const order = (
    <label className="flex items-center gap-1.5 text-note text-mute">
      <input
        type="checkbox"
        className="accent-(--color-pine)"
        checked={byInfluence}
        onChange={(event) => setByInfluence(event.target.checked)}
      />
      most influential first
    </label>
  );
  const part = found.table.length < found.rows.length && (
    <p className="px-2.5 py-1 text-note text-mute">The first {found.table.length} readings.</p>
  );
  return (
    <TableCard
      title="Residual table"
      label="Residual table"
      copy={{ label: "Copy the residual table", what: "The residual table", rows: cells }}
      control={order}
      below={part}
    >
      <thead>
        <tr className="border-y border-rule text-note text-mute">
          <th scope="col" className="px-2 py-1 font-normal">
            row
          </th>
          {COLUMNS.map((name) => (
            <th key={name} scope="col" className="px-2 py-1 font-normal">
              {MEANINGS[name] ? <Term word={head(name)} meaning={MEANINGS[name]} /> : head(name)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <TableLine key={line.row} line={line} lit={isLit(lit, line.row)} onChoose={onChoose} onPoint={onPoint} />
        ))}
      </tbody>
    </TableCard>
  );
}

function TableLine({ line, lit, onChoose, onPoint }: { line: Line; lit: boolean } & Pick<Props, "onChoose" | "onPoint">) {
  return (
    <tr
      className={`border-b border-rule/60 hover:bg-well ${lit ? "bg-tint" : ""}`}
      onClick={() => onChoose(line.row)}
      onPointerEnter={(event) => byMouse(event) && onPoint(line.row)}
      onPointerLeave={() => onPoint(null)}
    >
      <th scope="row" className="px-2 font-normal text-mute">
        <button
          className="rounded-sm px-1"
          aria-label={`Row ${line.row + 1}: show the curve without it`}
          onFocus={() => onPoint(line.row)}
          onBlur={() => onPoint(null)}
        >
          {line.row + 1}
        </button>
      </th>
      {COLUMNS.map((name) => (
        <td key={name} className="px-2 py-0.5">
          {line[name]}
        </td>
      ))}
    </tr>
  );
}
