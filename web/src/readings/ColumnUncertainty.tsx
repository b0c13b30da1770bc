import type { ColumnLook } from "../api/client";
import { inSign } from "../ui/decimalSign";
import { ColumnField } from "./ColumnField";

const WAYS = [
  ["0.5", "a standard uncertainty"],
  ["2 %", "per cent of each value"],
  ["±0.5", "limits of a scale"],
  ["half a digit", "limits of a display"],
  ["0.5 (k = 2)", "expanded, with its factor"],
  ["0.5; ±0.2", "parts, in quadrature"],
  ["0.5; 0.2 shared", "with a zero that all readings share"],
  ["0.5; 1 % shared", "with a scale factor that all share"],
] as const;

/** What is typed for a calculated column that has its uncertainty from its sources. */
const CARRIED = "carried";

interface Props {
  id: string;
  text: string;
  calculated: boolean;
  look: ColumnLook | null;
  onText: (text: string) => void;
  onFocus: () => void;
}

/** The uncertainty of each value of a column as it was given, what it comes to, and that which its sources give it. */
export function ColumnUncertainty({ id, text, calculated, look, onText, onFocus }: Props) {
  const { carried, not_carried } = look?.formula ?? {};
  const taken = text.trim().toLowerCase() === CARRIED;
  return (
    <div className="grid gap-1">
      <ColumnField
        id={id}
        label="Uncertainty"
        text={text}
        placeholder={calculated ? CARRIED : inSign("0.5, ±0.5 or 2 %")}
        limit={80}
        onText={onText}
        onFocus={onFocus}
      />
      {look?.uncertainty_problem ? (
        <p role="alert" className="text-plain text-amber">
          {look.uncertainty_problem}
        </p>
      ) : (
        text.trim() && look?.uncertainty_used && <p className="text-note text-mute">{look.uncertainty_used}</p>
      )}
      {calculated && carried && (
        <p className="text-note">
          {carried}{" "}
          {!taken && (
            <button type="button" className="underline" onClick={() => onText(CARRIED)}>
              Use it
            </button>
          )}
        </p>
      )}
      {calculated && not_carried && taken && <p className="text-note text-amber">{not_carried}</p>}
      <details className="text-note text-mute">
        <summary className="w-fit cursor-pointer rounded-(--radius)">Ways to write it</summary>
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
          {WAYS.map(([written, means]) => (
            <div key={written} className="contents">
              <dt className="numerals">
                <button type="button" className="underline" onClick={() => onText(inSign(written))}>
                  {inSign(written)}
                </button>
              </dt>
              <dd>{means}</dd>
            </div>
          ))}
        </dl>
      </details>
    </div>
  );
}
