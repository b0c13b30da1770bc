import { useQuery } from "@tanstack/react-query";

import { api } from "../api/client";
import { must } from "../api/must";
import { Bench } from "../bench/Bench";
import { navigate } from "../route";

/** A study that somebody else shows by a link. */
export function Look({ token }: { token: string }) {
  const shown = useQuery({
    queryKey: ["look", token],
    retry: false,
    queryFn: () => must(api.POST("/api/look", { body: { token } })),
  });
  if (shown.data) return <Bench id={shown.data.study} looking />;
  return (
    <main className="grid h-full place-content-center gap-3 p-6 text-center">
      {shown.error ? (
        <>
          <h1 className="font-book text-title font-semibold">Nothing is shown by this link</h1>
          <p role="alert">{shown.error.message}</p>
          <p className="flex justify-center gap-2">
            <button className="button-main" onClick={() => void shown.refetch()}>
              Try again
            </button>
            <button className="button" onClick={() => navigate("/")}>
              Go to the shelf
            </button>
          </p>
        </>
      ) : (
        <p className="text-mute">Opening…</p>
      )}
    </main>
  );
}
