import { MoreHorizontal, Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { Change, Role } from "../api/client";
import { useAnalysisPart, useNaming, useChange, useQueue, useStudy } from "../study/context";
import { type Place, select, setView } from "../study/view";
import { openPicture } from "../picture/openPicture";
import { FileButton } from "./FileButton";
import { chooseSign } from "../ui/chooseSign";
import { Menu } from "../ui/Menu";

type Added = { word: string; role: Role; more?: Partial<Extract<Change, { kind: "add_column" }>> };

interface Props {
  onFind: () => void;
  onGenerate: () => void;
  onCalculate: () => void;
  /** The first cell of a column that is being added. */
  onBegin: (place: Place) => void;
}

/** Open a file, add a column. */
export function TableMenu({ onFind, onGenerate, onCalculate, onBegin }: Props) {
  const study = useStudy();
  const naming = useNaming();
  const repeated = useAnalysisPart((analysis) => analysis.repeated_x);
  const change = useChange();
  const queue = useQueue();
  const held = new Set(study.columns.map((column) => column.role));
  const columns: Added[] = [
    { word: `Uncertainty of ${naming.y}`, role: "y_error" as const, more: { unit: naming.y_unit } },
    { word: `Uncertainty of ${naming.x}`, role: "x_error" as const, more: { unit: naming.x_unit } },
    { word: "Weight", role: "weight" as const },
    { word: "Count of repeats", role: "count" as const },
    { word: "Series", role: "series" as const },
  ].filter(({ role }) => !held.has(role));
  const add = (role: Role, more: Added["more"] = {}) => {
    change({ kind: "add_column", role, ...more });
    onBegin({ row: 0, col: study.columns.length });
  };
  const other = study.decimal_sign === "comma" ? "point" : "comma";
  return (
    <>
      <FileButton
        word="Open file"
        className="button"
        onTable={(incoming) => setView({ incoming })}
        onPicture={(file) => openPicture(queue, file)}
      />
      <Opening word="Column" icon={<Plus size={14} />}>
        <DropdownMenu.Item className="menu-item" onSelect={() => add("other")}>
          Label or other
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={onCalculate}>
          Calculated by a formula
        </DropdownMenu.Item>
        {columns.map(({ word, role, more }) => (
          <DropdownMenu.Item key={role} className="menu-item" onSelect={() => add(role, more)}>
            {word}
          </DropdownMenu.Item>
        ))}
      </Opening>
      <Opening word="More" plain icon={<MoreHorizontal size={14} />}>
        <DropdownMenu.Item className="menu-item" onSelect={onFind}>
          Find a value
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={() => setView({ instrument: true })}>
          Read an instrument
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={onGenerate}>
          Generate readings
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "swap_axes" })}>
          Swap {naming.x} and {naming.y}
        </DropdownMenu.Item>
        <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "remove_empty_rows" })}>
          Remove empty rows
        </DropdownMenu.Item>
        <DropdownMenu.Item
          className="menu-item"
          // Everything that is said has numbers in it: the page is drawn anew. What is not saved is kept by the browser.
          onSelect={() => void chooseSign(other).then((known) => known && window.location.reload())}
        >
          Write numbers with a decimal {other}
        </DropdownMenu.Item>
        {repeated.length > 0 && (
          <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "average_repeats" })}>
            Average rows with the same {naming.x}
          </DropdownMenu.Item>
        )}
        {repeated.length > 0 && (
          <DropdownMenu.Item
            className="menu-item"
            onSelect={() =>
              select({
                row: repeated[0]!,
                col: Math.max(
                  0,
                  study.columns.findIndex((column) => column.role === "x"),
                ),
              })
            }
          >
            Show repeated {naming.x} ({repeated.length} rows)
          </DropdownMenu.Item>
        )}
      </Opening>
    </>
  );
}

/** `plain`: its icon says enough, and the word is for those who cannot see it. */
function Opening({ word, plain, icon, children }: { word: string; plain?: boolean; icon: React.ReactNode; children: React.ReactNode }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className="button">
          {icon} <span className={plain ? "sr-only" : ""}>{word}</span>
        </button>
      </DropdownMenu.Trigger>
      <Menu align="start" side="top" sideOffset={4}>
        {children}
      </Menu>
    </DropdownMenu.Root>
  );
}
