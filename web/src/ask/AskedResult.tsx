import { TriangleAlert } from "lucide-react";

import type { Answer } from "../api/client";
import { useAnalysisPart, useLooking } from "../study/context";
import { isDrawn } from "../fits/kinds";
import { AnswerTable } from "./AnswerTable";

interface Props {
  asked: Answer | null;
  unreachable: boolean;
  looking: boolean;
  /** Whether the result is that of an earlier question or of the study before a change. */
  stale: boolean;
}

/** What is answered, read out as it changes: the result with what it means, or why there is none. Its room is kept. */
export function AskedResult({ asked, unreachable, looking, stale }: Props) {
  const own = !useLooking();
  return (
    <div
      aria-live="polite"
      aria-busy={stale}
      className="goes-stale static! h-[60px] basis-full overflow-y-auto text-note leading-[1.35] [@media(max-height:30rem)]:h-auto [@media(max-height:30rem)]:max-h-[60px]"
      data-testid="asked"
      tabIndex={asked ? 0 : -1}
      role="group"
      aria-label="The answer"
    >
      {unreachable && <p className="text-plain text-amber">No connection: the answer cannot be computed just now.</p>}
      {!unreachable && asked?.problem && <p className="text-plain text-amber">{asked.problem}</p>}
      {!unreachable && asked && !asked.problem && <Result asked={asked} looking={looking} />}
      {!unreachable && !asked && (
        <p className="pt-1 text-mute [@media(max-height:30rem)]:hidden">
          The answer will stand here with its interval, and on the plot.{own && " Keep it to have it on the page."}
        </p>
      )}
    </div>
  );
}

function Result({ asked, looking }: { asked: Answer; looking: boolean }) {
  const rows = asked.rows ?? [];
  return (
    <>
      <p className="flex items-center gap-x-2.5">
        <span className="numerals shrink-0 font-book text-lead" title={asked.full ? `In full: ${asked.full}` : undefined}>
          {asked.rows?.length ? "" : `${asked.asked}: `}
          {asked.result}
        </span>
        <FitCautions letter={asked.fit} />
      </p>
      {rows.length > 1 && <Rows asked={asked} looking={looking} />}
      <p className="text-mute">
        {asked.place && <span className="mr-1.5 rounded-sm bg-amber-well px-1 text-amber">{asked.extrapolation || asked.place}</span>}
        {asked.sentence}
      </p>
    </>
  );
}

/** Several results lie over the plot, so that it stays where it is. */
function Rows({ asked, looking }: { asked: Answer; looking: boolean }) {
  return (
    <div
      className="absolute inset-x-[-1px] bottom-full max-h-[132px] overflow-auto border border-edge bg-sheet px-3 py-1.5"
      tabIndex={0}
      role="region"
      aria-label="The single results"
    >
      <AnswerTable rows={asked.rows ?? []} looking={looking} />
    </div>
  );
}

/** That there are cautions on the fit that answers, with the first of them. */
function FitCautions({ letter }: { letter: string | undefined }) {
  const fits = useAnalysisPart((analysis) => analysis.fits);
  const fit = fits.find((one) => one.letter === letter) ?? fits[0];
  const [first, ...more] = fit && isDrawn(fit) ? fit.cautions : [];
  if (!first || letter === "all") return null;
  const said = `${fit!.letter}: ${first.message}${more.length ? ` And ${more.length} more.` : ""}`;
  return (
    <span className="flex min-w-0 items-center gap-1 text-amber" title={said}>
      <TriangleAlert size={13} className="shrink-0" aria-hidden />
      <span className="truncate">{said}</span>
    </span>
  );
}
