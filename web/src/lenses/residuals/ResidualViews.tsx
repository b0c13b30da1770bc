import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type Residuals } from "../../api/client";
import type { ComputedFit } from "../../fits/kinds";
import { lookOf } from "../../fits/looks";
import { Swatch } from "../../fits/Swatch";
import { useNaming, useStudy } from "../../study/context";
import { chooseReading, litRows, useView } from "../../study/view";
import { must } from "../../api/must";
import { NotMade } from "../../ui/NotMade";
import { quantity } from "../quantity";
import { ResidualTable } from "./ResidualTable";
import { Histogram, SmallPlot } from "./SmallPlot";
import { spread } from "./spread";
import { WithoutPlot } from "./WithoutPlot";

/** The residuals of one fit, under its name where two stand side by side. */
export function ResidualViews({ fit, titled }: { fit: ComputedFit; titled: boolean }) {
  const study = useStudy();
  const { data, error, refetch, isPlaceholderData } = useQuery({
    queryKey: ["residuals", study.id, study.version, fit.letter],
    placeholderData: keepPreviousData,
    queryFn: () =>
      must(api.GET("/api/studies/{study_id}/residuals/{letter}", { params: { path: { study_id: study.id, letter: fit.letter } } })),
  });
  if (!data) return <NotMade error={error} onAgain={() => void refetch()} />;
  return (
    <div className="goes-stale" aria-busy={isPlaceholderData}>
      {titled && (
        <h2 className="mb-1 flex items-center gap-2 font-book text-plain">
          <Swatch letter={fit.letter} /> {fit.label || fit.name}
        </h2>
      )}
      <Views found={data} deviation={fit.deviation ?? 0} />
    </div>
  );
}

function Views({ found, deviation }: { found: Residuals; deviation: number }) {
  const { columns } = useStudy();
  const selection = useView((view) => view.selection);
  const [pointed, setPointed] = useState<number | null>(null);
  const lit = litRows(selection);
  const chosen = lit && lit[0] === lit[1] && found.rows.includes(lit[0]) ? lit[0] : null;
  const choose = (row: number) => chooseReading(columns, row);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3 pb-2">
      <ul
        className="grid gap-0.5 border border-rule bg-sheet px-4 py-2.5 font-book text-plain leading-snug"
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
        <Drawings found={found} deviation={deviation} lit={lit} onChoose={choose} />
        <WithoutPlot letter={found.letter} row={pointed ?? chosen} color={lookOf(found.letter).color} />
      </div>
      <ResidualTable found={found} lit={lit} onChoose={choose} onPoint={setPointed} />
    </div>
  );
}

interface DrawingsProps {
  found: Residuals;
  deviation: number;
  lit: [number, number] | null;
  onChoose: (row: number) => void;
}

function Drawings({ found, deviation, lit, onChoose }: DrawingsProps) {
  const naming = useNaming();
  const [xTitle, yTitle, rTitle] = [
    quantity(naming.x, naming.x_over),
    quantity(naming.y, naming.y_over),
    quantity("residual", naming.y_over),
  ];
  const { color } = lookOf(found.letter);
  const order = found.rows.map((row) => row + 1);
  const { bins } = found;
  const common = { rows: found.rows, color, lit, onChoose };
  const against = {
    ...common,
    ys: found.residual,
    y: spread(found.residual, true),
    yTitle: rTitle,
    guide: "zero" as const,
    band: deviation,
  };
  return (
    <>
      <SmallPlot {...against} title={`Against ${naming.x}`} xs={found.x} x={spread(found.x)} xTitle={xTitle} />
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
      {bins.length > 0 && (
        <Histogram
          title="Histogram"
          bins={bins}
          color={color}
          x={[bins[0]!.low, bins[bins.length - 1]!.high]}
          y={[0, Math.max(...bins.map((bin) => bin.count), 1) * 1.08]}
          xTitle={rTitle}
          yTitle="readings"
        />
      )}
    </>
  );
}
