import { useEffect, useMemo, useState } from "react";

import { api, type ColumnLook } from "../api/client";
import { useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { whenHandIsUp } from "../ui/handUp";

interface Asked {
  key: string;
  name: string;
  symbol: string;
  unit: string;
  uncertainty: string;
  formula: string;
}

const lookAt = async (study: string, body: Asked) =>
  (await api.POST("/api/studies/{study_id}/column", { params: { path: { study_id: study } }, body })).data ?? null;

/**
 * What is wrong with the settings of a column as they are typed, and what its formula gives; the newest text wins.
 * `checked` gives what is said of what stands there now, also when that is asked before the answer has come; null where
 * nobody can be asked.
 */
export function useColumnLook({ key, name, symbol, unit, uncertainty, formula }: Asked): {
  look: ColumnLook | null;
  checked: () => Promise<ColumnLook | null>;
} {
  const { id, version } = useStudy();
  const [held, setHeld] = useState<{ look: ColumnLook; asked: Asked } | null>(null);
  const asking = useMemo(
    () =>
      newestWins(
        (body: Asked) => lookAt(id, body),
        (look, asked) => look && whenHandIsUp(() => setHeld({ look, asked })),
      ),
    [id],
  );
  useEffect(() => {
    asking.ask({ key, name, symbol, unit, uncertainty, formula });
  }, [asking, key, name, symbol, unit, uncertainty, formula, version]);
  useEffect(() => () => asking.cancel(), [asking]);
  const body = { key, name, symbol, unit, uncertainty, formula };
  const asked = held?.asked;
  const current = asked !== undefined && asked.symbol === symbol && asked.uncertainty === uncertainty && asked.formula === formula;
  const checked = async () => (current ? held!.look : await lookAt(id, body).catch(() => null));
  return { look: held?.look ?? null, checked };
}
