import { useEffect, useMemo, useState } from "react";

import { api, type FollowedLine, messageOf } from "../api/client";
import { firstFreeRow } from "../plot/moving";
import { useQueue, useStudy } from "../study/context";
import { newestWins } from "../study/newest";
import { setView, take, type Tracing, useView } from "../study/view";
import type { Scale } from "../plot/scales";
import { WholeNumber } from "../ui/WholeNumber";
import { PANEL } from "./panel";
import { useOnPicture } from "./useOnPicture";

const BESIDE = 4;
const [LEAST_BESIDE, MOST_BESIDE] = [4, 12];

interface Asked {
  start: Tracing["start"];
  stop: Tracing["stop"];
  count: number;
  near: number;
}

/** A line that was pressed on is followed by the server; the newest press wins. */
function useFollowing(near: number) {
  const { id } = useStudy();
  const tracing = useView((view) => view.tracing);
  const asking = useMemo(
    () =>
      newestWins(
        async (body: Asked) => {
          const params = { path: { study_id: id } };
          const { data, error } = await api.POST("/api/studies/{study_id}/line", { params, body });
          return data ? { found: data, problem: "" } : { found: null, problem: messageOf(error) };
        },
        (answer) => setView((view) => (view.tracing ? { tracing: { ...view.tracing, ...answer } } : {})),
      ),
    [id],
  );
  const [start, stop, count] = [tracing?.start, tracing?.stop ?? null, tracing?.count];
  useEffect(() => {
    if (start && count) asking.ask({ start, stop, count, near });
  }, [asking, start, stop, count, near]);
  useEffect(() => () => asking.cancel(), [asking]);
  return tracing;
}

/** The picks along a followed line, before they are taken: how many, and why it ends where it does. */
export function LineForm({ x, y }: { x: Scale; y: Scale }) {
  const { pixel } = useOnPicture(x, y);
  // A hand is no surer than some pixels of the drawing, of which a small picture has many of its own in each.
  const tracing = useFollowing(Math.min(Math.max(BESIDE / pixel, LEAST_BESIDE), MOST_BESIDE));
  const queue = useQueue();
  const tool = useView((view) => view.tool);
  const [asked, ask] = useState<Tracing["start"] | null>(null);
  if (!tracing || tool !== "line") return null;
  // A border between two shades may be anything: no reading comes of it unless it is asked for.
  const ready = tracing.found && (tracing.found.kind === "line" || asked === tracing.start);
  const keep = (found: FollowedLine) => {
    const { study } = queue.read();
    const keys = ["x", "y"].map((role) => study.columns.find((column) => column.role === role)!.key);
    const row = firstFreeRow(study);
    const cells = found.cells.flatMap((texts, i) => texts.map((text, axis) => ({ row: row + i, key: keys[axis]!, text })));
    queue.change({ kind: "write_cells", cells, what: "add" });
    take("look");
  };
  return (
    <form
      aria-label="Line in the picture"
      className={PANEL}
      onSubmit={(event) => {
        event.preventDefault();
        if (tracing.found && ready) keep(tracing.found);
      }}
    >
      <WholeNumber
        label="Lay"
        after="picks along the line"
        name="Picks along the line"
        value={tracing.count}
        low={5}
        high={200}
        onPut={(count) => setView({ tracing: { ...tracing, count } })}
      />
      <div role="status" className="grid min-w-40 grow gap-0.5 text-note text-mute">
        {tracing.problem && <p className="text-amber">{tracing.problem}</p>}
        {!tracing.problem && !tracing.found && <p>Following…</p>}
        {tracing.found && (
          <>
            {tracing.found.kind === "line" ? (
              <p>A line of one colour.</p>
            ) : (
              <>
                <p>No line here, but a border between two shades.</p>
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={asked === tracing.start}
                    onChange={(event) => ask(event.target.checked ? tracing.start : null)}
                  />
                  Follow the border
                </label>
              </>
            )}
            {[...new Set(tracing.found.ends)].map((end) => (
              <p key={end}>{end}</p>
            ))}
            {!tracing.stop && <p>Press again where it is to stop.</p>}
          </>
        )}
      </div>
      <div className="ml-auto flex gap-1.5">
        <button type="button" className="button" onClick={() => setView({ tracing: null })}>
          Cancel
        </button>
        <button className="button-main" aria-disabled={!ready}>
          Add {tracing.found?.pixels.length ?? tracing.count} readings
        </button>
      </div>
    </form>
  );
}
