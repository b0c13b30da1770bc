import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Copy } from "lucide-react";
import { useState } from "react";

import { api, type Residuals } from "../api/client";
import { lookOf } from "../fits/looks";
import { copyText } from "../page/copy";
import { useAnalysis, useStudy } from "../study/context";
import { isLit, litRows, select, useView } from "../study/view";
import { LensTabs } from "./LensTabs";
import { Histogram, SmallPlot } from "./SmallPlot";

const COLUMNS = ["observed", "fitted", "residual", "squared", "standardised", "leverage", "cook"] as const;
const WORDS: Record<(typeof COLUMNS)[number], string> = {
  observed: "observed", fitted: "fitted", residual: "residual", squared: "residual²", standardised: "standardised", leverage: "leverage", cook: "Cook’s distance",
};

/** Five views of the residuals of one fit, what they say in words, and the table behind them. */
export function ResidualsLens() {
  const study = useStudy();
  const { fits, naming } = useAnalysis();
  const fitted = fits.filter((fit) => !fit.refusal);
  const [wanted, setWanted] = useState<string | null>(null);
  const fit = fitted.find((one) => one.letter === wanted) ?? fitted[0];
  const { data } = useQuery({
    queryKey: ["residuals", study.id, study.version, fit?.letter],
    enabled: fit !== undefined,
    placeholderData: keepPreviousData,
    queryFn: async () => (await api.GET("/api/studies/{study_id}/residuals/{letter}", { params: { path: { study_id: study.id, letter: fit!.letter } } })).data ?? null,
  });
  return (
    <section aria-label="Residuals" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] flex-wrap items-center gap-2">
        <LensTabs />
        {fitted.length > 1 && (
          <label className="flex items-center gap-1.5 text-[13px] text-mute">
            of fit
            <select className="field" aria-label="Residuals of fit" value={fit?.letter} onChange={(event) => setWanted(event.target.value)}>
              {fitted.map((one) => (
                <option key={one.letter} value={one.letter}>
                  {one.letter}, {one.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Views of the residuals">
        {!fit && <p className="p-6 text-center text-mute">There are no residuals without a fit.</p>}
        {fit && data && <Views found={data} color={lookOf(data.letter).color} deviation={fit.deviation ?? 0} xTitle={withUnit(naming.x, naming.x_unit)} yTitle={withUnit(naming.y, naming.y_unit)} rTitle={withUnit("residual", naming.y_unit)} />}
      </div>
    </section>
  );
}

const withUnit = (symbol: string, unit: string) => (unit ? `${symbol} / ${unit}` : symbol);

function Views({ found, color, deviation, xTitle, yTitle, rTitle }: { found: Residuals; color: string; deviation: number; xTitle: string; yTitle: string; rTitle: string }) {
  const study = useStudy();
  const lit = litRows(useView((view) => view.selection));
  const choose = (row: number) => select({ row, col: Math.max(0, study.columns.findIndex((column) => column.role === "y")) });
  const order = found.rows.map((row) => row + 1);
  const residuals = spread(found.residual, true);
  const common = { rows: found.rows, color, lit, onChoose: choose };
  const against = { ...common, ys: found.residual, y: residuals, yTitle: rTitle, guide: "zero" as const, band: deviation };
  const most = Math.max(...found.bins.map((bin) => bin.count), 1);
  const copy = () => copyText([["row", ...COLUMNS.map((name) => WORDS[name])], ...found.table.map((line) => [String(line.row + 1), ...COLUMNS.map((name) => line[name])])].map((cells) => cells.join("\t")).join("\n"), "The residual table");
  return (
    <div className="grid gap-3 pb-2">
      <ul className="grid gap-0.5 border border-rule bg-sheet px-4 py-2.5 font-book text-[14.5px] leading-snug" aria-label="What the residuals show">
        {found.sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        {!found.all_drawn && <li className="text-mute">Of so many readings every so manieth is drawn, and the largest residuals in any case.</li>}
      </ul>
      <div className="grid gap-2.5 [grid-template-columns:repeat(auto-fit,minmax(min(100%,15.5rem),1fr))]">
        <SmallPlot {...against} title={`Against ${xTitle.split(" / ")[0]}`} xs={found.x} x={spread(found.x)} xTitle={xTitle} />
        <SmallPlot {...against} title="Against the fitted value" xs={found.fitted} x={spread(found.fitted)} xTitle={`fitted ${yTitle}`} />
        <SmallPlot {...against} title="In the order of the rows" xs={order} x={spread(order)} xTitle="row" />
        <SmallPlot {...common} title="Against normal scatter" xs={found.expected} ys={found.standardised} x={spread(found.expected, true)} y={spread(found.standardised, true)} xTitle="normal quantile" yTitle="standardised" guide="diagonal" />
        {found.bins.length > 0 && <Histogram title="How often" bins={found.bins} color={color} x={[found.bins[0]!.low, found.bins[found.bins.length - 1]!.high]} y={[0, most * 1.08]} xTitle={rTitle} yTitle="readings" />}
      </div>
      <div className="border border-rule bg-sheet">
        <div className="flex items-center justify-between px-2.5 py-1">
          <h2 className="text-[12px] font-semibold text-mute">Residual table</h2>
          <button className="icon-button" aria-label="Copy the residual table" onClick={() => void copy()}>
            <Copy size={15} />
          </button>
        </div>
        <table className="numerals w-full text-right text-[12.5px]">
          <thead>
            <tr className="border-y border-rule text-[11.5px] text-mute">
              <th scope="col" className="px-2 py-1 font-normal">
                row
              </th>
              {COLUMNS.map((name) => (
                <th key={name} scope="col" className="px-2 py-1 font-normal">
                  {WORDS[name]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.table.map((line) => (
              <tr key={line.row} className={`border-b border-rule/60 ${isLit(lit, line.row) ? "bg-tint" : ""}`} onClick={() => choose(line.row)}>
                <th scope="row" className="px-2 font-normal text-mute">
                  {line.row + 1}
                </th>
                {COLUMNS.map((name) => (
                  <td key={name} className="px-2 py-0.5">
                    {line[name]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {found.table.length < found.rows.length && <p className="px-2.5 py-1 text-[12px] text-mute">The first {found.table.length} readings.</p>}
      </div>
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
