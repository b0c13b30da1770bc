import { Copy } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { Fit } from "../api/client";
import { Term } from "../ui/Hint";
import { Typeset } from "../ui/Typeset";
import { copyText } from "./copy";

/** The equation in rounded numbers that are still safe to use, with a way to copy it. */
export function Equation({ fit }: { fit: Fit }) {
  const text = fit.equation_text ?? "";
  const latex = fit.equation_latex ?? "";
  return (
    <div className="flex items-center justify-between gap-2">
      <Typeset latex={latex} text={text} className={`numerals overflow-x-auto py-1 font-book ${text.length > 34 ? "text-[15px]" : "text-[17px]"}`} />
      <span className="no-print flex items-center gap-1">
        <Term word={<span className="text-[12px] text-mute">rounding</span>} meaning={fit.rounding} />
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger asChild>
            <button className="icon-button" aria-label="Copy the equation">
              <Copy size={15} />
            </button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" className="floating p-1">
              <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(text, "Equation as text")}>
                Copy as text
              </DropdownMenu.Item>
              <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(latex, "Equation as LaTeX")}>
                Copy as LaTeX
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </span>
    </div>
  );
}
