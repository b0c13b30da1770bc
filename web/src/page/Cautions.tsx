import { useQuery } from "@tanstack/react-query";
import { TriangleAlert } from "lucide-react";

import { api } from "../api/client";
import type { DrawnFit } from "../fits/kinds";
import { useStudy } from "../study/context";
import { WithoutIt } from "../plot/WithoutIt";
import { select, setView } from "../study/view";
import { CommentsOn } from "../comments/CommentsOn";
import { Actions } from "./Actions";

/** Cautions that the residuals show best. */
const SEEN_IN_RESIDUALS = [
  "patterned-residuals",
  "spread-changes",
  "far-off",
  "one-reading-decides",
  "drifts",
  "two-groups",
  "coarse-step",
];

/** Those about single readings: the curve can be seen without each of them. */
const SINGLE_READINGS = ["far-off", "one-reading-decides"];
const MOST_SHOWN = 3;

/** What one should know about the fit, each with what to do; named rows can be looked at and set aside from here. */
export function Cautions({ fit }: { fit: DrawnFit }) {
  const study = useStudy();
  const yColumn = Math.max(
    0,
    study.columns.findIndex((column) => column.role === "y"),
  );
  if (!fit.cautions.length) return null;
  return (
    <>
      <h3 className="mt-3 mb-1 text-note font-semibold text-mute">Cautions</h3>
      <ul className="grid gap-2">
        {fit.cautions.map((caution) => (
          <li key={caution.code} className="rounded-(--radius) bg-amber-well px-3 py-2 text-plain text-amber">
            <p className="flex gap-2">
              <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-label="Caution" />
              <span>
                <span className="font-medium">{caution.message}</span> {caution.remedy}
              </span>
            </p>
            <p className="no-print mt-1.5 flex flex-wrap gap-1.5 pl-6 empty:hidden">
              {caution.rows.length > 0 && (
                <button
                  className="button"
                  onClick={() =>
                    select({ row: caution.rows[caution.rows.length - 1]!, col: yColumn }, { row: caution.rows[0]!, col: yColumn })
                  }
                >
                  Show
                </button>
              )}
              {SEEN_IN_RESIDUALS.includes(caution.code) && (
                <button className="button" onClick={() => setView({ lens: "residuals", panel: "plot" })}>
                  Show residuals
                </button>
              )}
              {caution.other_model && <BetterModel letter={fit.letter} />}
              <Actions actions={caution.actions} />
            </p>
            <CommentsOn
              about={`caution:${fit.letter}:${caution.code}`}
              place={`Caution on ${fit.letter}: ${caution.message}`.slice(0, 118)}
            />
            {SINGLE_READINGS.includes(caution.code) && (
              <p className="no-print mt-1.5 pl-6 text-note leading-snug">
                {caution.rows.slice(0, MOST_SHOWN).map((row) => (
                  <span key={row} className="mr-1">
                    <WithoutIt letter={fit.letter} row={row} called={`without row ${row + 1}`} />
                  </span>
                ))}
              </p>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

/** The model that the readings prefer, looked for once it may help. */
function BetterModel({ letter }: { letter: string }) {
  const { id, version } = useStudy();
  const { data } = useQuery({
    queryKey: ["better", id, version, letter],
    staleTime: Infinity,
    queryFn: async () =>
      (await api.GET("/api/studies/{study_id}/better/{letter}", { params: { path: { study_id: id, letter } } })).data ?? null,
  });
  return data ? <Actions actions={[data]} /> : null;
}
