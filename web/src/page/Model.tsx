import { ArrowUp, ChevronRight, X } from "lucide-react";
import { memo, useState } from "react";

import type { Fit } from "../api/client";
import { ModelSettings } from "../fits/ModelSettings";
import { Swatch } from "../fits/Swatch";
import { useAnalysis, useChange } from "../study/context";
import { select } from "../study/view";
import { Hint, Term } from "../ui/Hint";
import { Cautions } from "./Cautions";
import { Derived } from "./Derived";
import { Equation } from "./Equation";
import { Parameters } from "./Parameters";
import { Statistics } from "./Statistics";

/** The account of one fit: the leading one in full, the others with their equation and the rest one step away. */
export const Model = memo(function Model({ fit, leading, alone }: { fit: Fit; leading: boolean; alone: boolean }) {
  const change = useChange();
  const [open, setOpen] = useState(false);
  const shown = leading || open;
  return (
    <section className="mt-4" aria-label={`Model ${fit.letter}`}>
      <div className="flex items-center gap-2">
        <h2 className="flex items-center gap-2 text-[12px] font-semibold text-mute">
          Model <Swatch letter={fit.letter} />
          <span className="hidden font-book text-[14px] text-ink print:inline">{fit.name}</span>
        </h2>
        <span className="h-px grow bg-rule" />
        {!fit.refusal && <Judgement fit={fit} />}
        {!leading && (
          <Hint text="Lead: its residuals are shown and answers come from it">
            <button className="icon-button no-print" aria-label={`Let fit ${fit.letter} lead`} onClick={() => change({ kind: "lead_with", letter: fit.letter })}>
              <ArrowUp size={15} />
            </button>
          </Hint>
        )}
        {!alone && (
          <button className="icon-button no-print" aria-label={`Remove fit ${fit.letter}`} onClick={() => change({ kind: "remove_fit", letter: fit.letter })}>
            <X size={15} />
          </button>
        )}
      </div>
      <div className="mt-1.5">
        <ModelSettings fit={fit} />
        {fit.refusal ? (
          <Refusal fit={fit} />
        ) : (
          <>
            <Equation fit={fit} />
            {!leading && (
              <button aria-expanded={open} className="no-print -ml-1 inline-flex items-center gap-1 rounded-sm px-1 text-[13px] text-mute hover:text-ink" onClick={() => setOpen(!open)}>
                <ChevronRight size={14} className={open ? "rotate-90" : ""} /> Parameters and how well it fits
              </button>
            )}
            <div className={shown ? "" : "hidden print:block"}>
              <Parameters fit={fit} />
              <Derived fit={fit} />
              <h3 className="mt-3 text-[12px] font-semibold text-mute">How well it fits</h3>
              <p className="mt-1 font-book text-[14.5px] leading-snug">{fit.how_well}</p>
              <Statistics fit={fit} />
              {fit.cautions && fit.cautions.length > 0 && (
                <>
                  <h3 className="mt-3 mb-1 text-[12px] font-semibold text-mute">Cautions</h3>
                  <Cautions fit={fit} />
                </>
              )}
              <p className="mt-2 font-book text-[13.5px] leading-snug text-mute">{fit.method}</p>
            </div>
          </>
        )}
      </div>
    </section>
  );
});

function Judgement({ fit }: { fit: Fit }) {
  return (
    <span className="numerals text-[12px] whitespace-nowrap text-mute">
      <Term word="R²" meaning="Share of the variation that the curve accounts for. It says nothing about whether this is the right model: look at the residuals." />{" "}
      <span className="text-ink">{fit.r_squared}</span>
      <span className="mx-1.5">·</span>
      <Term word="typical miss" meaning="Residual standard deviation s: how far a reading typically lies from the curve." /> <span className="text-ink">{fit.typical_miss}</span>
    </span>
  );
}

/** Why there is no fit, and the next thing to do where Ridge can do it. */
function Refusal({ fit }: { fit: Fit }) {
  const change = useChange();
  const { status } = useAnalysis();
  const rows = (fit.refused_rows ?? []).filter((row) => status[row] === 1);
  const text = String(fit.options.text ?? "");
  const [from, to] = fit.refused_at ?? [];
  return (
    <div role="status" className="mt-1 grid gap-1.5 font-book text-[14.5px] leading-snug">
      {from !== undefined && to !== undefined && text && (
        <p className="font-mono text-[13px]" aria-hidden="true">
          {text.slice(0, from)}
          <mark className="bg-amber-well text-amber underline decoration-wavy underline-offset-2">{text.slice(from, Math.max(to, from + 1)) || " "}</mark>
          {text.slice(Math.max(to, from + 1))}
        </p>
      )}
      <p>{fit.refusal}</p>
      {rows.length > 0 && (
        <p className="flex flex-wrap gap-2">
          <button className="button" onClick={() => select({ row: rows[0]!, col: 0 })}>
            Show row {rows[0]! + 1}
          </button>
          <button className="button" onClick={() => change({ kind: "mark_rows", marks: rows.map((row) => ({ row, reason: `no value of the ${fit.name} there` })) })}>
            Set {rows.length === 1 ? `row ${rows[0]! + 1}` : `${rows.length} rows`} aside
          </button>
        </p>
      )}
    </div>
  );
}
