import type { Understood } from "../api/client";
import { ROLES } from "./roles";
import type { Elapsed, TakenColumn, TakenRole } from "./taken";
import { Select, type Words } from "../ui/Select";

const ELAPSED: Words<Elapsed> = [
  ["s", "s"],
  ["min", "min"],
  ["h", "h"],
  ["d", "d"],
];
const CLOCK: Words<Elapsed> = [
  ["h:min", "h:min"],
  ["min:s", "min:s"],
  ["h:min:s", "h:min:s"],
];
const AS_TEXT: Words<Elapsed> = [["", "text"]];
const TAKEN_AS: Words<TakenRole> = [...ROLES, ["skip", "skipped"]];
/** Roles whose cells need not be numbers. */
const NO_NUMBERS: TakenRole[] = ["skip", "other", "series"];

interface Props {
  found: Understood;
  columns: TakenColumn[];
  onRole: (place: number, role: TakenRole) => void;
  onText: (place: number, part: Partial<TakenColumn>) => void;
  /** The unit field of a column has the focus; null when another field has. */
  onUnit: (place: number | null) => void;
  onElapsed: (place: number, unit: Elapsed) => void;
}

/** The first rows as they were understood, under the heading of each column, where every guess can be changed. */
export function TablePreview(props: Props) {
  const { found, columns } = props;
  return (
    <div
      className="max-h-[40vh] shrink-0 overflow-auto border border-rule"
      tabIndex={0}
      role="region"
      aria-label="The table as it was understood"
    >
      <table className="w-full border-collapse">
        <caption className="sr-only">The table as it was understood</caption>
        <thead className="bg-well">
          <tr>
            <th scope="col" className="w-10">
              <span className="sr-only">row</span>
            </th>
            {columns.map((column, place) => (
              <Heading key={place} {...props} column={column} place={place} />
            ))}
          </tr>
        </thead>
        <tbody className="numerals">
          {(found.columns[0]?.cells ?? []).map((_, row) => (
            <tr key={row} className="border-t border-rule/70">
              <th scope="row" className="bg-well px-2 text-right text-note font-normal text-mute">
                {row + 1}
              </th>
              {found.columns.map((column, place) => {
                const role = columns[place]?.role ?? "skip";
                const wrong = NO_NUMBERS.includes(role) ? undefined : column.wrong.find((cell) => cell.row === row);
                return (
                  <td
                    key={place}
                    className={`border-l border-rule/70 px-2 py-0.5 text-right ${wrong ? "bg-amber-well text-amber" : ""} ${role === "skip" ? "text-mute line-through decoration-rule" : ""}`}
                    title={wrong?.why}
                  >
                    {column.cells[row]}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface HeadingProps extends Props {
  column: TakenColumn;
  place: number;
}

/** What a column is taken as, and why; its name, symbol and unit. */
function Heading({ found, column, place, onRole, onText, onUnit, onElapsed }: HeadingProps) {
  const { times, why } = found.columns[place]!;
  const units = times === "clock" ? [...ELAPSED, ...CLOCK, ...AS_TEXT] : [...ELAPSED, ...AS_TEXT];
  const name = `column ${place + 1}`;
  return (
    <th scope="col" className="min-w-40 border-l border-rule p-1.5 text-left align-top font-normal">
      <Select
        className="field w-full"
        aria-label={`Column ${place + 1} role`}
        value={column.role}
        words={TAKEN_AS}
        onPick={(role) => onRole(place, role)}
      />
      <p className="mt-0.5 truncate text-note text-mute" title={why}>
        {why || " "}
      </p>
      {column.role !== "skip" && (
        <div className="mt-1 grid grid-cols-2 gap-1">
          <span className="col-span-2">
            <Field
              label={`Name of ${name}`}
              hint="name"
              value={column.name}
              limit={100}
              onFocus={() => onUnit(null)}
              onChange={(name) => onText(place, { name })}
            />
          </span>
          <Field
            label={`Symbol of ${name}`}
            hint="symbol"
            value={column.symbol}
            limit={20}
            onFocus={() => onUnit(null)}
            onChange={(symbol) => onText(place, { symbol })}
          />
          {times ? (
            <Select
              className="field h-[26px] w-full min-w-0 px-0.5"
              aria-label={`Times of ${name} are counted in`}
              value={units.find(([unit]) => unit === column.unit)?.[0] ?? ""}
              words={units}
              onPick={(unit) => onElapsed(place, unit)}
            />
          ) : (
            <Field
              label={`Unit of ${name}`}
              hint="unit"
              value={column.unit}
              limit={40}
              onFocus={() => onUnit(place)}
              onChange={(unit) => onText(place, { unit })}
            />
          )}
        </div>
      )}
    </th>
  );
}

function Field(props: {
  label: string;
  hint: string;
  value: string;
  limit: number;
  onFocus?: () => void;
  onChange: (value: string) => void;
}) {
  return (
    <input
      className="field h-[26px] w-full min-w-0 px-1.5"
      aria-label={props.label}
      placeholder={props.hint}
      value={props.value}
      maxLength={props.limit}
      onFocus={props.onFocus}
      onChange={(event) => props.onChange(event.target.value)}
    />
  );
}
