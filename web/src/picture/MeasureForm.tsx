import { useQuery } from "@tanstack/react-query";

import { api, messageOf, type Picture } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { setView, useView } from "../study/view";
import { PANEL } from "./panel";

/** What is being measured, and its size; kept on the picture where that is wanted. */
export function MeasureForm({ picture }: { picture: Picture }) {
  const spanned = useView((view) => view.spanned);
  const tool = useView((view) => view.tool);
  const change = useChange();
  const { id, version } = useStudy();
  const there = tool === "measure" && spanned.length >= 2;
  const { data } = useQuery({
    queryKey: ["measured", id, version, spanned],
    enabled: there,
    queryFn: async () => {
      const params = { path: { study_id: id } };
      const { data, error } = await api.POST("/api/studies/{study_id}/measured", { params, body: { points: spanned } });
      return data ? data.text || data.problem : messageOf(error);
    },
  });
  if (!there) return null;
  const keep = () => {
    const measured = [...(picture.laid.measured ?? []), { points: spanned, name: "" }];
    change({ kind: "put_picture", picture: { ...picture.laid, measured } });
    setView({ spanned: [] });
  };
  return (
    <div role="group" aria-label="Measured on the picture" className={PANEL}>
      <span role="status">
        {spanned.length === 2 ? "Length" : "Angle"} <strong className="numerals font-semibold">{data ?? "…"}</strong>
      </span>
      <button className="button-main" onClick={keep}>
        Keep
      </button>
      <button className="button" onClick={() => setView({ spanned: [] })}>
        Cancel
      </button>
    </div>
  );
}
