import { Copy, Eye } from "lucide-react";

import { api } from "../api/client";
import { must } from "../api/must";
import { navigate } from "../route";
import { useStudy } from "../study/context";
import { Mark } from "../ui/Mark";
import { notify } from "../ui/Notices";
import { HandIn } from "./HandIn";

/** Above a study that is shown by a link: what it is, and how to get a copy of one's own. */
export function LookBar() {
  const { id, title } = useStudy();
  const copy = async () => {
    try {
      const made = await must(
        api.POST("/api/studies/{study_id}/duplicate", { params: { path: { study_id: id } }, body: { request_key: crypto.randomUUID() } }),
      );
      notify("This copy is yours: it lies on your shelf.");
      navigate(`/study/${made.id}`);
    } catch (problem) {
      notify(problem instanceof Error ? problem.message : "No copy could be made.");
    }
  };
  return (
    <header className="no-print flex h-[46px] shrink-0 items-center gap-2 bg-bar px-3 text-on-bar">
      <span className="px-1 py-1">
        <Mark />
      </span>
      <span className="mx-1 hidden h-5 w-px bg-on-bar/25 sm:block" />
      <h1 className="min-w-0 truncate text-plain max-sm:sr-only">{title}</h1>
      <span className="ml-1 flex items-center gap-1.5 text-plain whitespace-nowrap text-on-bar/75">
        <Eye size={14} /> <span className="max-md:sr-only">Shown to you: to look at, ask and copy</span>
      </span>
      <span className="grow" />
      <HandIn />
      <button className="button-main" onClick={() => void copy()}>
        <Copy size={15} /> <span className="max-sm:sr-only">Take a copy</span>
      </button>
    </header>
  );
}
