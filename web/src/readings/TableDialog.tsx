import { useEffect, useRef, useState } from "react";

import type { TakeTable, Understood } from "../api/client";
import type { Incoming } from "../study/view";
import { Choice } from "../ui/Choice";
import { Radio } from "../ui/Radio";
import { Sheet } from "../ui/Sheet";
import { SignPalette, withSign } from "../ui/SignPalette";
import { readFile } from "./files";
import { HowRead } from "./HowRead";
import { NotUsed } from "./NotUsed";
import { type Asked, keyOf, type Question, Questions } from "./Questions";
import { TablePreview } from "./TablePreview";
import { type Choices, openQuestions, problemOf, type TakenColumn, type TakenRole, type Where, withChoices, withRole } from "./taken";
import { useUnderstood } from "./useUnderstood";

interface Props {
  incoming: Incoming;
  /** Whether there are readings, so that it has to be said where the table goes. */
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
  const [edits, setEdits] = useState<Record<number, Partial<TakenColumn>>>({});
  const [answered, setAnswered] = useState<Asked[]>([]);
  const [where, setWhere] = useState<Where>(incoming.at ? "at" : "below");
  const [apart, setApart] = useState(false);
  const { found, counted, problem, setProblem } = useUnderstood(incoming.text, choices);
  const form = useRef<HTMLFormElement>(null);
  // The column whose unit is being typed: signs are offered below the table.
  const [unitOf, setUnitOf] = useState<number | null>(null);

  const elsewhere = filled || (first.at && (first.at.row > 0 || first.at.col > 0));
  const place: Where = elsewhere ? where : "replace";
  const columns = found ? columnsOf(found, edits) : [];
  const ys = columns.filter((column) => column.role === "y").length;
  const open = found ? openQuestions(found, place) : [];
  const refusal = found ? problemOf(columns, found, choices, place) : "";
  const ready = found !== null && counted && !refusal && open.length === 0;

  // Focus begins where the next thing is to be done: at the first open question, else at Import.
  const shown = found !== null;
  useEffect(() => {
    const target = form.current?.querySelector<HTMLElement>('fieldset[data-open] input, button[type="submit"]');
    if (shown) target?.focus();
  }, [shown]);

  /** Another way of reading makes other columns: what was set for them goes, texts that were typed stay where they can. */
  function readAs(chosen: Choices) {
    setChoices(withChoices(choices, chosen));
    setEdits({});
  }

  function pick(question: Question, option: number, chosen: Choices) {
    const others = answered.filter((one) => keyOf(one.question) !== keyOf(question));
    setAnswered([...others, { question, picked: option }]);
    readAs(chosen);
  }

  async function readAgain(how: { sheet?: string; encoding?: string }) {
    try {
      setIncoming(await readFile(incoming.file!, how));
      setEdits({});
      setChoices({});
      setAnswered([]);
      setProblem("");
    } catch (error) {
      setProblem((error as Error).message);
    }
  }

  function setRole(at: number, role: TakenRole) {
    const roles = withRole(
      columns.map((column) => column.role),
      at,
      role,
    );
    setEdits(Object.fromEntries(roles.map((one, i) => [i, { ...edits[i], role: one }])));
  }

  const take = () => {
    if (!ready) return;
    onTake(
      { kind: "take_table", text: incoming.text, ...choices, columns, where: place, row: first.at?.row ?? 0, column: first.at?.col ?? 0 },
      apart && ys > 1,
    );
  };
  const asked: Asked[] = [
    ...answered,
    ...open
      .filter((question) => !answered.some((one) => keyOf(one.question) === keyOf(question)))
      .map((question) => ({ question, picked: null })),
  ];
  return (
    <Sheet title={incoming.name ? `Import ${incoming.name}` : "Import a table"} width="w-[min(50rem,96vw)]" onClose={onClose}>
      {problem && (
        <p role="alert" className="text-amber">
          {problem}
        </p>
      )}
      {(found || problem) && (incoming.sheets?.length ?? 0) + (incoming.encodings?.length ?? 0) > 1 && (
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          {(incoming.sheets?.length ?? 0) > 1 && (
            <Choice
              label="Sheet"
              value={incoming.sheet ?? ""}
              words={Object.fromEntries(incoming.sheets!.map((name) => [name, name]))}
              onChange={(sheet) => void readAgain({ sheet })}
            />
          )}
          {(incoming.encodings?.length ?? 0) > 0 && (
            <Choice
              label="Encoding"
              value={incoming.encoding ?? ""}
              words={Object.fromEntries(incoming.encodings!.map((name) => [name, name]))}
              onChange={(encoding) => void readAgain({ encoding })}
            />
          )}
        </div>
      )}
      {found && (
        <form
          ref={form}
          className="contents"
          onSubmit={(event) => {
            event.preventDefault();
            take();
          }}
        >
          <HowRead found={found} choices={choices} onChoose={readAs} />
          {asked.length > 0 && <Questions asked={asked} onPick={pick} />}
          <TablePreview
            found={found}
            columns={columns}
            onRole={setRole}
            onText={(at, part) => setEdits({ ...edits, [at]: { ...edits[at], ...part } })}
            onUnit={setUnitOf}
            onElapsed={(at, unit) => setChoices(withChoices(choices, { elapsed: { [at]: unit } }))}
          />
          {unitOf !== null && (
            <SignPalette
              onSign={(sign) => {
                const field = form.current?.querySelector<HTMLInputElement>(`[aria-label="Unit of column ${unitOf + 1}"]`) ?? null;
                setEdits({ ...edits, [unitOf]: { ...edits[unitOf], unit: withSign(field, columns[unitOf]?.unit ?? "", sign) } });
              }}
            />
          )}
          <p>
            {counted ? `${found.row_count} ${found.row_count === 1 ? "row" : "rows"}` : "Counting the rows…"}
            {counted && found.row_count > (found.columns[0]?.cells.length ?? 0) && `, the first ${found.columns[0]!.cells.length} shown`}
            {found.columns.filter((column) => column.since).map((column) => `; times count from ${column.since}`)}
          </p>
          <NotUsed found={found} columns={columns} />
          {refusal && (
            <p role="alert" className="text-amber">
              {refusal}
            </p>
          )}
          <div className="flex flex-wrap items-end justify-end gap-x-4 gap-y-2">
            {ys > 1 && place !== "at" && place !== "beside" && (
              <fieldset className="mr-auto grid gap-x-4">
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
            {elsewhere && !apart && <WhereTo where={where} at={first.at} onPick={setWhere} />}
            {open.length > 0 && (
              <p className="text-amber">{open.length === 1 ? "Answer the question" : "Answer the questions"} above to import.</p>
            )}
            <button type="button" className="button" onClick={onClose}>
              Cancel
            </button>
            <button type="submit" className="button-main" aria-disabled={!ready}>
              Import
            </button>
          </div>
        </form>
      )}
    </Sheet>
  );
}

function columnsOf(found: Understood, edits: Record<number, Partial<TakenColumn>>): TakenColumn[] {
  return found.columns.map(({ name, symbol, unit, role }, place) => ({ name, symbol, unit, role, ...edits[place] }));
}

/** Where the table goes in a study that has readings; none of the first choices takes anything away. */
function WhereTo({ where, at, onPick }: { where: Where; at?: { row: number; col: number }; onPick: (where: Where) => void }) {
  const words: [Where, string][] = [
    ["below", "below the readings"],
    ["beside", "beside them, as new columns"],
    ["replace", "in place of them"],
  ];
  if (at) words.unshift(["at", `from row ${at.row + 1}, column ${at.col + 1} on`]);
  return (
    <fieldset className="mr-auto grid gap-x-4">
      <legend className="float-left font-medium">Where to put it</legend>
      {words.map(([name, word]) => (
        <Radio key={name} name="where" checked={where === name} onPick={() => onPick(name)}>
          {word}
        </Radio>
      ))}
    </fieldset>
  );
}
