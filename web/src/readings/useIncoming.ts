import { useState } from "react";

import type { TakeTable, Understood } from "../api/client";
import type { Incoming } from "../study/view";
import { messageIn } from "../ui/messageIn";
import { readFile } from "./files";
import { type Asked, keyOf, type Question } from "./Questions";
import {
  type Choices,
  type Elapsed,
  openQuestions,
  problemOf,
  type TakenColumn,
  type TakenRole,
  type Where,
  withChoices,
  withRole,
} from "./taken";
import { useUnderstood } from "./useUnderstood";

/** A table that waits: how it is read, what its columns are taken as, what is still open, and what will be imported. */
export function useIncoming(first: Incoming, filled: boolean) {
  const [incoming, setIncoming] = useState(first);
  const [choices, setChoices] = useState<Choices>({});
  const [edits, setEdits] = useState<Record<number, Partial<TakenColumn>>>({});
  const [answered, setAnswered] = useState<Asked[]>([]);
  const [where, setWhere] = useState<Where>(incoming.at ? "at" : "below");
  const { found, counted, problem, setProblem } = useUnderstood(incoming.text, choices);

  /** Whether it has to be said where the table goes. */
  const elsewhere = filled || (first.at !== undefined && (first.at.row > 0 || first.at.col > 0));
  const place: Where = elsewhere ? where : "replace";
  const columns = found ? columnsOf(found, edits) : [];
  const open = found ? openQuestions(found, place) : [];
  const refusal = found ? problemOf(columns, found, choices, place) : "";
  const unanswered = open.filter((question) => !answered.some((one) => keyOf(one.question) === keyOf(question)));
  const asked: Asked[] = [...answered, ...unanswered.map((question) => ({ question, picked: null }))];

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
      setProblem(messageIn(error));
    }
  }

  const edit = (at: number, part: Partial<TakenColumn>) => setEdits({ ...edits, [at]: { ...edits[at], ...part } });
  const setElapsed = (at: number, unit: Elapsed) => setChoices(withChoices(choices, { elapsed: { [at]: unit } }));
  function setRole(at: number, role: TakenRole) {
    const held = columns.map((column) => column.role);
    setEdits(Object.fromEntries(withRole(held, at, role).map((one, i) => [i, { ...edits[i], role: one }])));
  }

  const at = { row: first.at?.row ?? 0, column: first.at?.col ?? 0 };
  const table: TakeTable = { kind: "take_table", text: incoming.text, ...choices, columns, where: place, ...at };
  return {
    incoming,
    choices,
    found,
    counted,
    problem,
    columns,
    asked,
    open: open.length,
    refusal,
    elsewhere,
    place,
    where,
    setWhere,
    readAs,
    readAgain,
    pick,
    edit,
    setElapsed,
    setRole,
    table,
    ready: found !== null && counted && !refusal && open.length === 0,
  };
}

export type Taking = ReturnType<typeof useIncoming>;

function columnsOf(found: Understood, edits: Record<number, Partial<TakenColumn>>): TakenColumn[] {
  return found.columns.map(({ name, symbol, unit, role }, place) => ({ name, symbol, unit, role, ...edits[place] }));
}
