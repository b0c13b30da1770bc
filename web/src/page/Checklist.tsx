import { Check, CircleHelp, TriangleAlert } from "lucide-react";

import type { FittedFit } from "../fits/kinds";

const MARKS = {
  fine: { icon: Check, word: "fine", color: "text-pine" },
  cause: { icon: TriangleAlert, word: "here it lies", color: "text-amber" },
  open: { icon: CircleHelp, word: "only you can tell", color: "text-mute" },
} as const;

/** What an expert checks when a formula does not fit, in the order in which it pays. */
export function Checklist({ checks }: { checks: FittedFit["checklist"] }) {
  if (!checks.length) return null;
  return (
    <ol className="mt-2 grid gap-1.5 border-l-2 border-rule pl-3 text-plain" aria-label="What to check">
      {checks.map((check) => {
        const { icon: Icon, word, color } = MARKS[check.state];
        return (
          <li key={check.question} className="flex items-start gap-2">
            <Icon size={15} className={`mt-0.5 shrink-0 ${color}`} aria-label={word} />
            <span>
              <strong className="font-semibold">{check.question}</strong> {check.said}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
