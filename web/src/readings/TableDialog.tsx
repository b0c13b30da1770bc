import { useEffect, useRef, useState } from "react";

import { api, messageOf, type TakeTable, type Understood } from "../api/client";
import type { Incoming } from "../study/view";
import { Choice } from "../ui/Choice";
import { Sheet } from "../ui/Sheet";
import { readFile } from "./files";
import { ROLES } from "./roles";
import { TablePreview } from "./TablePreview";
import type { Elapsed, TakenColumn, TakenRole } from "./taken";

const SEPARATORS = { tab: "tab", semicolon: "semicolon", comma: "comma", spaces: "space" } as const;
const DECIMALS = { point: "point (1.5)", comma: "comma (1,5)" } as const;
const ORDERS = { day: "day, month", month: "month, day" } as const;
const FIRST_HEADINGS = 12;
const MOST_COLUMNS = 12;
const LONG = 200_000;
const BEGINNING = 60_000;

interface Choices {
  separator?: keyof typeof SEPARATORS;
  decimal?: keyof typeof DECIMALS;
  header?: number;
  day_first?: boolean;
  elapsed?: Record<number, Elapsed>;
}

interface Props {
  incoming: Incoming;
  /** Whether there are readings that the table could be put below. */
  filled: boolean;
  /** Whether several y columns can become studies of their own. */
  many: boolean;
  onTake: (table: TakeTable, apart: boolean) => void;
  onClose: () => void;
}

/** What was understood of a table, every guess open to change, before it is imported as one step. */
export function TableDialog({ incoming: first, filled, many, onTake, onClose }: Props) {
  const [incoming, setIncoming] = useState(first);
  const [choices, setChoices] = useState<Choices>({});
  const [found, setFound] = useState<Understood | null>(null);
  const [counted, setCounted] = useState(false);
  const [columns, setColumns] = useState<TakenColumn[]>([]);
  const [problem, setProblem] = useState("");
  const [where, setWhere] = useState<"replace" | "below">("replace");
  const [apart, setApart] = useState(false);
  const newest = useRef(0);

  useEffect(() => {
    const asked = ++newest.current;
    const show = (data: Understood | undefined, error: unknown, whole: boolean) => {
      if (asked !== newest.current) return;
      setProblem(data ? "" : messageOf(error));
      if (!data) return;
      setFound(data);
      setCounted(whole);
      setColumns((before) =>
        data.columns.map(({ name, symbol, unit, role, times }, place) => ({
          name,
          symbol,
          unit,
          // What was chosen for a column stays when the table is only read in another way.
          role: before.length === data.columns.length ? before[place]!.role : (role as TakenRole),
          elapsed: times ? (unit as Elapsed) : choices.elapsed?.[place] === "" ? "" : undefined,
        })),
      );
    };
    const understand = async (text: string, whole: boolean) => {
      const { data, error } = await api.POST("/api/tables/understand", { body: { text, ...choices } });
      show(data, error, whole);
    };
    const { text } = incoming;
    // Of a long table the beginning is shown at once; the rows and cells that are no numbers are counted meanwhile.
    const beginning = text.length > LONG ? understand(text.slice(0, text.lastIndexOf("\n", BEGINNING)), false) : null;
    void Promise.resolve(beginning)
      .then(() => understand(text, true))
      .catch(() => setProblem("The server cannot be reached. Close this and try again; nothing is lost."));
  }, [incoming, choices]);

  async function readAgain(how: { sheet?: string; encoding?: string }) {
    try {
      setIncoming(await readFile(incoming.file!, how));
      setColumns([]);
      setChoices({});
      setProblem("");
    } catch (error) {
      setProblem((error as Error).message);
    }
  }

  const ys = columns.filter((column) => column.role === "y").length;
  const put = (place: number, part: Partial<TakenColumn>) => {
    if (part.elapsed !== undefined) setChoices({ ...choices, elapsed: { ...choices.elapsed, [place]: part.elapsed } });
    const role = part.role;
    // A role that can be held once goes from its holder to the column that takes it; several y may have an x each.
    const single = role && !["y", "other", "skip"].includes(role) && (ys < 2 || !["x", "x_error", "y_error"].includes(role));
    setColumns(
      columns.map((column, i) => {
        if (i === place) return { ...column, ...part };
        return single && column.role === role ? { ...column, role: "other" } : column;
      }),
    );
  };
  const kept = columns.filter((column) => column.role !== "skip").length;
  const twice = ROLES.find(({ role }) => !["y", "other"].includes(role) && columns.filter((column) => column.role === role).length > (ys > 1 && ["x", "x_error", "y_error"].includes(role) ? ys : 1));
  const wrong = twice ? `Only one column can be ${twice.word}.` : kept > MOST_COLUMNS && ys < 2 ? `A study holds ${MOST_COLUMNS} columns; ${kept} are chosen. Skip some.` : "";

  const take = () => {
    if (!found || wrong) return;
    onTake(
      {
        kind: "take_table",
        text: incoming.text,
        separator: found.separator as keyof typeof SEPARATORS,
        decimal: found.decimal as keyof typeof DECIMALS,
        header: found.header,
        day_first: choices.day_first,
        columns,
        where: filled ? where : "replace",
      },
      apart && ys > 1,
    );
  };
  const ambiguous = found?.columns.some((column) => column.ambiguous) ?? false;
  return (
    <Sheet title={incoming.name ? `Import ${incoming.name}` : "Import a table"} width="w-[min(50rem,96vw)]" onClose={onClose}>
          {problem && (
            <p role="alert" className="text-amber">
              {problem}
            </p>
          )}
          {found && (
            <>
              <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
                {(incoming.sheets?.length ?? 0) > 1 && (
                  <Choice label="Sheet" value={incoming.sheet ?? ""} words={Object.fromEntries(incoming.sheets!.map((name) => [name, name]))} onChange={(sheet) => void readAgain({ sheet })} />
                )}
                {(incoming.encodings?.length ?? 0) > 0 && (
                  <Choice label="Encoding" value={incoming.encoding ?? ""} words={Object.fromEntries(incoming.encodings!.map((name) => [name, name]))} onChange={(encoding) => void readAgain({ encoding })} />
                )}
                <Choice label="Separator" value={found.separator as keyof typeof SEPARATORS} words={SEPARATORS} onChange={(separator) => setChoices({ ...choices, separator })} />
                <Choice label="Decimal separator" value={found.decimal as keyof typeof DECIMALS} words={DECIMALS} onChange={(decimal) => setChoices({ ...choices, decimal })} />
                <Choice
                  label="Header row"
                  value={String(found.header)}
                  words={Object.fromEntries([["0", "none"], ...Array.from({ length: Math.max(FIRST_HEADINGS, found.header) }, (_, i) => [String(i + 1), `line ${i + 1}`])])}
                  onChange={(line) => setChoices({ ...choices, header: Number(line) })}
                />
                {ambiguous && (
                  <Choice label="Date order" value={choices.day_first === false ? "month" : "day"} words={ORDERS} onChange={(order) => setChoices({ ...choices, day_first: order === "day" })} />
                )}
              </div>
              <TablePreview found={found} counted={counted} columns={columns} onPut={put} />
              {wrong && (
                <p role="alert" className="text-amber">
                  {wrong}
                </p>
              )}
              <div className="flex flex-wrap items-center justify-end gap-x-4 gap-y-2">
                {ys > 1 && (
                  <fieldset className="mr-auto flex flex-wrap gap-x-4">
                    <legend className="sr-only">What the {ys} y columns become</legend>
                    <Radio name="apart" checked={!apart} onPick={() => setApart(false)}>
                      {ys} series of one study
                    </Radio>
                    {many && (
                      <Radio name="apart" checked={apart} onPick={() => setApart(true)}>
                        {ys} studies
                      </Radio>
                    )}
                  </fieldset>
                )}
                {filled && !apart && (
                  <fieldset className="mr-auto flex flex-wrap gap-x-4">
                    <legend className="sr-only">Where to put it</legend>
                    <Radio name="where" checked={where === "replace"} onPick={() => setWhere("replace")}>
                      Replace these readings
                    </Radio>
                    <Radio name="where" checked={where === "below"} onPick={() => setWhere("below")}>
                      Add below them
                    </Radio>
                  </fieldset>
                )}
                <button className="button" onClick={onClose}>
                  Cancel
                </button>
                <button className="button-main" aria-disabled={wrong !== ""} onClick={take}>
                  Import
                </button>
              </div>
            </>
          )}
    </Sheet>
  );
}

function Radio({ name, checked, onPick, children }: { name: string; checked: boolean; onPick: () => void; children: React.ReactNode }) {
  return (
    <label className="flex items-center gap-1.5">
      <input type="radio" name={name} className="accent-pine" checked={checked} onChange={onPick} />
      <span>{children}</span>
    </label>
  );
}
