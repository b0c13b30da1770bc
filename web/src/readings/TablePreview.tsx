import type { Understood } from "../api/client";
import { ROLES } from "./roles";
import type { Elapsed, TakenColumn, TakenRole } from "./taken";

const UNITS: Record<Elapsed, string> = {
  s: "s",
  min: "min",
  h: "h",
  d: "d",
  "h:min": "h:min",
  "min:s": "min:s",
  "h:min:s": "h:min:s",
  "": "text",
};
const ELAPSED: Elapsed[] = ["s", "min", "h", "d", ""];
const CLOCK: Elapsed[] = ["h:min", "min:s", "h:min:s"];

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
export function TablePreview({ found, columns, onRole, onText, onUnit, onElapsed }: Props) {
  return (
    <div
      className="max-h-[40vh] shrink-0 overflow-auto border border-rule"
      tabIndex={0}
      role="region"
      aria-label="The table as it was understood"
    >
      <table className="w-full border-collapse">
        <thead className="bg-well">
          <tr>
            <th scope="col" className="w-10">
              <span className="sr-only">row</span>
            </th>
            {columns.map((column, place) => {
              const { times, why } = found.columns[place]!;
              const asText = !times && column.unit === "";
              const units = times === "clock" ? [...ELAPSED.slice(0, 4), ...CLOCK, "" as Elapsed] : ELAPSED;
              return (
                <th key={place} scope="col" className="min-w-40 border-l border-rule p-1.5 text-left align-top font-normal">
                  <select
                    className="field w-full"
                    aria-label={`Column ${place + 1} role`}
                    value={column.role}
                    onChange={(event) => onRole(place, event.target.value as TakenRole)}
                  >
                    {ROLES.map(({ role, word }) => (
                      <option key={role} value={role}>
                        {word}
                      </option>
                    ))}
                    <option value="skip">skipped</option>
                  </select>
                  <p className="mt-0.5 truncate text-[11.5px] text-mute" title={why}>
                    {why || " "}
                  </p>
                  {column.role !== "skip" && (
                    <div className="mt-1 grid grid-cols-2 gap-1">
                      <span className="col-span-2">
                        <Field
                          label={`Name of column ${place + 1}`}
                          hint="name"
                          value={column.name}
                          limit={100}
                          onFocus={() => onUnit(null)}
                          onChange={(name) => onText(place, { name })}
                        />
                      </span>
                      <Field
                        label={`Symbol of column ${place + 1}`}
                        hint="symbol"
                        value={column.symbol}
                        limit={20}
                        onFocus={() => onUnit(null)}
                        onChange={(symbol) => onText(place, { symbol })}
                      />
                      {!times || asText ? (
                        <Field
                          label={`Unit of column ${place + 1}`}
                          hint="unit"
                          value={column.unit}
                          limit={40}
                          onFocus={() => onUnit(place)}
                          onChange={(unit) => onText(place, { unit })}
                        />
                      ) : (
                        <select
                          className="field h-[26px] w-full min-w-0 px-0.5"
                          aria-label={`Times of column ${place + 1} are counted in`}
                          value={column.unit}
                          onChange={(event) => onElapsed(place, event.target.value as Elapsed)}
                        >
                          {units.map((unit) => (
                            <option key={unit} value={unit}>
                              {UNITS[unit]}
                            </option>
                          ))}
                        </select>
                      )}
                    </div>
                  )}
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody className="numerals">
          {(found.columns[0]?.cells ?? []).map((_, row) => (
            <tr key={row} className="border-t border-rule/70">
              <th scope="row" className="bg-well px-2 text-right text-[11.5px] font-normal text-mute">
                {row + 1}
              </th>
              {found.columns.map((column, place) => {
                const role = columns[place]?.role ?? "skip";
                const wrong = ["skip", "other", "series"].includes(role) ? undefined : column.wrong.find((cell) => cell.row === row);
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
