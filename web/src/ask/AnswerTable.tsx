import type { Answer } from "../api/client";
import { lookOf } from "../fits/looks";

type Row = NonNullable<Answer["rows"]>[number];

/** Several results of one question, one a row. */
export function AnswerTable({ rows, looking }: { rows: Row[]; looking: boolean }) {
  const lettered = new Set(rows.map((row) => row.letter)).size > 1;
  const asked = rows.some((row) => row.asked) && (!looking || new Set(rows.map((row) => row.asked)).size > 1);
  const intervals = rows.some((row) => row.curve || row.new);
  const cell = "px-2 py-0.5";
  return (
    <table className="numerals w-full text-plain">
      <caption className="sr-only">Results, one a row</caption>
      <thead>
        <tr className="border-b border-rule text-left text-note text-mute">
          {lettered && (
            <th scope="col" className={`${cell} font-normal`}>
              fit
            </th>
          )}
          {asked && (
            <th scope="col" className={`${cell} font-normal`}>
              at
            </th>
          )}
          <th scope="col" className={`${cell} font-normal`}>
            value
          </th>
          {intervals && !looking && (
            <th scope="col" className={`${cell} font-normal`}>
              confidence interval, curve
            </th>
          )}
          {intervals && (
            <th scope="col" className={`${cell} font-normal`}>
              {looking ? "limits" : "prediction interval, new reading"}
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i} className="border-b border-rule/60 align-top">
            {lettered && (
              <th scope="row" className={`${cell} text-left font-semibold`} style={{ color: lookOf(row.letter).color }}>
                {row.letter}
              </th>
            )}
            {asked && <td className={`${cell} whitespace-nowrap`}>{row.asked}</td>}
            <td className={cell}>
              {row.problem ? <span className="text-amber">{row.problem}</span> : row.result}
              {row.place && <span className="ml-1.5 text-amber">{row.extrapolation || row.place}</span>}
            </td>
            {intervals && !looking && <td className={`${cell} whitespace-nowrap`}>{row.curve}</td>}
            {intervals && <td className={cell}>{row.new}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The same as cells. */
export const cellsOf = (rows: Row[]) => [
  ["fit", "at", "value", "confidence interval, curve", "prediction interval, new reading", "position"],
  ...rows.map((row) => [row.letter, row.asked, row.problem || row.result, row.curve ?? "", row.new ?? "", row.place ?? ""]),
];
