import {
  ArrowDown,
  ArrowUp,
  ClipboardCopy,
  Copy,
  Crosshair,
  Ellipsis,
  Eye,
  EyeOff,
  Hand,
  ListOrdered,
  Pencil,
  Ruler,
  X,
} from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { Fit } from "../api/client";
import { useAnalysisPart, useChange } from "../study/context";
import { followWorkings, measureFor } from "../study/view";
import { tabbed } from "../ui/CopyTable";
import { copyText } from "./copy";
import { latexTable } from "./latexTable";
import { parameterCells } from "./Parameters";
import { MOST_FITS } from "../fits/catalogue";
import { type FittedFit } from "../fits/kinds";
import { Menu } from "../ui/Menu";

interface Props {
  fit: Fit;
  place: number;
  onRename: () => void;
  onRange: () => void;
}

/** What can be done with a fit as a whole. */
export function FitMenu({ fit, place, onRename, onRange }: Props) {
  const change = useChange();
  const count = useAnalysisPart((analysis) => analysis.fits.length);
  const { letter } = fit;
  const item = "menu-item";
  // Also one that has no curve yet can be set by hand.
  const movable = fit.family !== "interpolation" && fit.kind !== "known" && !fit.by_hand;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className="icon-button no-print" aria-label={`More for fit ${letter}`}>
          <Ellipsis size={16} />
        </button>
      </DropdownMenu.Trigger>
      <Menu>
        {movable && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "set_fit", letter, by_hand: true })}>
            <Hand size={15} /> Set by hand
          </DropdownMenu.Item>
        )}
        {fit.kind === "fit" && fit.parameters.length > 0 && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "set_fit", letter, by_hand: true, values: free(fit) })}>
            <Hand size={15} /> Set by hand, from the fitted values
          </DropdownMenu.Item>
        )}
        {fit.by_hand && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "set_fit", letter, by_hand: false })}>
            <Ruler size={15} /> Fit by least squares
          </DropdownMenu.Item>
        )}
        {fit.started && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "set_fit", letter, values: {} })}>
            <Ruler size={15} /> Search without the given values
          </DropdownMenu.Item>
        )}
        <DropdownMenu.Item className={item} onSelect={onRange}>
          <Ruler size={15} /> Fit part of the range
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={() => followWorkings(letter)}>
          <ListOrdered size={15} /> Show the workings
        </DropdownMenu.Item>
        {fit.kind === "fit" && <Rivals letter={letter} />}
        <DropdownMenu.Item className={item} onSelect={onRename}>
          <Pencil size={15} /> Rename
        </DropdownMenu.Item>
        {fit.kind === "fit" && fit.parameters.length > 0 && (
          <>
            <DropdownMenu.Item className={item} onSelect={() => void copyText(tabbed(parameterCells(fit)), "Parameters")}>
              <ClipboardCopy size={15} /> Copy the parameters as a table
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className={item}
              onSelect={() => void copyText(tabbed(parameterCells(fit, true)), "Parameters with all digits")}
            >
              <ClipboardCopy size={15} /> Copy the parameters with all digits
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void copyText(latexTable(parameterCells(fit)), "Parameters in LaTeX")}>
              <ClipboardCopy size={15} /> Copy the parameters as LaTeX
            </DropdownMenu.Item>
          </>
        )}
        <DropdownMenu.Item className={item} disabled={count >= MOST_FITS} onSelect={() => change({ kind: "duplicate_fit", letter })}>
          <Copy size={15} /> Duplicate
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={() => change({ kind: "set_fit", letter, hidden: !fit.hidden })}>
          {fit.hidden ? <Eye size={15} /> : <EyeOff size={15} />} {fit.hidden ? "Show on the plot" : "Hide on the plot"}
        </DropdownMenu.Item>
        {place > 0 && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "move_fit", letter, to: place - 1 })}>
            <ArrowUp size={15} /> {place === 1 ? "Move up (leading fit)" : "Move up"}
          </DropdownMenu.Item>
        )}
        {place < count - 1 && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "move_fit", letter, to: place + 1 })}>
            <ArrowDown size={15} /> Move down
          </DropdownMenu.Item>
        )}
        {count > 1 && (
          <DropdownMenu.Item className={item} onSelect={() => change({ kind: "remove_fit", letter })}>
            <X size={15} /> Remove
          </DropdownMenu.Item>
        )}
      </Menu>
    </DropdownMenu.Root>
  );
}

/** Where one more reading tells this fit from another one. */
function Rivals({ letter }: { letter: string }) {
  const fitted = useAnalysisPart((analysis) => analysis.fits.flatMap((one) => (one.kind === "fit" ? [one.letter] : [])).join(""));
  return [...fitted]
    .filter((other) => other !== letter)
    .map((other) => (
      <DropdownMenu.Item key={other} className="menu-item" onSelect={() => measureFor(`apart:${letter}:${other}`)}>
        <Crosshair size={15} /> Where a reading separates it from {other}
      </DropdownMenu.Item>
    ));
}

const free = (fit: FittedFit) => Object.fromEntries(fit.parameters.filter((one) => !one.fixed).map((one) => [one.name, one.number]));
