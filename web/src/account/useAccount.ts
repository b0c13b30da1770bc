import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { type Account, api } from "../api/client";
import { must } from "../api/must";

/** Who is here: a guest, or somebody with an account. */
export function useAccount(): Account | null {
  const { data } = useQuery({ queryKey: ["account"], staleTime: 0, queryFn: () => must(api.GET("/api/account")) });
  return data ?? null;
}

/** Something that is done about the account: afterwards nothing that was known of it, or of the shelf, holds any more. */
export function useAct<Given, Told>(act: (given: Given) => Promise<Told>, onDone?: (told: Told) => void) {
  const queries = useQueryClient();
  return useMutation<Told, Error, Given>({
    mutationFn: act,
    onSuccess: async (told) => {
      onDone?.(told);
      await queries.invalidateQueries();
    },
  });
}
