import { useQuery } from "@tanstack/react-query";

import { api, messageOf } from "../api/client";
import { later } from "../ui/later";
import { NotOpened } from "../ui/NotOpened";

const OPENING = <p className="grid h-full place-content-center p-6 text-center text-mute">Opening…</p>;
const OpenBench = later(() => import("./OpenBench").then((one) => one.OpenBench), OPENING);

/** A study: readings on the left, the plot in the middle, the page on the right; tabs where there is no room. `looking`: it is somebody else's, shown by a link. */
export function Bench({ id, looking = false }: { id: string; looking?: boolean }) {
  const opened = useQuery({
    queryKey: ["opened", id],
    gcTime: 0,
    queryFn: async () => {
      const { data, error } = await api.GET("/api/studies/{study_id}", { params: { path: { study_id: id } } });
      if (!data) throw new Error(messageOf(error));
      return data;
    },
  });
  if (opened.data) return <OpenBench study={opened.data} looking={looking} />;
  const problem = opened.error && (opened.error.message === "Failed to fetch" ? "The server cannot be reached." : opened.error.message);
  return <NotOpened title="This study could not be opened" problem={problem} onAgain={() => void opened.refetch()} />;
}
