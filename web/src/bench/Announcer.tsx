import { useState } from "react";

import { type Fit } from "../api/client";
import { isComputed, isDrawn } from "../fits/kinds";
import { useSnapshot } from "../study/context";

/** What the last step did, in one sentence for those who hear it: the step, and what the leading model says now. */
export function Announcer() {
  const { study, saving } = useSnapshot();
  const [seen, setSeen] = useState({ version: study.version, undo: study.undo, redo: study.redo });
  const [said, setSaid] = useState("");
  if (saving === "saved" && seen.version !== study.version) {
    setSeen({ version: study.version, undo: study.undo, redo: study.redo });
    setSaid([stepOf(seen, study), resultOf(study.analysis.fits[0])].filter(Boolean).join(" "));
  }
  return (
    <p className="sr-only" role="status" data-testid="announced">
      {said}
    </p>
  );
}

interface Steps {
  undo: string | null;
  redo: string | null;
}

/** Undoing makes what was done last the next to be done again, and the other way round. */
function stepOf(before: Steps, after: Steps): string {
  if (before.undo && after.redo === before.undo && after.undo !== before.undo) return `Undone: ${before.undo}.`;
  if (before.redo && after.undo === before.redo) return `Redone: ${before.redo}.`;
  return after.undo ? `${after.undo[0]!.toUpperCase()}${after.undo.slice(1)}.` : "";
}

function resultOf(fit: Fit | undefined): string {
  if (!fit) return "";
  if (!isDrawn(fit)) return `Model ${fit.letter}: ${fit.refusal}`;
  if (!isComputed(fit)) return `Model ${fit.letter}, ${fit.name}.`;
  const cautions = fit.cautions.length ? `, ${fit.cautions.length} ${fit.cautions.length === 1 ? "caution" : "cautions"}` : "";
  const miss = fit.typical_miss ? `, typical miss ${fit.typical_miss}` : "";
  return `Model ${fit.letter}, ${fit.name}: ${fit.equation_text}${miss}${cautions}.`;
}
