import { Copy } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import { copyText } from "../page/copy";
import { latexTable } from "../page/latexTable";
import { Menu } from "./Menu";

/** A table for the clipboard: for a spreadsheet, or in LaTeX. `rows`: its cells as they are shown, the first row its heading; `full`: the same with all digits. */
export function CopyTable({ label, what, rows, full }: { label: string; what: string; rows: () => string[][]; full?: () => string[][] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className="icon-button no-print" aria-label={label}>
          <Copy size={15} />
        </button>
      </DropdownMenu.Trigger>
      <Menu>
        <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(tabbed(rows()), what)}>
          Copy as a table
        </DropdownMenu.Item>
        {full && (
          <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(tabbed(full()), `${what} with all digits`)}>
            Copy with all digits
          </DropdownMenu.Item>
        )}
        <DropdownMenu.Item className="menu-item" onSelect={() => void copyText(latexTable(rows()), `${what} in LaTeX`)}>
          Copy as LaTeX
        </DropdownMenu.Item>
      </Menu>
    </DropdownMenu.Root>
  );
}

/** Cells as a spreadsheet takes them. */
export const tabbed = (rows: string[][]) => rows.map((cells) => cells.join("\t")).join("\n");
