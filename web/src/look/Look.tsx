import { useQuery } from "@tanstack/react-query";

import { api } from "../api/client";
import { must } from "../api/must";
import { Bench } from "../bench/Bench";
import { NotOpened } from "../ui/NotOpened";

/** A study that somebody else shows by a link. */
export function Look({ token }: { token: string }) {
  const shown = useQuery({
    queryKey: ["look", token],
    retry: false,
    queryFn: () => must(api.POST("/api/look", { body: { token } })),
  });
  if (shown.data) return <Bench id={shown.data.study} looking />;
  return <NotOpened title="Nothing is shown by this link" problem={shown.error?.message ?? null} onAgain={() => void shown.refetch()} />;
}
