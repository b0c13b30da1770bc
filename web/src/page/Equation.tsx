import type { ComputedFit } from "../fits/kinds";
import { useLooking } from "../study/context";
import { Sideways } from "../ui/Sideways";
import { Typeset } from "../ui/Typeset";
import { EquationMenu } from "./EquationMenu";
import { useInLetters } from "./inLetters";
import { Rounding } from "./Rounding";

/** The equation in rounded numbers, in letters too when wished; what is copied has numbers that are safe to use. */
export function Equation({ fit }: { fit: ComputedFit }) {
  const looking = useLooking();
  const inLetters = useInLetters() && fit.kind !== "known";
  const long = Math.max(fit.equation_text.length, inLetters ? fit.form_text.length : 0) > 34;
  const size = `numerals font-book ${long ? "text-plain" : "text-lead"}`;
  return (
    <>
      {inLetters && (
        <div className="flex flex-wrap items-center justify-between gap-x-2">
          <Sideways label={`Equation of ${fit.letter} in letters`} className="max-w-full py-1">
            <Typeset latex={fit.form_latex} text={fit.form_text} className={size} />
          </Sideways>
          <span className="no-print ml-auto">
            <EquationMenu letter={fit.letter} text={fit.form_text} latex={fit.form_latex} letters />
          </span>
        </div>
      )}
      <div className="flex flex-wrap items-center justify-between gap-x-2">
        <Sideways label={`Equation of ${fit.letter}`} className="max-w-full py-1">
          <Typeset latex={fit.equation_latex} text={fit.equation_text} className={size} />
        </Sideways>
        <span className="no-print ml-auto flex items-center gap-1">
          {fit.kind === "fit" && fit.rounding && !looking && <Rounding fit={fit} />}
          <EquationMenu letter={fit.letter} text={fit.safe_text} latex={fit.safe_latex} letters={false} />
        </span>
      </div>
      {fit.kind === "fit" && fit.rounding_cost && (
        <p role="status" className="rounded bg-amber-well px-2 py-0.5 text-plain text-amber">
          {fit.rounding_cost}
        </p>
      )}
    </>
  );
}
