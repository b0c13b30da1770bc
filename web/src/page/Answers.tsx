import { ArrowDown, ArrowUp, Check, Copy, Crosshair, Ellipsis, ListOrdered, Pencil, X } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";

import type { Answer } from "../api/client";
import { CopyTable } from "../ui/CopyTable";
import { AnswerTable, cellsOf } from "../ask/AnswerTable";
import { useCalmAnalysis, useChange, useStudy } from "../study/context";
import { followWorkings, measureFor, select, setView, useView } from "../study/view";
import { EditableText } from "../ui/EditableText";
import { copyText } from "./copy";
import { NextPlace } from "./NextPlace";
import { Section } from "./Section";
import { percent } from "../ui/numbers";
import { Menu } from "../ui/Menu";

const LEVELS = [0.68, 0.9, 0.95, 0.99];

/** Answers that were kept, and those of the unknowns among the rows; both follow the readings. */
export function Answers() {
  const study = useStudy();
  const change = useChange();
  const { answers, unknowns } = useCalmAnalysis();
  const levels = LEVELS.includes(study.level) ? LEVELS : [...LEVELS, study.level].sort();
  const level = (
    <label className="no-print flex items-center gap-1 text-note text-mute">
      at
      <select
        className="rounded-sm border border-rule bg-sheet py-px text-note text-ink"
        aria-label="Confidence level"
        value={study.level}
        onChange={(event) => change({ kind: "edit_study", level: Number(event.target.value) })}
      >
        {levels.map((value) => (
          <option key={value} value={value}>
            {percent(value)}
          </option>
        ))}
      </select>
    </label>
  );
  const empty = !answers.length && !unknowns.length;
  return (
    <Section title="Answers" aside={level} empty={empty}>
      {empty && (
        <p className="text-plain text-mute">
          No answers kept yet. Ask below the plot and keep what you want to hand in. Unknowns (rows with y but no x) appear automatically.
        </p>
      )}
      <ul className="grid grid-cols-[minmax(0,1fr)] gap-2.5">
        {unknowns.map((unknown) => (
          <li key={unknown.answer.key} className="group flex items-start gap-1">
            <div className="grow font-book text-plain leading-snug">
              <button
                className="rounded-sm text-left underline-offset-2 hover:underline"
                onClick={() => select({ row: unknown.rows[unknown.rows.length - 1]!, col: 0 }, { row: unknown.rows[0]!, col: 0 })}
              >
                {unknown.label}
              </button>
              : <AnswerText answer={unknown.answer} />
            </div>
            <CopyAnswer answer={unknown.answer} />
          </li>
        ))}
        {answers.map((answer, place) => (
          <Kept key={answer.key} answer={answer} place={place} last={place === answers.length - 1} />
        ))}
      </ul>
    </Section>
  );
}

/** Whether an answer has just been kept: then the page brings it into view. */
function useBroughtIntoView(key: string) {
  const item = useRef<HTMLLIElement>(null);
  const wanted = useView((view) => view.keeping);
  useEffect(() => {
    if (!wanted || wanted.includes(key)) return;
    item.current?.scrollIntoView({ block: "nearest" });
    setView({ keeping: null });
  }, [wanted, key]);
  return item;
}

function Kept({ answer, place, last }: { answer: Answer; place: number; last: boolean }) {
  const change = useChange();
  const item = useBroughtIntoView(answer.key);
  const [renaming, setRenaming] = useState(false);
  const { key } = answer;
  const rows = answer.rows ?? [];
  return (
    <li ref={item}>
      {(answer.name || renaming) && (
        <EditableText
          key={renaming ? "new" : "held"}
          label={`Name of the answer for ${answer.asked}`}
          value={answer.name ?? ""}
          placeholder="Name"
          className="font-book text-plain font-semibold"
          focused={renaming}
          onCommit={(name) => {
            setRenaming(false);
            if (name !== (answer.name ?? "")) change({ kind: "set_answer", key, name });
          }}
        />
      )}
      <div className="flex items-start gap-1">
        <p className="min-w-0 grow font-book text-plain leading-snug">
          {answer.direction === "y_at_x" || answer.direction === "x_at_y" ? "At " : ""}
          <AnswerText answer={answer} />
        </p>
        <CopyAnswer answer={answer} />
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger asChild>
            <button className="icon-button no-print" aria-label={`More for the answer for ${answer.asked}`}>
              <Ellipsis size={15} />
            </button>
          </DropdownMenu.Trigger>
          <Menu>
            <DropdownMenu.Item className="menu-item" onSelect={() => setRenaming(true)}>
              <Pencil size={15} /> Rename
            </DropdownMenu.Item>
            {(answer.direction === "y_at_x" || answer.direction === "x_at_y") && rows.length <= 1 && (
              <DropdownMenu.Item className="menu-item" onSelect={() => followWorkings(`answer:${key}`)}>
                <ListOrdered size={15} /> Show the workings
              </DropdownMenu.Item>
            )}
            {(answer.direction === "y_at_x" || answer.direction === "x_at_y") && rows.length <= 1 && (
              <DropdownMenu.Item className="menu-item" onSelect={() => measureFor(`answer:${key}`)}>
                <Crosshair size={15} /> Where to measure next
              </DropdownMenu.Item>
            )}
            {place > 0 && (
              <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "set_answer", key, to: place - 1 })}>
                <ArrowUp size={15} /> Move up
              </DropdownMenu.Item>
            )}
            {!last && (
              <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "set_answer", key, to: place + 1 })}>
                <ArrowDown size={15} /> Move down
              </DropdownMenu.Item>
            )}
          </Menu>
        </DropdownMenu.Root>
        <button
          className="icon-button no-print"
          aria-label={`Remove the answer for ${answer.asked}`}
          onClick={() => change({ kind: "remove_answer", key })}
        >
          <X size={15} />
        </button>
      </div>
      {rows.length > 1 && (
        <div className="mt-1 max-h-64 overflow-auto print:max-h-none" tabIndex={0} role="region" aria-label={`Results for ${answer.asked}`}>
          <AnswerTable rows={rows} looking={answer.direction === "x_at_y"} />
        </div>
      )}
      <NextPlace of={`answer:${key}`} />
      {answer.was && (
        <p className="no-print mt-1 flex items-center gap-1.5 rounded-sm bg-amber-well px-2 py-1 text-plain text-amber">
          <span className="grow">
            Changed since it was kept (was <span className="numerals">{answer.was}</span>).
          </span>
          <button
            className="button !h-[24px]"
            onClick={() => change({ kind: "set_answer", key, was: (answer.problem || answer.result || "").slice(0, 400) })}
          >
            <Check size={13} /> Accept
          </button>
        </p>
      )}
    </li>
  );
}

export function AnswerText({ answer }: { answer: Answer }) {
  const from = answer.fit && answer.fit !== "all" ? ` (${answer.fit})` : "";
  if (answer.problem) {
    return (
      <>
        {answer.asked}
        {from}: <span className="text-amber">{answer.problem}</span>
      </>
    );
  }
  return (
    <>
      {answer.asked}
      {from}, <strong className="numerals font-semibold">{answer.result}</strong>. {answer.sentence}
      {answer.place && <span className={answer.beyond ? "text-amber" : ""}> {answer.place}</span>} {answer.beyond_says}
    </>
  );
}

function CopyAnswer({ answer }: { answer: Answer }) {
  if (answer.problem) return null;
  const rows = answer.rows ?? [];
  if (rows.length > 1) return <CopyTable label={`Copy the answer for ${answer.asked}`} what="Answer" rows={() => cellsOf(rows)} />;
  const text = `${answer.asked}: ${answer.result}. ${answer.sentence} ${answer.place}`.trim();
  return (
    <button
      className="icon-button no-print"
      aria-label={`Copy the answer for ${answer.asked}`}
      title={answer.full ? `In full: ${answer.full}` : undefined}
      onClick={() => void copyText(text, "Answer")}
    >
      <Copy size={14} />
    </button>
  );
}
