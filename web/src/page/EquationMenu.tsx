import { Copy } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import { useStudy } from "../study/context";
import { notify } from "../ui/Notices";
import { saveFile, whySaving } from "../ui/saveFile";
import { mathmlOf } from "../ui/Typeset";
import { copyPicture, copyText } from "./copy";
import { setInLetters, useInLetters } from "./inLetters";
import { Menu } from "../ui/Menu";

interface Props {
  letter: string;
  text: string;
  latex: string;
  /** Whether it has letters for its parameters. */
  letters: boolean;
}

/** An equation to take along: copied as text, LaTeX, MathML or a picture, or saved as a picture of its own. */
export function EquationMenu({ letter, text, latex, letters }: Props) {
  const { id } = useStudy();
  const shown = useInLetters();
  const picture = (kind: "svg" | "png") => `/api/studies/${id}/fits/${letter}/equation.${kind}?in_letters=${letters}`;
  const save = (kind: "svg" | "png") => saveFile(picture(kind)).catch((problem: unknown) => notify(whySaving(problem)));
  const ways: [string, () => void][] = [
    ["Copy as text", () => void copyText(text, "Equation as text")],
    ["Copy as LaTeX", () => void copyText(latex, "Equation as LaTeX")],
    ["Copy as MathML", () => void mathmlOf(latex).then((mathml) => copyText(mathml, "Equation as MathML"))],
    ["Copy as a picture", () => void copyPicture(picture("png"), "Equation")],
    ["Save as SVG", () => void save("svg")],
    ["Save as PNG", () => void save("png")],
  ];
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className="icon-button" aria-label={letters ? "Copy the equation in letters" : "Copy the equation"}>
          <Copy size={15} />
        </button>
      </DropdownMenu.Trigger>
      <Menu>
        {ways.map(([label, run]) => (
          <DropdownMenu.Item key={label} className="menu-item" onSelect={run}>
            {label}
          </DropdownMenu.Item>
        ))}
        <DropdownMenu.Item className="menu-item border-t border-rule" onSelect={() => setInLetters(!shown)}>
          {shown ? "Show it in numbers only" : "Show it in letters too"}
        </DropdownMenu.Item>
      </Menu>
    </DropdownMenu.Root>
  );
}
