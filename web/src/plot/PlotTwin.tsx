import { memo } from "react";

import { curveOf, isDrawn } from "../fits/kinds";
import { useCalmAnalysis, useNaming, useStudy } from "../study/context";
import { isDrawnRow } from "../study/status";
import { inSign } from "../ui/decimalSign";
import { sixDigits } from "../ui/numbers";

const MOST_ROWS = 200;
const PLACES = 11;

/** The plot for those who hear it: what it shows in a sentence, and its readings, curve and answers as tables. Not while a hand moves. */
export const PlotTwin = memo(function PlotTwin() {
  const { columns } = useStudy();
  const naming = useNaming();
  const { status, fits, answers, measured } = useCalmAnalysis();
  const [x, y] = ["x", "y"].map((role) => columns.find((column) => column.role === role)?.cells ?? []);
  const rows = status.flatMap((own, row) => (isDrawnRow(own) ? [row] : []));
  const fit = fits.find(isDrawn);
  const curve = fit && curveOf(fit);
  const step = curve ? Math.max(1, Math.floor((curve.x.length - 1) / (PLACES - 1))) : 1;
  const of = (symbol: string, over: string) => (over ? `${symbol} / ${over}` : symbol);
  const [xHead, yHead] = [of(naming.x, naming.x_over), of(naming.y, naming.y_over)];
  const range = measured
    ? ` from ${naming.x} = ${inSign(String(sixDigits(measured.low)))} to ${inSign(String(sixDigits(measured.high)))}`
    : "";
  return (
    <section aria-label="The plot in words and tables" className="sr-only">
      <p>
        {rows.length} readings of {naming.y_name || naming.y} against {naming.x_name || naming.x}
        {range}
        {fit ? `, with fit ${fit.letter}, ${fit.name}.` : ", without a curve."}
      </p>
      <Twin caption={`Readings${rows.length > MOST_ROWS ? `, the first ${MOST_ROWS}` : ""}`} heads={["row", xHead, yHead]}>
        {rows.slice(0, MOST_ROWS).map((row) => [String(row + 1), x?.[row] ?? "", y?.[row] ?? ""])}
      </Twin>
      {curve && (
        <Twin caption={`Curve of fit ${fit.letter}`} heads={[xHead, yHead]}>
          {curve.x.flatMap((at, i): string[][] =>
            i % step === 0 && curve.y[i] != null ? [[inSign(String(sixDigits(at))), inSign(String(sixDigits(curve.y[i])))]] : [],
          )}
        </Twin>
      )}
      {answers.length > 0 && (
        <Twin caption="Answers" heads={["asked", "answer"]}>
          {answers.map(({ asked, result, problem }) => [asked, problem || result || ""])}
        </Twin>
      )}
    </section>
  );
});

function Twin({ caption, heads, children }: { caption: string; heads: string[]; children: string[][] }) {
  return (
    <table>
      <caption>{caption}</caption>
      <thead>
        <tr>
          {heads.map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {children.map((cells, row) => (
          <tr key={row}>
            {cells.map((cell, i) => (
              <td key={i}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
