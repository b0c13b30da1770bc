import { useId } from "react";

import type { Areas } from "../plot/areas";
import type { PlotScales } from "../plot/usePlotScales";
import { useStudy } from "../study/context";
import { usePicture } from "./usePicture";

/** Where the bytes of a study's picture are. */
export const addressOf = (study: string, digest: string) => `/api/studies/${study}/pictures/${digest}`;

/** The picture behind everything else that is drawn. */
export function PictureLayer({ areas, scales: { x, y } }: { areas: Areas; scales: PlotScales }) {
  const { id } = useStudy();
  const found = usePicture(x, y);
  const clip = useId();
  if (!found) return null;
  const { laid } = found.picture;
  return (
    <svg
      width={areas.width}
      height={areas.height}
      viewBox={`0 0 ${areas.width} ${areas.height}`}
      className="pointer-events-none absolute inset-0 block"
      data-testid="picture"
    >
      <clipPath id={clip}>
        <rect x={areas.left} y={areas.top} width={areas.right - areas.left} height={areas.floor - areas.top} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        <image
          href={addressOf(id, laid.digest)}
          width={laid.width}
          height={laid.height}
          transform={`matrix(${found.matrix.join(" ")})`}
          opacity={laid.shine}
          preserveAspectRatio="none"
          role="img"
          aria-label={laid.description || "Picture under the plot, not described"}
        />
      </g>
    </svg>
  );
}
