import { useState } from "react";

import { copyPicture } from "../page/copy";
import { useStudy } from "../study/context";
import { useView } from "../study/view";
import { SaveLink } from "../ui/SaveLink";
import { Select, type Words } from "../ui/Select";

const PICTURES = ["png", "jpg", "tiff"];
const FORMATS: Words<string> = [
  ["svg", "SVG, for documents and the web"],
  ["pdf", "PDF"],
  ["eps", "EPS"],
  ["png", "PNG picture"],
  ["jpg", "JPEG picture"],
  ["tiff", "TIFF picture"],
];
const UNDER: Words<string> = [
  ["shown", "with the picture, where it is shown"],
  ["without", "without the picture"],
  ["alone", "the picture alone, with readings and marks"],
];
const DOTS = ["150", "300", "600"].map((dots) => [dots, `${dots} dpi`] as const);
const [NARROWEST, WIDEST] = [40, 420];

/** The figure as it is seen now: its format, its width, and whether it does without colours. */
export function FigureForm({ id }: { id: string }) {
  const [kind, setKind] = useState("svg");
  const [width, setWidth] = useState("170");
  const [resolution, setResolution] = useState("300");
  const [grey, setGrey] = useState(false);
  const { picture } = useStudy();
  const [under, setUnder] = useState("shown");
  const wide = Number(width.replace(",", "."));
  const wrong = !(wide >= NARROWEST && wide <= WIDEST);
  const query = useQuery({ width: String(wide), resolution, grey: String(grey), ...(picture && { picture: under }) });
  return (
    <>
      <Select aria-label="Format of the figure" value={kind} words={FORMATS} onPick={setKind} />
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <label className="flex items-center gap-1.5">
          width
          <input
            className="field numerals w-16 text-right"
            inputMode="decimal"
            aria-label="Width in millimetres"
            aria-invalid={wrong}
            value={width}
            onChange={(event) => setWidth(event.target.value)}
          />
          mm
        </label>
        {PICTURES.includes(kind) && <Select aria-label="Resolution" value={resolution} words={DOTS} onPick={setResolution} />}
      </div>
      {wrong && (
        <p role="alert" className="text-plain text-amber">
          The width has to be between {NARROWEST} and {WIDEST} mm.
        </p>
      )}
      <label className="flex items-center gap-2">
        <input type="checkbox" className="accent-(--color-pine)" checked={grey} onChange={(event) => setGrey(event.target.checked)} />
        black and white, distinguished by dashes
      </label>
      {picture && <Select aria-label="Picture under the plot" value={under} words={UNDER} onPick={setUnder} />}
      {!wrong && (
        <div className="flex flex-wrap gap-1.5">
          <SaveLink className="button" href={`/api/studies/${id}/figure.${kind}?${query}`}>
            Export the figure
          </SaveLink>
          <button className="button" onClick={() => void copyPicture(`/api/studies/${id}/figure.png?${query}`, "Figure")}>
            Copy as a picture
          </button>
        </div>
      )}
    </>
  );
}

/** What is chosen, together with what the plot shows at the moment. */
function useQuery(chosen: Record<string, string>): string {
  const seen = useView((view) => view.seen);
  const query = new URLSearchParams(chosen);
  if (seen) {
    query.set("x_low", String(seen.x[0]));
    query.set("x_high", String(seen.x[1]));
    query.set("y_low", String(seen.y[0]));
    query.set("y_high", String(seen.y[1]));
    if (seen.aspect) query.set("aspect", String(Math.min(Math.max(seen.aspect, 0.3), 2)));
  }
  return query.toString();
}
