import type { Understood } from "../api/client";
import { Choice } from "../ui/Choice";
import type { Choices } from "./taken";

const SEPARATORS = { tab: "tab", semicolon: "semicolon", comma: "comma", bar: "bar |", spaces: "space" } as const;
const DECIMALS = { point: "point (1.5)", comma: "comma (1,5)" } as const;
const ORDERS = { day: "day, month", month: "month, day" } as const;
const SIDES = { columns: "columns", lines: "lines" } as const;
const FIRST_HEADINGS = 12;

/** How a table is cut and read, with the reason; each of it can be chosen otherwise. */
export function HowRead({ found, choices, onChoose }: { found: Understood; choices: Choices; onChoose: (chosen: Choices) => void }) {
  const reasons = [found.separator.why, found.decimal.why].filter(Boolean).join("; ");
  return (
    <div className="grid gap-1">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        {found.tables.length > 1 && (
          <Choice
            label="Table"
            value={String(found.table)}
            words={Object.fromEntries(found.tables.map(({ first, last }, place) => [String(place), `lines ${first} to ${last}`]))}
            onChange={(table) => onChoose({ table: Number(table) })}
          />
        )}
        <Choice
          label="Separator"
          value={found.separator.value as keyof typeof SEPARATORS}
          words={SEPARATORS}
          onChange={(separator) => onChoose({ separator })}
        />
        <Choice
          label="Decimal separator"
          value={found.decimal.value as keyof typeof DECIMALS}
          words={DECIMALS}
          onChange={(decimal) => onChoose({ decimal })}
        />
        <Choice
          label="Header row"
          value={String(found.header)}
          words={Object.fromEntries([
            ...(found.header < 0 ? [["-1", "the comment"] as const] : []),
            ["0", "none"] as const,
            ...Array.from({ length: Math.max(FIRST_HEADINGS, found.header) }, (_, i) => [String(i + 1), `line ${i + 1}`] as const),
          ])}
          onChange={(line) => onChoose({ header: Number(line) })}
        />
        {(found.turned || typeof choices.turned === "boolean") && (
          <Choice
            label="Quantities are"
            value={found.turned ? "lines" : "columns"}
            words={SIDES}
            onChange={(side) => onChoose({ turned: side === "lines" })}
          />
        )}
        {typeof choices.day_first === "boolean" && (
          <Choice
            label="Date order"
            value={choices.day_first ? "day" : "month"}
            words={ORDERS}
            onChange={(order) => onChoose({ day_first: order === "day" })}
          />
        )}
      </div>
      {reasons && <p className="text-[12px] text-mute">{reasons[0]!.toUpperCase() + reasons.slice(1)}.</p>}
    </div>
  );
}
