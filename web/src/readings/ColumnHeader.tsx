import { Popover } from "radix-ui";
import { type ReactNode, useId, useRef, useState } from "react";

import type { Role } from "../api/client";
import type { HeldColumn } from "../study/changes";
import { useChange } from "../study/context";

export const ROLES: { role: Role; word: string }[] = [
  { role: "x", word: "x" },
  { role: "y", word: "y" },
  { role: "y_error", word: "uncertainty of y" },
  { role: "x_error", word: "uncertainty of x" },
  { role: "weight", word: "weight" },
  { role: "other", word: "label or other" },
];
const SIGNS = ["°", "²", "³", "⁻¹", "µ", "Ω", "·", "±", "Δ", "λ", "ω"];
const NAMELESS: Record<string, string> = { x: "x column", y: "y column", y_error: "uncertainty", x_error: "uncertainty", weight: "weight", other: "label" };
/** What stands for a column without a symbol. */
const SHORT: Record<string, ReactNode> = { x: <Symbol text="x" />, y: <Symbol text="y" />, y_error: "±", x_error: "±" };

/** A column's symbol, unit and name; pressing it opens them for change. */
export function ColumnHeader({ column }: { column: HeldColumn }) {
  const change = useChange();
  const [open, setOpen] = useState(false);
  const id = useId();
  const lastField = useRef<"name" | "symbol" | "unit">("unit");
  const [draft, setDraft] = useState({ name: column.name, symbol: column.symbol, unit: column.unit, role: column.role as Role });

  const show = (next: boolean) => {
    if (next) setDraft({ name: column.name, symbol: column.symbol, unit: column.unit, role: column.role as Role });
    setOpen(next);
  };
  const keep = () => {
    setOpen(false);
    const changed = Object.fromEntries(
      (["name", "symbol", "unit", "role"] as const).filter((key) => draft[key].trim() !== column[key]).map((key) => [key, draft[key].trim()]),
    );
    if (Object.keys(changed).length) change({ kind: "edit_column", key: column.key, ...changed });
  };
  const word = ROLES.find(({ role }) => role === column.role)?.word ?? column.role;
  const field = (name: "name" | "symbol" | "unit", label: string, placeholder: string, limit: number) => (
    <label className="flex items-center justify-between gap-3">
      <span className="text-mute">{label}</span>
      <input
        id={`${id}-${name}`}
        className={`field w-44 ${name === "symbol" ? "font-book italic" : ""}`}
        value={draft[name]}
        placeholder={placeholder}
        maxLength={limit}
        onFocus={() => (lastField.current = name)}
        onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
      />
    </label>
  );
  return (
    <span role="columnheader" className="border-l border-rule/70">
      <Popover.Root open={open} onOpenChange={show}>
        <Popover.Trigger asChild>
          <button
            aria-label={`Column ${column.name || column.symbol || word}, ${word}: change name, symbol, unit or role`}
            className="block size-full px-2 py-1 text-right leading-tight hover:bg-well"
          >
            <span className="block truncate">
              {column.symbol ? <Symbol text={column.symbol} /> : <span className="text-mute">{SHORT[column.role]}</span>}
              {column.unit && <span> / {column.unit}</span>}
              {!column.symbol && !column.unit && " "}
            </span>
            <span className="block truncate text-[11px] text-mute">{column.name || NAMELESS[column.role]}</span>
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="floating w-72" aria-label={`Column ${column.name || word}`}>
            <form
              className="grid gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                keep();
              }}
            >
              {field("name", "Name", "depth", 100)}
              {field("symbol", "Symbol", "h", 20)}
              {field("unit", "Unit", "m", 40)}
              <div className="flex flex-wrap justify-end gap-1" role="group" aria-label="Insert a sign">
                {SIGNS.map((sign) => (
                  <button
                    key={sign}
                    type="button"
                    className="grid h-6 min-w-6 place-content-center rounded border border-rule px-1 hover:border-edge"
                    onClick={() => {
                      const name = lastField.current;
                      setDraft({ ...draft, [name]: draft[name] + sign });
                      document.getElementById(`${id}-${name}`)?.focus();
                    }}
                  >
                    {sign}
                  </button>
                ))}
              </div>
              <label className="flex items-center justify-between gap-3">
                <span className="text-mute">Used as</span>
                <select className="field w-44" value={draft.role} onChange={(event) => setDraft({ ...draft, role: event.target.value as Role })}>
                  {ROLES.map(({ role, word }) => (
                    <option key={role} value={role}>
                      {word}
                    </option>
                  ))}
                </select>
              </label>
              <div className="mt-1 flex justify-between">
                {column.role === "x" || column.role === "y" ? (
                  <span />
                ) : (
                  <button
                    type="button"
                    className="button"
                    onClick={() => {
                      setOpen(false);
                      change({ kind: "remove_column", key: column.key });
                    }}
                  >
                    Remove column
                  </button>
                )}
                <button className="button-main">Keep</button>
              </div>
            </form>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  );
}

/** A symbol in italics of the book face; what follows an underscore stands lower. */
export function Symbol({ text }: { text: string }) {
  const [head, ...tail] = text.split("_");
  return (
    <span className="font-book italic">
      {head}
      {tail.length > 0 && <sub className="text-[0.75em]">{tail.join("_")}</sub>}
    </span>
  );
}
