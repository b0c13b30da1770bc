import type { Working } from "../../api/client";
import { lookOf } from "../../fits/looks";
import { makeScale, type Scale } from "../../plot/scales";
import { Ticks } from "../../plot/small/Ticks";
import { spread } from "../residuals/spread";

type Path = NonNullable<Working["path"]>;

const WIDTH = 420;
const HEIGHT = 230;
const AREA = { left: 58, right: 410, top: 12, bottom: 190 };

/** The curves of a path closing in on the readings, and its sum of squares falling. */
export function PathPlot({ path, letter, x, y }: { path: Path; letter: string; x: string; y: string }) {
  return (
    <div className="grid gap-2.5 [grid-template-columns:repeat(auto-fit,minmax(min(100%,13rem),1fr))]">
      <Curves path={path} letter={letter} x={x} y={y} />
      <Falling path={path} />
    </div>
  );
}

function Curves({ path, letter, x, y }: { path: Path; letter: string; x: string; y: string }) {
  const across = makeScale(spread(path.readings_x), [AREA.left, AREA.right]);
  const up = makeScale(spread(path.readings_y), [AREA.bottom, AREA.top]);
  const { color } = lookOf(letter);
  const line = (curve: (number | null)[]) => {
    let drawn = "";
    let pen = "M";
    curve.forEach((value, place) => {
      if (value === null) {
        pen = "M";
        return;
      }
      drawn += `${pen}${across(path.x[place]!).toFixed(1)},${Math.max(-500, Math.min(900, up(value))).toFixed(1)}`;
      pen = "L";
    });
    return drawn;
  };
  return (
    <figure className="border border-rule bg-sheet">
      <figcaption className="px-2.5 pt-1.5 text-note font-semibold text-mute">The curves of the path, the last one strong</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`${y} against ${x}: ${path.curves.length} curves of the path and the readings`}
      >
        <Frame across={across} up={up} x={x} y={y} />
        <clipPath id="path-area">
          <rect x={AREA.left} y={AREA.top} width={AREA.right - AREA.left} height={AREA.bottom - AREA.top} />
        </clipPath>
        <g clipPath="url(#path-area)">
          {path.curves.map((curve, place) => (
            <path
              key={path.steps[place]}
              d={line(curve)}
              fill="none"
              stroke={color}
              strokeWidth={place === path.curves.length - 1 ? 2.2 : 1.1}
              opacity={place === path.curves.length - 1 ? 1 : 0.25 + (0.5 * place) / path.curves.length}
            />
          ))}
          {path.readings_x.map((value, place) => (
            <circle key={place} cx={across(value)} cy={up(path.readings_y[place]!)} r="2.6" fill="var(--color-ink)" />
          ))}
        </g>
      </svg>
    </figure>
  );
}

/** The logarithm of the total at each step. */
function Falling({ path }: { path: Path }) {
  const logs = path.totals.map((total) => Math.log10(Math.max(total, Number.MIN_VALUE)));
  const across = makeScale([0, Math.max(1, logs.length - 1)], [AREA.left, AREA.right]);
  const up = makeScale(spread(logs), [AREA.bottom, AREA.top]);
  return (
    <figure className="border border-rule bg-sheet">
      <figcaption className="px-2.5 pt-1.5 text-note font-semibold text-mute">RSS at each step (its logarithm)</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`RSS falls from ${path.totals_text[0]} to ${path.totals_text[path.totals_text.length - 1]}`}
      >
        <Frame across={across} up={up} x="step" y="log₁₀ RSS" />
        <polyline
          points={logs.map((value, place) => `${across(place).toFixed(1)},${up(value).toFixed(1)}`).join(" ")}
          fill="none"
          stroke="var(--color-pine)"
          strokeWidth="1.6"
        />
        {logs.map((value, place) => (
          <circle key={place} cx={across(place)} cy={up(value)} r="3" fill="var(--color-pine)">
            <title>{`step ${place}: RSS = ${path.totals_text[place]}`}</title>
          </circle>
        ))}
      </svg>
    </figure>
  );
}

function Frame({ across, up, x, y }: { across: Scale; up: Scale; x: string; y: string }) {
  return (
    <g className="numerals fill-mute text-lead">
      <Ticks x={across} y={up} area={AREA} count={{ x: 6, y: 5 }} base={AREA.bottom + 16} />
      <text x={AREA.right} y={HEIGHT - 6} textAnchor="end">
        {x}
      </text>
      <text x={AREA.left} y={AREA.top + 2} dx="4">
        {y}
      </text>
    </g>
  );
}
