import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { type Comment, api } from "../api/client";
import { must } from "../api/must";
import { done } from "../api/done";
import { useLooking, useStudy } from "../study/context";

/** Milliseconds after which it is asked whether there are new ones. */
const AGAIN = 20_000;

/** What others said of this study, or what whoever looks at it said. */
export function useComments(): Comment[] {
  const { id } = useStudy();
  const { data } = useQuery({
    queryKey: ["comments", id],
    staleTime: AGAIN,
    refetchInterval: AGAIN,
    refetchOnWindowFocus: true,
    queryFn: () => must(api.GET("/api/studies/{study_id}/comments", { params: { path: { study_id: id } } })),
  });
  return data ?? NONE;
}

const NONE: Comment[] = [];

type Said = { about: string; place: string; author: string; text: string };

/** Leaving, answering and clearing them. */
export function useCommenting() {
  const { id } = useStudy();
  const looking = useLooking();
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: ["comments", id] });
  const of = (comment_id: number) => ({ params: { path: { study_id: id, comment_id } } });
  const leave = useMutation({
    mutationFn: (body: Said) => must(api.POST("/api/studies/{study_id}/comments", { params: { path: { study_id: id } }, body })),
    onSuccess,
  });
  const answer = useMutation({
    mutationFn: ({ comment, text }: { comment: number; text: string }) =>
      must(api.PUT("/api/studies/{study_id}/comments/{comment_id}", { ...of(comment), body: { text } })),
    onSuccess,
  });
  const clear = useMutation({
    mutationFn: (comment: number) => done(api.DELETE("/api/studies/{study_id}/comments/{comment_id}", of(comment))),
    onSuccess,
  });
  return { looking, leave, answer, clear };
}
