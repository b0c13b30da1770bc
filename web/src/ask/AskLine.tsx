import { ArrowLeftRight } from "lucide-react";
import { useEffect, useMemo, useState } from "react";

import { api, type Answer, type Direction } from "../api/client";
import { Symbol } from "../ui/Symbol";
import { useNaming, useChange, useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { setView, useView } from "../study/view";
import { Hint } from "../ui/Hint";

interface Question {
  direction: Direction;
  given: string;
  repeats: number;
}

/** The sentence with a blank in it: predict y when x is …, or x when y is …. */
export function AskLine() {
  const study = useStudy();
  const naming = useNaming();
  const change = useChange();
  const direction = useView((view) => view.asking);
  const asked = useView((view) => view.asked);
  const [given, setGiven] = useState("");
  const [repeats, setRepeats] = useState(1);
  const [unreachable, setUnreachable] = useState(false);

  const asking = useMemo(
    () =>
      newestWins(
        async (question: Question): Promise<Answer | null> => {
          try {
            const { data } = await api.POST("/api/studies/{study_id}/ask", { params: { path: { study_id: study.id } }, body: question });
            setUnreachable(!data);
            return data ?? null;
          } catch {
            setUnreachable(true);
            return null;
          }
        },
        (answer) => setView({ asked: answer }),
      ),
    [study.id],
  );
  // The answer follows the readings: asked again with every version.
  useEffect(() => {
    if (given.trim()) asking.ask({ direction, given, repeats });
    else {
      asking.cancel();
      setView({ asked: null });
    }
  }, [asking, direction, given, repeats, study.version]);
  useEffect(() => () => setView({ asked: null }), []);

  const many = /[\s;]/.test(given.trim());
  const canKeep = Boolean(given.trim() && asked && !asked.problem);
  const keep = () => {
    if (!canKeep) return;
    change({ kind: "keep_answer", direction, given: given.trim(), repeats: many ? 1 : repeats });
    setGiven("");
    setRepeats(1);
  };
  const [from, to] = direction === "y_at_x" ? [naming.x, naming.y] : [naming.y, naming.x];
  const unit = direction === "y_at_x" ? naming.x_unit : naming.y_unit;
  return (
    <form
      aria-label="Ask"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
      className="no-print flex min-h-[44px] shrink-0 flex-wrap items-center gap-x-2.5 gap-y-1.5 border border-rule bg-sheet px-3 py-1.5"
    >
      <span className="flex items-center gap-2">
        <span className="text-mute">Predict</span> <Symbol text={to} /> <span className="text-mute">when</span> <Symbol text={from} /> =
      </span>
      <input
        className="field numerals w-24 text-right"
        aria-label={`${from}, given`}
        title={direction === "x_at_y" ? "One value, or the repeated readings of one unknown with spaces between them" : undefined}
        autoComplete="off"
        value={given}
        maxLength={200}
        onChange={(event) => setGiven(event.target.value)}
      />
      {unit && <span className="font-book text-mute">{unit}</span>}
      {direction === "x_at_y" && !many && (
        <label className="flex items-center gap-1.5 text-[13px] text-mute">
          mean of
          <input
            type="number"
            min={1}
            max={10000}
            className="field numerals w-14 text-right"
            aria-label="Number of readings it is the mean of"
            value={repeats}
            onChange={(event) => setRepeats(Math.min(10000, Math.max(1, Math.round(Number(event.target.value)) || 1)))}
          />
        </label>
      )}
      <Hint text="Turn the question round">
        <button
          type="button"
          className="icon-button"
          aria-label={`Ask for ${from} when ${to} is given`}
          onClick={() => setView({ asking: direction === "y_at_x" ? "x_at_y" : "y_at_x", asked: null })}
        >
          <ArrowLeftRight size={15} />
        </button>
      </Hint>
      {canKeep && <button className="button-main ml-auto">Keep</button>}
      <span aria-live="polite" className={`flex flex-wrap items-center gap-x-2.5 gap-y-1 ${asked || unreachable ? "basis-full" : ""}`} data-testid="asked">
        {unreachable && <span className="text-amber">No connection: the answer cannot be computed just now.</span>}
        {!unreachable && asked?.problem && <span className="text-amber">{asked.problem}</span>}
        {!unreachable && asked && !asked.problem && (
          <>
            <span className="numerals font-book text-[16px]" title={`${asked.sentence} In full: ${asked.full}`}>
              → {asked.result}
            </span>
            {asked.place && <span className="rounded bg-amber-well px-2 py-0.5 text-[12.5px] text-amber">{asked.place.split(".  ")[0]?.split(". It")[0]}</span>}
          </>
        )}
      </span>
    </form>
  );
}
