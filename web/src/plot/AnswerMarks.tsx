import type { Answer } from "../api/client";
import type { Scale } from "./scales";

/** Drop lines from axis to curve to axis, with a diamond where they meet; the asked one carries its number. */
export function AnswerMarks({ answers, asked, x, y }: { answers: Answer[]; asked: Answer | null; x: Scale; y: Scale }) {
  const kept = answers.filter((answer) => answer.mark && !(asked?.mark && same(answer, asked)));
  return (
    <>
      {kept.map((answer) => (
        <Drop key={answer.key} answer={answer} x={x} y={y} faint={kept.length > 6} />
      ))}
      {asked?.mark && <Drop answer={asked} x={x} y={y} pill />}
    </>
  );
}

const same = (a: Answer, b: Answer) => a.mark?.x === b.mark?.x && a.mark?.y === b.mark?.y;

function Drop({ answer, x, y, faint, pill }: { answer: Answer; x: Scale; y: Scale; faint?: boolean; pill?: boolean }) {
  const mark = answer.mark!;
  const px = x(mark.x);
  const py = y(mark.y);
  const [left] = x.range() as [number, number];
  const [bottom] = y.range() as [number, number];
  const limits =
    answer.direction === "y_at_x"
      ? mark.y_low != null && mark.y_high != null && `M${px} ${y(mark.y_low)}V${y(mark.y_high)}`
      : mark.x_low != null && mark.x_high != null && `M${x(mark.x_low)} ${py}H${x(mark.x_high)}`;
  const given = answer.asked.split(",")[0]!;
  const width = given.length * 6.6 + 14;
  return (
    <g data-testid={pill ? "drop-asked" : "drop-kept"}>
      {!faint && <path d={`M${left} ${py}H${px}V${bottom}`} fill="none" stroke="var(--color-ink)" strokeWidth={pill ? 1.2 : 0.8} strokeDasharray="4 3" />}
      {limits && <path d={limits} stroke="var(--color-pine)" strokeWidth="5" opacity="0.4" />}
      <path d={`M${px} ${py - 6.5}l6.5 6.5l-6.5 6.5l-6.5 -6.5z`} fill="var(--color-lichen)" stroke="var(--color-ink)" strokeWidth="1.2" />
      {pill && (
        <g transform={answer.direction === "y_at_x" ? `translate(${px - width / 2} ${bottom - 24})` : `translate(${left + 4} ${py - 10})`}>
          <rect width={width} height="20" rx="4" fill="var(--color-bar)" />
          <text x={width / 2} y="14" textAnchor="middle" fontSize="12" fill="var(--color-on-bar)">
            {given}
          </text>
        </g>
      )}
    </g>
  );
}
