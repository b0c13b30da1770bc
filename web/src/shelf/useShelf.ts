import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, type Card, messageOf, type TakeTable } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";
import { offerSign } from "../ui/chooseSign";
import { setDecimalSign } from "../ui/decimalSign";
import { notify } from "../ui/Notices";

/** What is answered to a request that makes something: its key lets an answer that was lost on the way be asked for once more. */
async function sure<T>(request: (key: string) => Promise<{ data?: T; error?: unknown }>): Promise<T> {
  const key = crypto.randomUUID();
  return must(request(key).catch(() => request(key)));
}

async function read() {
  const shelf = await must(api.GET("/api/shelf"));
  setDecimalSign(shelf.decimal_sign);
  return shelf;
}

/** The shelf and what can be done on it. */
export function useShelf() {
  const queries = useQueryClient();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: read, staleTime: 0 });
  const again = () => queries.invalidateQueries({ queryKey: ["shelf"] });
  const failed = (error: Error) => notify(error.message);
  const path = (card: Card) => ({ params: { path: { study_id: card.id } } });

  const create = useMutation({
    mutationFn: (body: { title?: string; sample?: string; table?: TakeTable; apart?: boolean }) =>
      sure((request_key) => api.POST("/api/studies", { body: { ...body, request_key } })),
    onSuccess: (card) => {
      offerSign(card.offered_sign);
      navigate(`/study/${card.id}`);
    },
    onError: failed,
  });
  const rename = useMutation({
    mutationFn: async ({ card, title }: { card: Card; title: string }) => {
      const study = await must(api.GET("/api/studies/{study_id}", path(card)));
      return must(
        api.POST("/api/studies/{study_id}/changes", {
          ...path(card),
          body: { version: study.version, change: { kind: "edit_study", title } },
        }),
      );
    },
    onSuccess: again,
    onError: failed,
  });
  const duplicate = useMutation({
    mutationFn: (card: Card) =>
      sure((request_key) => api.POST("/api/studies/{study_id}/duplicate", { ...path(card), body: { request_key } })),
    onSuccess: again,
    onError: failed,
  });
  const restore = useMutation({
    mutationFn: (card: Card) => must(api.POST("/api/studies/{study_id}/restore", path(card))),
    onSuccess: again,
    onError: failed,
  });
  const remove = useMutation({
    mutationFn: (card: Card) => must(api.DELETE("/api/studies/{study_id}", path(card))),
    onSuccess: (_, card) => {
      void again();
      notify(`“${card.title}” is in the bin.`, { label: "Restore", run: () => restore.mutate(card) });
    },
    onError: failed,
  });
  const emptyBin = useMutation({
    mutationFn: async () => {
      const { error } = await api.DELETE("/api/bin");
      if (error) throw new Error(messageOf(error));
    },
    onSuccess: again,
    onError: failed,
  });
  return { shelf, create, rename, duplicate, restore, remove, emptyBin };
}
