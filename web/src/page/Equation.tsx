import { Copy } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { ComputedFit } from "../fits/kinds";
import { Sideways } from "../ui/Sideways";
import { mathmlOf, Typeset } from "../ui/Typeset";
import { copyText } from "./copy";
import { Rounding } from "./Rounding";

/** The equation in rounded numbers, with a way to copy it in numbers that are safe to use. */
export function Equation({ fit }: { fit: ComputedFit }) {
  const text = fit.equation_text;
  const latex = fit.equation_latex;
  const safe = { text: fit.safe_text, latex: fit.safe_latex };
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <Sideways label={`Equation of ${fit.letter}`} className="py-1">
          <Typeset latex={latex} text={text} className={`numerals font-book ${text.length > 34 ? "text-body" : "text-lead"}`} />
        </Sideways>
        <span className="no-print flex items-center gap-1">
          {fit.kind === "fit" && fit.rounding && <Rounding fit={fit} />}
          <DropdownMenu.Root modal={false}>
            <DropdownMenu.Trigger asChild>
              <button className="icon-button" aria-label="Copy the equation">
                <Copy size={15} />
              </button>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content align="end" className="floating p-1">
                <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(safe.text, "Equation as text")}>
                  Copy as text
                </DropdownMenu.Item>
                <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(safe.latex, "Equation as LaTeX")}>
                  Copy as LaTeX
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className="menu-item"
                  onSelect={() => void mathmlOf(safe.latex).then((mathml) => copyText(mathml, "Equation as MathML"))}
                >
                  Copy as MathML
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
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
