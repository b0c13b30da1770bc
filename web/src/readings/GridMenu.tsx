import { ContextMenu } from "radix-ui";
import type { ReactNode } from "react";

import { useChange, useLooking, useStudy } from "../study/context";
import { isLit, litColumns, litRows } from "../study/view";
import { notify } from "../ui/Notices";
import { useMain } from "../ui/useMain";
import { cellAt } from "./cellAt";
import type { GridControl } from "./useGrid";

/** What can be done with the cells under the pointer, by the right button, a long press or the menu key. */
export function GridMenu({ grid, children }: { grid: GridControl; children: ReactNode }) {
  const study = useStudy();
  const change = useChange();
  const main = useMain();
  const looking = useLooking();
  const column = study.columns[grid.active.col];
  const lit = litRows(grid.selection) ?? [grid.active.row, grid.active.row];
  const rows = lit[1] > lit[0] ? `rows ${lit[0] + 1} to ${lit[1] + 1}` : `row ${lit[0] + 1}`;
  const there = lit[0] < study.row_count;
  const aside = new Set(study.aside.map(({ row }) => row));
  const allAside =
    there &&
    Array.from({ length: Math.min(lit[1], study.row_count - 1) - lit[0] + 1 }, (_, i) => lit[0] + i).every((row) => aside.has(row));
  const sort = (descending: boolean) => change({ kind: "sort_rows", key: column!.key, descending });
  const paste = () =>
    void navigator.clipboard
      .readText()
      .then(grid.paste, () => notify("Press Ctrl+V: the browser does not let this menu read the clipboard."));

  /** A press outside the selected block chooses the cell under it. */
  function aim(event: { target: EventTarget }) {
    const cell = cellAt(event.target);
    if (!cell) return;
    const { row, col } = cell;
    const [left, right] = grid.selection ? litColumns(grid.selection) : [-1, -1];
    if (!isLit(litRows(grid.selection), row) || col < left || col > right) {
      grid.finish(true);
      grid.go({ row, col });
    }
  }

  if (looking) return children;
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger asChild onContextMenu={aim}>
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal container={main}>
        <ContextMenu.Content
          className="floating min-w-52 p-1"
          collisionPadding={8}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            grid.refocus();
          }}
        >
          <Item word="Cut" keys="Ctrl+X" onSelect={() => void grid.copy(true)} />
          <Item word="Copy" keys="Ctrl+C" onSelect={() => void grid.copy(false)} />
          <Item word="Paste" keys="Ctrl+V" onSelect={paste} />
          <Item word="Clear" keys="Delete" onSelect={grid.clear} />
          <Item word="Fill down" keys="Ctrl+D" onSelect={grid.fillDown} />
          <ContextMenu.Separator className="my-1 border-t border-rule" />
          <Item
            word={`Insert ${lit[1] > lit[0] ? `${lit[1] - lit[0] + 1} rows` : "a row"} above`}
            keys="Insert"
            onSelect={grid.insertRows}
          />
          {there && <Item word={`Delete ${rows}`} keys="Ctrl+Delete" onSelect={grid.deleteRows} />}
          {there && <Item word={allAside ? `Use ${rows} again` : `Set ${rows} aside`} keys="Ctrl+." onSelect={grid.toggleAside} />}
          {column && !column.formula && (
            <>
              <ContextMenu.Separator className="my-1 border-t border-rule" />
              <Item word={`Sort by ${column.name || column.symbol || "this column"}, smallest first`} onSelect={() => sort(false)} />
              <Item word="Largest first" onSelect={() => sort(true)} />
              {column.role === "other" && (
                <Item
                  word={`Average rows with the same ${column.name || column.symbol || "text here"}`}
                  onSelect={() => change({ kind: "average_repeats", by: column.key })}
                />
              )}
            </>
          )}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

function Item({ word, keys, onSelect }: { word: string; keys?: string; onSelect: () => void }) {
  return (
    <ContextMenu.Item className="menu-item justify-between" onSelect={onSelect}>
      <span className="max-w-64 truncate">{word}</span>
      {keys && <span className="text-note opacity-70">{keys}</span>}
    </ContextMenu.Item>
  );
}
