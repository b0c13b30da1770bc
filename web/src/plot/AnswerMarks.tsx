import type { Answer } from "../api/client";
import type { Scale } from "./scales";

interface Props {
  answers: Answer[];
  asked: Answer | null;
  /** Keys of the answers whose rows are chosen. */
  lit: string[];
  x: Scale;
  y: Scale;
}

/** Drop lines from axis to curve to axis, with a diamond where they meet; the asked one carries its number. */
export function AnswerMarks({ answers, asked, lit, x, y }: Props) {
  const kept = answers.filter((answer) => answer.mark && !(asked?.mark && same(answer, asked)));
  return (
    <>
      {kept.map((answer) => (
        <Drop key={answer.key} answer={answer} x={x} y={y} faint={kept.length > 6} lit={lit.includes(answer.key)} />
      ))}
      {asked?.mark && <Drop answer={asked} x={x} y={y} pill />}
    </>
  );
}

const same = (a: Answer, b: Answer) => a.mark?.x === b.mark?.x && a.mark?.y === b.mark?.y;

function Drop({ answer, x, y, faint, pill, lit }: { answer: Answer; x: Scale; y: Scale; faint?: boolean; pill?: boolean; lit?: boolean }) {
  const mark = answer.mark!;
  const px = x(mark.x);
  const py = y(mark.y);
  if (!Number.isFinite(px) || !Number.isFinite(py)) return null;
  const [left, right] = x.range();
  const [bottom] = y.range();
  const limits =
    answer.direction === "y_at_x"
      ? mark.y_low != null && mark.y_high != null && `M${px} ${y(mark.y_low)}V${y(mark.y_high)}`
      : mark.x_low != null && mark.x_high != null && `M${x(mark.x_low)} ${py}H${x(mark.x_high)}`;
  const size = lit ? 9.5 : 6.5;
  const given = answer.asked.split(",")[0]!;
  const width = given.length * 6.6 + 14;
  const pillX = Math.min(Math.max(px - width / 2, left + 2), right - width - 2);
  return (
    <g data-testid={pill ? "drop-asked" : "drop-kept"}>
      {!faint && <path d={`M${left} ${py}H${px}V${bottom}`} fill="none" stroke="var(--color-ink)" strokeWidth={pill ? 1.2 : 0.8} strokeDasharray="4 3" />}
      {limits && <path d={limits} stroke="var(--color-pine)" strokeWidth="5" opacity="0.4" />}
      <path d={`M${px} ${py - size}l${size} ${size}l${-size} ${size}l${-size} ${-size}z`} fill="var(--color-lichen)" stroke="var(--color-ink)" strokeWidth={lit ? 2.2 : 1.2} />
      {pill && (
        <g transform={answer.direction === "y_at_x" ? `translate(${pillX} ${bottom - 24})` : `translate(${left + 4} ${py - 10})`}>
          <rect width={width} height="20" rx="4" fill="var(--color-bar)" />
          <text x={width / 2} y="14" textAnchor="middle" fontSize="12" fill="var(--color-on-bar)">
            {given}
          </text>
        </g>
      )}
    </g>
  );
}
