import type { Understood } from "../api/client";
import { Choice } from "../ui/Choice";
import type { Choices } from "./taken";
import { wordsOf } from "../ui/keys";

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
            value={found.table}
            words={found.tables.map(({ first, last }, place) => [place, `lines ${first} to ${last}`] as const)}
            onPick={(table) => onChoose({ table })}
          />
        )}
        <Choice
          label="Separator"
          value={found.separator.value}
          words={wordsOf(SEPARATORS)}
          onPick={(separator) => onChoose({ separator })}
        />
        <Choice
          label="Decimal separator"
          value={found.decimal.value}
          words={wordsOf(DECIMALS)}
          onPick={(decimal) => onChoose({ decimal })}
        />
        <Choice
          label="Header row"
          value={found.header}
          words={[
            ...(found.header < 0 ? [[-1, "the comment"] as const] : []),
            [0, "none"] as const,
            ...Array.from({ length: Math.max(FIRST_HEADINGS, found.header) }, (_, i) => [i + 1, `line ${i + 1}`] as const),
          ]}
          onPick={(header) => onChoose({ header })}
        />
        {(found.turned || typeof choices.turned === "boolean") && (
          <Choice
            label="Quantities are"
            value={found.turned ? "lines" : "columns"}
            words={wordsOf(SIDES)}
            onPick={(side) => onChoose({ turned: side === "lines" })}
          />
        )}
        {typeof choices.day_first === "boolean" && (
          <Choice
            label="Date order"
            value={choices.day_first ? "day" : "month"}
            words={wordsOf(ORDERS)}
            onPick={(order) => onChoose({ day_first: order === "day" })}
          />
        )}
      </div>
      {reasons && <p className="text-note text-mute">{reasons[0]!.toUpperCase() + reasons.slice(1)}.</p>}
    </div>
  );
}
