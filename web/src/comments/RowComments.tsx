import { useLooking, useStudy } from "../study/context";
import { litRows, useView } from "../study/view";
import { CommentsOn } from "./CommentsOn";

/** What is said of the chosen reading. */
export function RowComments() {
  const looking = useLooking();
  const { row_count } = useStudy();
  const lit = litRows(useView((view) => view.selection));
  if (!lit || lit[0] !== lit[1] || lit[0] >= row_count) {
    return looking ? <p className="flex min-h-[28px] items-center text-note text-mute">Select a reading to comment on it.</p> : null;
  }
  return <CommentsOn about={`row:${lit[0]}`} place={`Row ${lit[0] + 1}`} word={`Comment on row ${lit[0] + 1}`} />;
}
