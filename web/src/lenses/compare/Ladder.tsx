import type { Comparison } from "../../api/client";
import { polyline } from "../../plot/path";
import { LOG, makeScale } from "../../plot/scales";
import { ticksOf } from "../../plot/ticks";

const WIDTH = 560;
const HEIGHT = 190;
const AREA = { left: 56, right: 504, top: 12, bottom: 150 };

/** Why R² alone always prefers more parameters: polynomials of rising degree on these readings. */
export function Ladder({ rungs, sentence }: { rungs: Comparison["ladder"]; sentence: string }) {
  const errors = rungs.flatMap((rung) => (rung.error === null ? [] : [rung.error]));
  const shares = rungs.flatMap((rung) => (rung.r_squared === null ? [] : [rung.r_squared]));
  // A degree that runs wild must not press the others flat: the errors stand on a logarithmic axis.
  const positive = errors.filter((error) => error > 0);
  const [least, most] = positive.length ? [Math.min(...positive), Math.max(...positive)] : [0.1, 1];
  const x = makeScale([0.5, rungs.length + 0.5], [AREA.left, AREA.right]);
  const e = makeScale([least / 1.25, most * 1.25], [AREA.bottom, AREA.top], LOG);
  const lowest = Math.min(...shares, 0.999);
  const s = makeScale([lowest - (1 - lowest) * 0.1, 1 + (1 - lowest) * 0.06], [AREA.bottom, AREA.top]);
  const errorPoints = rungs.flatMap((rung): [number, number][] =>
    rung.error === null ? [] : [[x(rung.degree), rung.error > 0 ? e(rung.error) : AREA.bottom]],
  );
  const sharePoints = rungs.flatMap((rung): [number, number][] => (rung.r_squared === null ? [] : [[x(rung.degree), s(rung.r_squared)]]));
  return (
    <figure className="border border-rule bg-sheet px-2.5 py-2">
      <figcaption>
        <h2 className="text-note font-semibold text-mute">Why R² cannot choose: polynomials by degree</h2>
        <p className="mt-0.5 font-book text-plain leading-snug">{sentence}</p>
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full max-w-[46rem]"
        role="img"
        aria-label={`R² and leave-one-out error of polynomials of degree 1 to ${rungs.length}. ${sentence}`}
      >
        <g fontSize="var(--text-note)" fill="var(--color-mute)">
          {ticksOf(e, 4).map(({ key, at, text }) => (
            <g key={key}>
              <line x1={AREA.left} x2={AREA.right} y1={at} y2={at} stroke="var(--color-rule)" strokeWidth="0.6" />
              <text x={AREA.left - 6} y={at} dy="0.34em" textAnchor="end" fill="var(--color-copper)">
                {text}
              </text>
            </g>
          ))}
          {ticksOf(s, 4).map(({ key, at, text }) => (
            <text key={key} x={AREA.right + 6} y={at} dy="0.34em" fill="var(--color-iris)">
              {text}
            </text>
          ))}
          {rungs.map((rung) => (
            <text key={rung.degree} x={x(rung.degree)} y={AREA.bottom + 16} textAnchor="middle">
              {rung.degree}
            </text>
          ))}
          <text x={(AREA.left + AREA.right) / 2} y={HEIGHT - 6} textAnchor="middle" fill="var(--color-ink)">
            degree
          </text>
          <text transform={`translate(12 ${(AREA.top + AREA.bottom) / 2}) rotate(-90)`} textAnchor="middle" fill="var(--color-copper)">
            leave-one-out error
          </text>
          <text
            transform={`translate(${WIDTH - 6} ${(AREA.top + AREA.bottom) / 2}) rotate(-90)`}
            textAnchor="middle"
            fill="var(--color-iris)"
          >
            R²
          </text>
        </g>
        <path d={`M${AREA.left} ${AREA.top}V${AREA.bottom}H${AREA.right}V${AREA.top}`} fill="none" stroke="var(--color-edge)" />
        <path d={polyline(sharePoints)} fill="none" stroke="var(--color-iris)" strokeWidth="1.8" strokeDasharray="6 4" />
        {sharePoints.map(([px, py]) => (
          <rect
            key={px}
            x={px - 3.4}
            y={py - 3.4}
            width="6.8"
            height="6.8"
            fill="var(--color-sheet)"
            stroke="var(--color-iris)"
            strokeWidth="1.6"
          />
        ))}
        <path d={polyline(errorPoints)} fill="none" stroke="var(--color-copper)" strokeWidth="1.8" />
        {errorPoints.map(([px, py]) => (
          <circle key={px} cx={px} cy={py} r="3.8" fill="var(--color-copper)" />
        ))}
      </svg>
      <LadderTable rungs={rungs} />
    </figure>
  );
}

/** The same for those who hear it. */
function LadderTable({ rungs }: { rungs: Comparison["ladder"] }) {
  return (
    <div className="sr-only">
      <table>
        <caption>Polynomials by degree</caption>
        <thead>
          <tr>
            <th scope="col">degree</th>
            <th scope="col">R²</th>
            <th scope="col">leave-one-out error</th>
          </tr>
        </thead>
        <tbody>
          {rungs.map((rung) => (
            <tr key={rung.degree}>
              <th scope="row">{rung.degree}</th>
              <td>{rung.r_squared_text}</td>
              <td>{rung.error_text}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
