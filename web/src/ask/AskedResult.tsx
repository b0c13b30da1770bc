import type { Answer } from "../api/client";
import { AnswerTable } from "./AnswerTable";

/** What is answered, read out as it changes: the result with what it means, or why there is none. */
export function AskedResult({ asked, unreachable, looking }: { asked: Answer | null; unreachable: boolean; looking: boolean }) {
  return (
    <div
      aria-live="polite"
      className={`flex flex-wrap items-center gap-x-2.5 gap-y-1 ${asked || unreachable ? "basis-full" : ""}`}
      data-testid="asked"
    >
      {unreachable && <span className="text-amber">No connection: the answer cannot be computed just now.</span>}
      {!unreachable && asked?.problem && <span className="text-amber">{asked.problem}</span>}
      {!unreachable && asked && !asked.problem && <Result asked={asked} looking={looking} />}
    </div>
  );
}

function Result({ asked, looking }: { asked: Answer; looking: boolean }) {
  const rows = asked.rows ?? [];
  return (
    <>
      <span className="numerals font-book text-lead" title={asked.full ? `In full: ${asked.full}` : undefined}>
        → {asked.result}
      </span>
      {asked.sentence && <span className="text-note text-mute">{asked.sentence}</span>}
      {asked.place && <span className="rounded bg-amber-well px-2 py-0.5 text-plain text-amber">{asked.extrapolation || asked.place}</span>}
      {rows.length > 1 && (
        <div className="max-h-[104px] w-full overflow-auto" tabIndex={0} role="region" aria-label="The single results">
          <AnswerTable rows={rows} looking={looking} />
        </div>
      )}
    </>
  );
}
