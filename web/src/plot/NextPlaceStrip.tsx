import { useNextPlace } from "../study/useNextPlace";
import { useView } from "../study/view";
import type { Scale } from "./scales";

const HEIGHT = 34;

/** Along the foot of the plot: how much one more reading at each x is worth, as a share of the most; a mark where that is. */
export function NextPlaceStrip({ x, y }: { x: Scale; y: Scale }) {
  const asked = useView((view) => view.measuring !== null);
  return asked && <Strip x={x} y={y} />;
}

function Strip({ x, y }: { x: Scale; y: Scale }) {
  const { found } = useNextPlace();
  const places = found?.x ?? [];
  if (!found || found.problem || !places.length) return null;
  const [floor, top] = y.range();
  const points = places.flatMap((place, i): string[] => {
    const px = x(place);
    return Number.isFinite(px) ? [`${px.toFixed(1)} ${(floor - HEIGHT * (found.worth?.[i] ?? 0)).toFixed(1)}`] : [];
  });
  if (points.length < 2) return null;
  const first = points[0]!.split(" ")[0];
  const last = points[points.length - 1]!.split(" ")[0];
  const best = found.best == null ? NaN : x(found.best);
  return (
    <g
      role="img"
      data-testid="next-place"
      aria-label={`How much one more reading narrows ${found.called ?? ""}, along the x axis`}
      pointerEvents="none"
    >
      <path d={`M${first} ${floor}L${points.join("L")}L${last} ${floor}Z`} fill="var(--color-amber)" fillOpacity={0.28} />
      <path d={`M${points.join("L")}`} fill="none" stroke="var(--color-amber)" strokeWidth={1.4} />
      {Number.isFinite(best) && (
        <>
          <path d={`M${best} ${floor}V${top}`} stroke="var(--color-amber)" strokeDasharray="2 4" />
          <path d={`M${best} ${floor - HEIGHT - 3}l5 -8h-10z`} fill="var(--color-amber)" />
        </>
      )}
    </g>
  );
}
