import { useEffect, useMemo, useState } from "react";

import { api, type ColumnLook } from "../api/client";
import { useStudy } from "../study/context";
import { newestWins } from "../study/newest";

interface Asked {
  key: string;
  name: string;
  symbol: string;
  uncertainty: string;
  formula: string;
}

/** What is wrong with the settings of a column as they are typed, and what its formula gives; the newest text wins. */
export function useColumnLook({ key, name, symbol, uncertainty, formula }: Asked): ColumnLook | null {
  const { id, version } = useStudy();
  const [look, setLook] = useState<ColumnLook | null>(null);
  const asking = useMemo(
    () =>
      newestWins(
        async (body: Asked) => (await api.POST("/api/studies/{study_id}/column", { params: { path: { study_id: id } }, body })).data ?? null,
        (found) => found && setLook(found),
      ),
    [id],
  );
  useEffect(() => {
    asking.ask({ key, name, symbol, uncertainty, formula });
  }, [asking, key, name, symbol, uncertainty, formula, version]);
  useEffect(() => () => asking.cancel(), [asking]);
  return look;
}
