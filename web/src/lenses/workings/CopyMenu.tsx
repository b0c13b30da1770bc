import { Copy } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { WorkingStep } from "../../api/client";
import { copyText } from "../../page/copy";
import { Menu } from "../../ui/Menu";
import { mathmlOf } from "../../ui/Typeset";

interface Props {
  /** Step or Working, in the message that says what was copied. */
  what: string;
  label: string;
  className?: string;
  text: string;
  latex: string;
  sentence?: string;
  equations: string[];
}

/** A step or a whole working for the clipboard: as text, LaTeX or MathML. */
export function CopyMenu({ what, label, className = "", text, latex, sentence, equations }: Props) {
  const mathml = () =>
    void Promise.all(equations.map(mathmlOf)).then((parts) =>
      copyText([sentence, ...parts].filter(Boolean).join("\n"), `${what} as MathML`),
    );
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className={`icon-button ${className}`} aria-label={label}>
          <Copy size={14} />
        </button>
      </DropdownMenu.Trigger>
      <Menu>
        <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(text, `${what} as text`)}>
          Copy as text
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(latex, `${what} as LaTeX`)}>
          Copy as LaTeX
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={mathml}>
          Copy as MathML
        </DropdownMenu.Item>
      </Menu>
    </DropdownMenu.Root>
  );
}

/** The typeset parts of a step: its lines and its table or matrix. */
export function equationsOf(step: WorkingStep): string[] {
  return [...step.lines.map((line) => line.latex), ...(step.grid ? [step.grid.latex] : [])];
}
