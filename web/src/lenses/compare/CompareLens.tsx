import { keepPreviousData, useQuery } from "@tanstack/react-query";

import { api, type Analysis, type Comparison } from "../../api/client";
import { lookOf } from "../../fits/looks";
import { Swatch } from "../../fits/Swatch";
import { pathOf } from "../../plot/path";
import { makeScale } from "../../plot/scales";
import { useAnalysis, useChange, useStudy } from "../../study/context";
import { isDrawnRow, STATUS } from "../../study/status";
import { Term } from "../../ui/Hint";
import { Ladder } from "./Ladder";
import { LensTabs } from "../LensTabs";
import { TableCard } from "../TableCard";
import { Ticks } from "../Ticks";
import { type DrawnFit, isComputed, isDrawn } from "../../fits/kinds";

/** The fits side by side: small plots on common axes, the criteria with their meaning, and why R² is no judge. */
export function CompareLens() {
  const study = useStudy();
  const analysis = useAnalysis();
  const { data } = useQuery({
    queryKey: ["comparison", study.id, study.version],
    placeholderData: keepPreviousData,
    queryFn: async () => (await api.GET("/api/studies/{study_id}/comparison", { params: { path: { study_id: study.id } } })).data ?? null,
  });
  const drawn = analysis.fits.filter(isDrawn).filter((fit) => fit.curve);
  return (
    <section aria-label="Compare" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Fits side by side">
        {!drawn.length && <p className="p-6 text-center text-mute">There is nothing to compare without a fit.</p>}
        <div className="grid grid-cols-[minmax(0,1fr)] gap-3 pb-2">
          <ul aria-label="Fits" className="grid gap-2.5 [grid-template-columns:repeat(auto-fit,minmax(min(100%,15.5rem),1fr))]">
            {drawn.map((fit) => (
              <Multiple key={fit.letter} fit={fit} analysis={analysis} />
            ))}
          </ul>
          {drawn.length === 1 && <OneMore />}
          {data && data.fits.length > 0 && <Criteria found={data} />}
          {data && data.ladder.length > 1 && <Ladder rungs={data.ladder} sentence={data.ladder_sentence} />}
        </div>
      </div>
    </section>
  );
}

function OneMore() {
  const change = useChange();
  return (
    <p className="text-plain text-mute">
      There is only one fit.{" "}
      <button className="button" onClick={() => change({ kind: "add_fit", family: "polynomial", options: { degree: 2 } })}>
        Add a quadratic
      </button>{" "}
      or choose among all models on the page.
    </p>
  );
}

const WIDTH = 330;
const AREA = { left: 48, right: 322, top: 8, bottom: 150 };
const STRIP = { top: 162, bottom: 206 };
const HEIGHT = 226;
const MOST_MARKS = 600;

/** One fit over the readings on the axes that all share, with its residuals below. */
function Multiple({ fit, analysis }: { fit: DrawnFit; analysis: Analysis }) {
  const { view, measured } = analysis;
  const x = makeScale([view.x.low, view.x.high], [AREA.left, AREA.right]);
  const y = makeScale([view.y.low, view.y.high], [AREA.bottom, AREA.top]);
  const largest = largestResidual(analysis);
  const r = makeScale([-largest, largest], [STRIP.bottom, STRIP.top]);
  const { color, dash } = lookOf(fit.letter);
  const every = Math.max(1, Math.ceil(analysis.x.length / MOST_MARKS));
  const rows = analysis.status.flatMap((status, row) => (isDrawnRow(status) && row % every === 0 ? [row] : []));
  const curve = fit.curve!;
  const within = (at: number) => measured !== null && at >= measured.low && at <= measured.high;
  const path = (inside: boolean) => pathOf(curve.x, curve.y, x, y, (at) => within(at) === inside);
  const name = fit.label || fit.name;
  return (
    <li className="border border-rule bg-sheet">
      <h2 className="flex items-center gap-2 px-2.5 pt-1.5 text-plain">
        <Swatch letter={fit.letter} /> <span className="truncate font-book text-body">{name}</span>
      </h2>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`${fit.letter}, ${name}: ${isComputed(fit) ? `${fit.equation_text}, typical miss ${fit.typical_miss}` : ""}`}
      >
        <clipPath id={`multiple-${fit.letter}`}>
          <rect x={AREA.left} y={AREA.top} width={AREA.right - AREA.left} height={AREA.bottom - AREA.top} />
        </clipPath>
        <g fontSize="var(--text-fine)" fill="var(--color-mute)">
          <Ticks x={x} y={y} area={AREA} count={{ x: 5, y: 4 }} base={HEIGHT - 6} />
        </g>
        {measured && (
          <line x1={x(measured.low)} x2={x(measured.high)} y1={AREA.bottom} y2={AREA.bottom} stroke="var(--color-ink)" strokeWidth="4" />
        )}
        <g clipPath={`url(#multiple-${fit.letter})`}>
          <path d={path(false)} fill="none" stroke={color} strokeWidth="2" strokeDasharray="0.1 4.6" strokeLinecap="round" />
          <path d={path(true)} fill="none" stroke={color} strokeWidth="2" strokeDasharray={dash} />
          {rows.map((row) => (
            <circle
              key={row}
              cx={x(analysis.x[row]!)}
              cy={y(analysis.y[row]!)}
              r="2.6"
              fill={analysis.status[row] === STATUS.used ? "var(--color-ink)" : "var(--color-sheet)"}
              stroke="var(--color-ink)"
            />
          ))}
        </g>
        {!isComputed(fit) ? (
          <text
            x={(AREA.left + AREA.right) / 2}
            y={(STRIP.top + STRIP.bottom) / 2}
            textAnchor="middle"
            fontSize="var(--text-note)"
            fill="var(--color-mute)"
          >
            no residuals: it meets every reading
          </text>
        ) : (
          <>
            <line x1={AREA.left} x2={AREA.right} y1={r(0)} y2={r(0)} stroke={color} />
            {rows.map((row) => {
              const value = fit.residuals[row];
              return value == null ? null : (
                <line
                  key={row}
                  x1={x(analysis.x[row]!)}
                  x2={x(analysis.x[row]!)}
                  y1={r(0)}
                  y2={r(value)}
                  stroke={color}
                  strokeWidth="1.6"
                />
              );
            })}
          </>
        )}
      </svg>
    </li>
  );
}

/** So that the residual strips can be compared, they share a scale. */
function largestResidual(analysis: Analysis): number {
  let largest = 0;
  for (const fit of analysis.fits.filter(isComputed)) for (const value of fit.residuals) largest = Math.max(largest, Math.abs(value ?? 0));
  return largest || 1;
}

function Criteria({ found }: { found: Comparison }) {
  const table = () => [
    ["fit", "model", ...found.criteria.map((one) => one.label)],
    ...found.fits.map((fit) => [fit.letter, fit.name, ...fit.values.map((value) => value.text)]),
  ];
  return (
    <TableCard
      title="Criteria"
      label="Criteria of the fits"
      copy={{ label: "Copy the criteria", what: "The criteria", rows: table }}
      below={
        <div className="grid gap-1 px-2.5 py-2 font-book text-body leading-snug">
          {found.remark && <p className="text-amber">{found.remark}</p>}
          {found.nested.map((test) => (
            <p key={test.smaller + test.larger}>{test.sentence}</p>
          ))}
          {found.fits.length > 1 && (
            <p className="text-note text-mute">The best of each criterion is marked. R² is not: it cannot choose between models.</p>
          )}
        </div>
      }
    >
      <thead>
        <tr className="border-y border-rule text-note text-mute">
          <th scope="col" className="px-2 py-1 text-left font-normal">
            fit
          </th>
          {found.criteria.map((one) => (
            <th key={one.name} scope="col" className="px-1.5 py-1 font-normal whitespace-nowrap">
              <Term word={one.label} meaning={one.meaning} />
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {found.fits.map((fit) => (
          <tr key={fit.letter} className="border-b border-rule/60">
            <th scope="row" title={fit.name} className="max-w-36 truncate px-2 py-1 text-left font-normal">
              <span className="font-semibold" style={{ color: lookOf(fit.letter).color }}>
                {fit.letter}
              </span>{" "}
              <span className="font-book">{fit.name}</span>
            </th>
            {fit.values.map((value, i) => (
              <td key={found.criteria[i]!.name} className={`px-1.5 py-1 whitespace-nowrap ${value.best ? "bg-tint font-semibold" : ""}`}>
                {value.text}
                {value.best && <span className="sr-only"> (best)</span>}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </TableCard>
  );
}
