import type { Curve } from "../../api/client";
import { pathOf } from "../../plot/path";
import { makeScale } from "../../plot/scales";
import { useAnalysis } from "../../study/context";
import { STATUS } from "../../study/status";
import { useWithout } from "../../study/useWithout";
import { curveOf } from "../../fits/kinds";

const WIDTH = 330;
const HEIGHT = 150;
const MOST_MARKS = 600;

/** The curve, and as a ghost the curve without the reading that is pointed at or chosen. */
export function WithoutPlot({ letter, row, color }: { letter: string; row: number | null; color: string }) {
  const analysis = useAnalysis();
  const found = useWithout(letter, row);
  const curve = curveOf(analysis.fits.find((one) => one.letter === letter));
  const { view } = analysis;
  const x = makeScale([view.x.low, view.x.high], [8, WIDTH - 8]);
  const y = makeScale([view.y.low, view.y.high], [HEIGHT - 8, 8]);
  const every = Math.max(1, Math.ceil(analysis.x.length / MOST_MARKS));
  const path = (curve: Curve) => pathOf(curve.x, curve.y, x, y);
  return (
    <figure className="border border-rule bg-sheet">
      <figcaption className="px-2.5 pt-1.5 text-note font-semibold text-mute">Without one reading</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={found?.sentence ?? "The curve fitted to all readings"}
      >
        {curve && <path d={path(curve)} fill="none" stroke={color} strokeWidth="1.8" />}
        {analysis.status.map((status, at) =>
          status !== STATUS.used || (at % every !== 0 && at !== row) ? null : (
            <circle
              key={at}
              cx={x(analysis.x[at]!)}
              cy={y(analysis.y[at]!)}
              r={at === row ? 5 : 2.4}
              fill={at === row ? "var(--color-sheet)" : "var(--color-ink)"}
              stroke="var(--color-ink)"
              strokeWidth={at === row ? 1.6 : 0}
            />
          ),
        )}
        {found?.curve && (
          <path data-testid="ghost" d={path(found.curve)} fill="none" stroke="var(--color-ink)" strokeWidth="1.6" strokeDasharray="3 4" />
        )}
      </svg>
      <p className="px-2.5 pb-2 font-book text-plain leading-snug" role="status">
        {found?.sentence ?? <span className="text-mute">Point at a row of the table below, or choose a reading.</span>}
      </p>
    </figure>
  );
}
