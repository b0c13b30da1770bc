import { Check, X } from "lucide-react";
import { useEffect, useRef, useState } from "react";

import type { Answer } from "../api/client";
import { AnswerTable } from "../ask/AnswerTable";
import { CommentsOn } from "../comments/CommentsOn";
import { useChange, useLooking } from "../study/context";
import { Own } from "../study/Own";
import { setView, useView } from "../study/view";
import { EditableText } from "../ui/EditableText";
import { AnswerMenu } from "./AnswerMenu";
import { AnswerText, CopyAnswer } from "./AnswerText";
import { AnswerUnit } from "./AnswerUnit";
import { NextPlace } from "./NextPlace";

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

/** An answer that was kept, with what can be done with it. */
export function KeptAnswer({ answer, place, last }: { answer: Answer; place: number; last: boolean }) {
  const change = useChange();
  const looking = useLooking();
  const item = useBroughtIntoView(answer.key);
  const [renaming, setRenaming] = useState(false);
  const [converting, setConverting] = useState(false);
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
          fixed={looking}
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
        <Own>
          <AnswerMenu answer={answer} place={place} last={last} onRename={() => setRenaming(true)} onConvert={() => setConverting(true)} />
          <button
            className="icon-button no-print"
            aria-label={`Remove the answer for ${answer.asked}`}
            onClick={() => change({ kind: "remove_answer", key })}
          >
            <X size={15} />
          </button>
        </Own>
      </div>
      {converting && <AnswerUnit answer={answer} onDone={() => setConverting(false)} />}
      {rows.length > 1 && (
        <div className="mt-1 max-h-64 overflow-auto print:max-h-none" tabIndex={0} role="region" aria-label={`Results for ${answer.asked}`}>
          <AnswerTable rows={rows} looking={answer.direction === "x_at_y"} />
        </div>
      )}
      <NextPlace of={`answer:${key}`} />
      <CommentsOn about={`answer:${key}`} place={answer.name || answer.asked} />
      {answer.was && !looking && (
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
