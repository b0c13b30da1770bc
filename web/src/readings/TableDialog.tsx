import { useEffect, useRef, useState } from "react";

import type { TakeTable, Understood } from "../api/client";
import type { Incoming, Place } from "../study/view";
import { Choice } from "../ui/Choice";
import { Radio } from "../ui/Radio";
import { Sheet } from "../ui/Sheet";
import { SignPalette, withSign } from "../ui/SignPalette";
import { HowRead } from "./HowRead";
import { NotUsed } from "./NotUsed";
import { Questions } from "./Questions";
import { TablePreview } from "./TablePreview";
import type { Where } from "./taken";
import { type Taking, useIncoming } from "./useIncoming";

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
  const taking = useIncoming(first, filled);
  const { incoming, found, problem, columns, open, place, ready } = taking;
  const [apart, setApart] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  const ys = columns.filter((column) => column.role === "y").length;

  // Focus begins where the next thing is to be done: at the first open question, else at Import.
  const shown = found !== null;
  useEffect(() => {
    const target = form.current?.querySelector<HTMLElement>('fieldset[data-open] input, button[type="submit"]');
    if (shown) target?.focus();
  }, [shown]);

  return (
    <Sheet title={incoming.name ? `Import ${incoming.name}` : "Import a table"} width="w-[min(50rem,96vw)]" onClose={onClose}>
      {problem && (
        <p role="alert" className="text-amber">
          {problem}
        </p>
      )}
      {(found || problem) && <WhichTable {...taking} />}
      {found && incoming.remarks?.map((remark) => <p key={remark}>{remark}</p>)}
      {found && (
        <form
          ref={form}
          className="contents"
          onSubmit={(event) => {
            event.preventDefault();
            if (ready) onTake(taking.table, apart && ys > 1);
          }}
        >
          <WhatIsRead taking={taking} found={found} />
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
            {taking.elsewhere && !apart && <WhereTo where={taking.where} at={first.at} onPick={taking.setWhere} />}
            {open > 0 && <p className="text-amber">{open === 1 ? "Answer the question" : "Answer the questions"} above to import.</p>}
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

/** Which sheet of a workbook it is, and how its letters are written, where there is more than one of them. */
function WhichTable({ incoming, readAgain }: Taking) {
  const { sheets = [], encodings = [] } = incoming;
  if (sheets.length + encodings.length <= 1) return null;
  const alike = (names: string[]) => names.map((name) => [name, name] as const);
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
      {sheets.length > 1 && (
        <Choice label="Sheet" value={incoming.sheet ?? ""} words={alike(sheets)} onPick={(sheet) => void readAgain({ sheet })} />
      )}
      {encodings.length > 0 && (
        <Choice
          label="Encoding"
          value={incoming.encoding ?? ""}
          words={alike(encodings)}
          onPick={(encoding) => void readAgain({ encoding })}
        />
      )}
    </div>
  );
}

/** How it is read, what has to be asked, its columns, and what is left out of it. */
function WhatIsRead({ taking, found }: { taking: Taking; found: Understood }) {
  const { columns, asked, counted, refusal } = taking;
  const preview = useRef<HTMLDivElement>(null);
  // The column whose unit is being typed: signs are offered below the table.
  const [unitOf, setUnitOf] = useState<number | null>(null);
  const shown = found.columns[0]?.cells.length ?? 0;
  return (
    <>
      <HowRead found={found} choices={taking.choices} onChoose={taking.readAs} />
      {asked.length > 0 && <Questions asked={asked} onPick={taking.pick} />}
      <div ref={preview} className="contents">
        <TablePreview
          found={found}
          columns={columns}
          onRole={taking.setRole}
          onText={taking.edit}
          onUnit={setUnitOf}
          onElapsed={taking.setElapsed}
        />
      </div>
      {unitOf !== null && (
        <SignPalette
          onSign={(sign) => {
            const field = preview.current?.querySelector(`[aria-label="Unit of column ${unitOf + 1}"]`) ?? null;
            taking.edit(unitOf, { unit: withSign(field, columns[unitOf]?.unit ?? "", sign) });
          }}
        />
      )}
      <p>
        {counted ? `${found.row_count} ${found.row_count === 1 ? "row" : "rows"}` : "Counting the rows…"}
        {counted && found.row_count > shown && `, the first ${shown} shown`}
        {found.columns.filter((column) => column.since).map((column) => `; times count from ${column.since}`)}
      </p>
      <NotUsed found={found} columns={columns} />
      {refusal && (
        <p role="alert" className="text-amber">
          {refusal}
        </p>
      )}
    </>
  );
}

/** Where the table goes in a study that has readings; none of the first choices takes anything away. */
function WhereTo({ where, at, onPick }: { where: Where; at?: Place; onPick: (where: Where) => void }) {
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
