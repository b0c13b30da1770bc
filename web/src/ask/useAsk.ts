import { useEffect, useMemo, useState } from "react";

import { api, type Answer, type Direction } from "../api/client";
import { useStale, useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { setView, useView } from "../study/view";

export interface Question {
  direction: Direction;
  given: string;
  repeats: number;
  /** The letter of the fit that is asked, "" for the leading one, "all" for every one. */
  fit: string;
}

/** Questions that need no value. */
export const OF_THE_CURVE: Direction[] = ["roots", "turning", "inflexions"];

/** Milliseconds without a key before a question is sent, so that 30.5 does not show the results for 3 and 30. */
const PAUSE = 220;

interface Sent {
  question: Question;
  version: number;
}

const isSame = (one: Question, other: Question) =>
  one.direction === other.direction && one.given === other.given && one.repeats === other.repeats && one.fit === other.fit;

/**
 * The result of the question in the prediction bar, computed as it is typed and again with every version of the study.
 * `fresh`: whether it belongs to what stands there now. `now`: ask without the pause.
 */
export function useAsk(): { unreachable: boolean; asking: boolean; fresh: boolean; now: () => void } {
  const { id, version } = useStudy();
  const stale = useStale();
  const question = useView((view) => view.question);
  const [unreachable, setUnreachable] = useState(false);
  const [answered, setAnswered] = useState<Sent | null>(null);
  const asking = useMemo(
    () =>
      newestWins(
        async ({ question }: Sent): Promise<Answer | null> => {
          try {
            const { data } = await api.POST("/api/studies/{study_id}/ask", { params: { path: { study_id: id } }, body: question });
            setUnreachable(!data);
            return data ?? null;
          } catch {
            setUnreachable(true);
            return null;
          }
        },
        (answer, sent) => {
          // What was typed since makes this an answer to another question.
          if (!isSame(sent.question, useView.getState().question)) return;
          setAnswered(sent);
          setView({ asked: answer });
        },
      ),
    [id],
  );
  const on = question.given.trim() !== "" || OF_THE_CURVE.includes(question.direction);
  const typed = useView((view) => view.question.given);
  useEffect(() => {
    if (!on) {
      asking.cancel();
      setView({ asked: null });
      return;
    }
    const timer = window.setTimeout(() => asking.ask({ question, version }), typed === "" ? 0 : PAUSE);
    return () => window.clearTimeout(timer);
  }, [asking, question, on, version, typed]);
  useEffect(() => () => setView({ asked: null }), []);
  const fresh = answered !== null && !stale && answered.version === version && isSame(answered.question, question);
  return { unreachable, asking: on, fresh, now: () => on && asking.ask({ question, version }) };
}
