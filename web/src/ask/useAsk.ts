import { useEffect, useMemo, useState } from "react";

import { api, type Answer, type Direction } from "../api/client";
import { useStudy } from "../study/context";
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

/** The question in the ask line answered as it is typed, and again with every version of the study. */
export function useAsk(): { unreachable: boolean; asking: boolean } {
  const { id, version } = useStudy();
  const question = useView((view) => view.question);
  const [unreachable, setUnreachable] = useState(false);
  const asking = useMemo(
    () =>
      newestWins(
        async (body: Question): Promise<Answer | null> => {
          try {
            const { data } = await api.POST("/api/studies/{study_id}/ask", { params: { path: { study_id: id } }, body });
            setUnreachable(!data);
            return data ?? null;
          } catch {
            setUnreachable(true);
            return null;
          }
        },
        (answer) => setView({ asked: answer }),
      ),
    [id],
  );
  const on = question.given.trim() !== "" || OF_THE_CURVE.includes(question.direction);
  useEffect(() => {
    if (on) asking.ask(question);
    else {
      asking.cancel();
      setView({ asked: null });
    }
  }, [asking, question, on, version]);
  useEffect(() => () => setView({ asked: null }), []);
  return { unreachable, asking: on };
}
