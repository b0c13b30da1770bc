import { Copy } from "lucide-react";

import type { Answer } from "../api/client";
import { cellsOf } from "../ask/AnswerTable";
import { CopyTable } from "../ui/CopyTable";
import { copyText } from "./copy";

/** What was asked and what came of it. */
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

export function CopyAnswer({ answer }: { answer: Answer }) {
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
