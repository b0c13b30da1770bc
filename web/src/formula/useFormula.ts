import { useEffect, useMemo, useState } from "react";

import { api, type FormulaLook, type KnownName } from "../api/client";
import { useStudy } from "../study/context";
import { newestWins } from "../study/newest";

let names: KnownName[] | null = null;

/** What a formula may use; asked for once. */
export function useKnownNames(wanted: boolean): KnownName[] {
  const [found, setFound] = useState(names ?? []);
  useEffect(() => {
    if (!wanted || names) return;
    void api.GET("/api/formula_names").then(({ data }) => {
      if (data) setFound((names = data));
    });
  }, [wanted]);
  return found;
}

interface Asked {
  letter: string;
  text: string;
  degrees: boolean;
  part: number | null;
}

/** What the formula reads as while it is typed: the newest text wins, and typing never waits. `good`: the last that could be read. */
export function useFormula(asked: Asked): { look: FormulaLook | null; good: { latex: string; text: string } } {
  const { id, version } = useStudy();
  const [look, setLook] = useState<FormulaLook | null>(null);
  const [good, setGood] = useState({ latex: "", text: "" });
  const asking = useMemo(
    () =>
      newestWins(
        async (body: Asked) =>
          (await api.POST("/api/studies/{study_id}/formula", { params: { path: { study_id: id } }, body })).data ?? null,
        (found, { text }) => {
          if (!found) return;
          setLook(found);
          if (found.latex) setGood({ latex: found.latex, text });
        },
      ),
    [id],
  );
  const { letter, text, degrees, part } = asked;
  useEffect(() => {
    asking.ask({ letter, text, degrees, part });
  }, [asking, letter, text, degrees, part, version]);
  useEffect(() => () => asking.cancel(), [asking]);
  return { look, good };
}
