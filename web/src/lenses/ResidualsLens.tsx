import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type Residuals } from "../api/client";
import { lookOf } from "../fits/looks";
import { Swatch } from "../fits/Swatch";
import { useAnalysis, useNaming, useStudy } from "../study/context";
import { isLit, litRows, select, useView } from "../study/view";
import { Term } from "../ui/Hint";
import { LensTabs } from "./LensTabs";
import { Histogram, SmallPlot } from "./SmallPlot";
import { TableCard } from "./TableCard";
import { quantity } from "./quantity";
import { WithoutPlot } from "./WithoutPlot";
import { type ComputedFit, isComputed } from "../fits/kinds";

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

/** Five views of the residuals of one fit or of two side by side, what they say in words, and the table behind them. */
export function ResidualsLens() {
  const { fits } = useAnalysis();
  const fitted = fits.filter(isComputed);
  const [wanted, setWanted] = useState<string | null>(null);
  const [beside, setBeside] = useState("");
  const fit = fitted.find((one) => one.letter === wanted) ?? fitted[0];
  const other = fitted.find((one) => one.letter === beside && one !== fit);
  return (
    <section aria-label="Residuals" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
        {fitted.length > 1 && (
          <>
            <FitChoice label="of fit" name="Residuals of fit" value={fit?.letter ?? ""} fits={fitted} onPick={setWanted} />
            <FitChoice
              label="beside"
              name="Beside the residuals of fit"
              value={other?.letter ?? ""}
              fits={fitted.filter((one) => one !== fit)}
              none="no other"
              onPick={setBeside}
            />
          </>
        )}
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Views of the residuals">
        {!fit && (
          <p className="p-6 text-center text-mute">
            There are no residuals without a fit.{" "}
            {fits.some((one) => one.kind === "interpolation") && "An interpolation has none: it meets every reading."}
          </p>
        )}
        {fit && (
          <div className={other ? "grid gap-3 [grid-template-columns:repeat(auto-fit,minmax(min(100%,16rem),1fr))]" : ""}>
            <ResidualsOf fit={fit} titled={other !== undefined} />
            {other && <ResidualsOf fit={other} titled />}
          </div>
        )}
      </div>
    </section>
  );
}

function FitChoice({
  label,
  name,
  value,
  fits,
  none,
  onPick,
}: {
  label: string;
  name: string;
  value: string;
  fits: ComputedFit[];
  none?: string;
  onPick: (letter: string) => void;
}) {
  return (
    <label className="flex items-center gap-1.5 text-[13px] text-mute">
      {label}
      <select className="field" aria-label={name} value={value} onChange={(event) => onPick(event.target.value)}>
        {none && <option value="">{none}</option>}
        {fits.map((one) => (
          <option key={one.letter} value={one.letter}>
            {one.letter}, {one.label || one.name}
          </option>
        ))}
      </select>
    </label>
  );
}

function ResidualsOf({ fit, titled }: { fit: ComputedFit; titled: boolean }) {
  const study = useStudy();
  const naming = useNaming();
  const { data } = useQuery({
    queryKey: ["residuals", study.id, study.version, fit.letter],
    placeholderData: keepPreviousData,
    queryFn: async () =>
      (await api.GET("/api/studies/{study_id}/residuals/{letter}", { params: { path: { study_id: study.id, letter: fit.letter } } }))
        .data ?? null,
  });
  if (!data) return null;
  return (
    <div>
      {titled && (
        <h2 className="mb-1 flex items-center gap-2 font-book text-[14px]">
          <Swatch letter={fit.letter} /> {fit.label || fit.name}
        </h2>
      )}
      <Views
        found={data}
        color={lookOf(data.letter).color}
        deviation={fit.deviation ?? 0}
        xTitle={quantity(naming.x, naming.x_over)}
        yTitle={quantity(naming.y, naming.y_over)}
        rTitle={quantity("residual", naming.y_over)}
      />
    </div>
  );
}

function Views({
  found,
  color,
  deviation,
  xTitle,
  yTitle,
  rTitle,
}: {
  found: Residuals;
  color: string;
  deviation: number;
  xTitle: string;
  yTitle: string;
  rTitle: string;
}) {
  const study = useStudy();
  const lit = litRows(useView((view) => view.selection));
  const choose = (row: number) =>
    select({
      row,
      col: Math.max(
        0,
        study.columns.findIndex((column) => column.role === "y"),
      ),
    });
  const order = found.rows.map((row) => row + 1);
  const residuals = spread(found.residual, true);
  const common = { rows: found.rows, color, lit, onChoose: choose };
  const against = { ...common, ys: found.residual, y: residuals, yTitle: rTitle, guide: "zero" as const, band: deviation };
  const most = Math.max(...found.bins.map((bin) => bin.count), 1);
  const [pointed, setPointed] = useState<number | null>(null);
  const [byInfluence, setByInfluence] = useState(false);
  const chosen = lit && lit[0] === lit[1] && found.rows.includes(lit[0]) ? lit[0] : null;
  const looked = pointed ?? chosen;
  const table = byInfluence ? [...found.table].sort((a, b) => (Number(b.cook) || 0) - (Number(a.cook) || 0)) : found.table;
  const head = (name: (typeof COLUMNS)[number]) => quantity(WORDS[name], found.over[name] ?? "");
  const cells = () => [
    ["row", ...COLUMNS.map(head)],
    ...found.table.map((line) => [String(line.row + 1), ...COLUMNS.map((name) => line[name])]),
  ];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 pb-2">
      <ul
        className="grid gap-0.5 border border-rule bg-sheet px-4 py-2.5 font-book text-[14.5px] leading-snug"
        aria-label="What the residuals show"
      >
        {found.sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {!found.all_drawn && (
          <li className="text-mute">Of so many readings a part is drawn, evenly spaced, and all of the largest residuals.</li>
        )}
      </ul>
      <div className="grid gap-2.5 [grid-template-columns:repeat(auto-fit,minmax(min(100%,15.5rem),1fr))]">
        <SmallPlot {...against} title={`Against ${xTitle.split(" / ")[0]}`} xs={found.x} x={spread(found.x)} xTitle={xTitle} />
        <SmallPlot {...against} title="Against the fitted value" xs={found.fitted} x={spread(found.fitted)} xTitle={`fitted ${yTitle}`} />
        <SmallPlot {...against} title="By row order" xs={order} x={spread(order)} xTitle="row" />
        <SmallPlot
          {...common}
          title="Normal quantile plot"
          xs={found.expected}
          ys={found.standardised}
          x={spread(found.expected, true)}
          y={spread(found.standardised, true)}
          xTitle="normal quantile"
          yTitle="standardised"
          guide="diagonal"
        />
        {found.bins.length > 0 && (
          <Histogram
            title="Histogram"
            bins={found.bins}
            color={color}
            x={[found.bins[0]!.low, found.bins[found.bins.length - 1]!.high]}
            y={[0, most * 1.08]}
            xTitle={rTitle}
            yTitle="readings"
          />
        )}
        <WithoutPlot letter={found.letter} row={looked} color={color} />
      </div>
      <TableCard
        title="Residual table"
        label="Residual table"
        copy={{ label: "Copy the residual table", what: "The residual table", rows: cells }}
        control={
          <label className="flex items-center gap-1.5 text-[12px] text-mute">
            <input
              type="checkbox"
              className="accent-(--color-pine)"
              checked={byInfluence}
              onChange={(event) => setByInfluence(event.target.checked)}
            />
            most influential first
          </label>
        }
        below={
          found.table.length < found.rows.length && (
            <p className="px-2.5 py-1 text-[12px] text-mute">The first {found.table.length} readings.</p>
          )
        }
      >
        <thead>
          <tr className="border-y border-rule text-[11.5px] text-mute">
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
          {table.map((line) => (
            <tr
              key={line.row}
              className={`border-b border-rule/60 hover:bg-well ${isLit(lit, line.row) ? "bg-tint" : ""}`}
              onClick={() => choose(line.row)}
              onPointerEnter={(event) => event.pointerType === "mouse" && setPointed(line.row)}
              onPointerLeave={() => setPointed(null)}
            >
              <th scope="row" className="px-2 font-normal text-mute">
                <button
                  className="rounded-sm px-1"
                  aria-label={`Row ${line.row + 1}: show the curve without it`}
                  onFocus={() => setPointed(line.row)}
                  onBlur={() => setPointed(null)}
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
          ))}
        </tbody>
      </TableCard>
    </div>
  );
}

/** The stretch of some values with room, about zero where that is wanted. */
function spread(values: (number | null)[], aboutZero = false): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value === null) continue;
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  if (!(low <= high)) return [-1, 1];
  if (aboutZero) [low, high] = [-Math.max(-low, high), Math.max(-low, high)];
  const room = (high - low) * 0.08 || Math.abs(high) * 0.1 || 1;
  return [low - room, high + room];
}
