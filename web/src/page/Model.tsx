import { ArrowUp, ChevronRight } from "lucide-react";
import { memo, useState } from "react";

import type { Fit } from "../api/client";
import { useLastGood } from "../fits/lastGood";
import { ModelSettings } from "../fits/ModelSettings";
import { Swatch } from "../fits/Swatch";
import { CommentsOn } from "../comments/CommentsOn";
import { useAnalysisPart, useChange, useLooking } from "../study/context";
import { Own } from "../study/Own";
import { select } from "../study/view";
import { EditableText } from "../ui/EditableText";
import { Hint, Term } from "../ui/Hint";
import { later } from "../ui/later";
import { Actions } from "./Actions";
import { Cautions } from "./Cautions";
import { Checklist } from "./Checklist";
import { Derived } from "./Derived";
import { Equation } from "./Equation";
import { FitMenu } from "./FitMenu";
import { NextPlace } from "./NextPlace";
import { OtherWay } from "./OtherWay";
import { Parameters } from "./Parameters";
import { Pieces } from "./Pieces";
import { RangeForm } from "./RangeForm";
import { Statistics } from "./Statistics";
import { type ComputedFit, differenceOf, type InterpolationFit, isComputed, type RefusedFit } from "../fits/kinds";

const HandPanel = later(() => import("../hand/HandPanel").then((one) => one.HandPanel));

/** The account of one fit: the leading one in full, the others with their equation and the rest one step away. */
export const Model = memo(function Model({ fit, place }: { fit: Fit; place: number }) {
  const change = useChange();
  const [open, setOpen] = useState(false);
  const [renaming, setNaming] = useState(false);
  const [ranging, setRanging] = useState(false);
  const leading = place === 0;
  const looking = useLooking();
  const shown = leading || open;
  const difference = differenceOf(fit);
  return (
    <section className="mt-4" aria-label={`Model ${fit.letter}`}>
      <Head fit={fit} place={place} onRename={() => setNaming(true)} onRange={() => setRanging(true)} />
      {(fit.label || renaming) && (
        <EditableText
          key={renaming ? "new" : "held"}
          label={`Name of fit ${fit.letter}`}
          value={fit.label}
          placeholder="Name"
          className="font-book text-lead font-semibold"
          focused={renaming}
          fixed={looking}
          onCommit={(name) => {
            setNaming(false);
            if (name !== fit.label) change({ kind: "set_fit", letter: fit.letter, name });
          }}
        />
      )}
      <div className="mt-1.5">
        <Own>
          <ModelSettings fit={fit} />
        </Own>
        {fit.range_text && !ranging && <p className="text-note text-mute">{fit.range_text}</p>}
        {ranging && <RangeForm fit={fit} onClose={() => setRanging(false)} />}
        {fit.family === "formula" && !fit.options.text ? null : fit.kind === "refused" ? (
          <Refusal fit={fit} />
        ) : fit.kind === "interpolation" ? (
          <Interpolated fit={fit} />
        ) : (
          <>
            <Equation fit={fit} />
            <NextPlace of={`apart:${fit.letter}`} />
            {fit.kind === "hand" && !looking && <HandPanel fit={fit} />}
            {difference && <p className="mt-1 font-book text-plain leading-snug">{difference.sentence}</p>}
            {!leading && (
              <button
                aria-expanded={open}
                className="no-print -ml-1 inline-flex items-center gap-1 rounded-sm px-1 text-plain text-mute hover:text-ink"
                onClick={() => setOpen(!open)}
              >
                <ChevronRight size={14} className={open ? "rotate-90" : ""} />{" "}
                {fit.kind === "fit" ? "Parameters and how well it fits" : "How well it fits"}
              </button>
            )}
            <div className={shown ? "" : "hidden print:block"}>
              {(fit.kind !== "hand" || looking) && <Parameters fit={fit} />}
              <NextPlace of={`parameter:${fit.letter}`} />
              <Derived fit={fit} />
              {fit.plus_minus && <p className="mt-0.5 text-note text-mute">{fit.plus_minus}</p>}
              {fit.kind === "fit" && fit.other_way && <OtherWay way={fit.other_way} />}
              {fit.how_well && (
                <>
                  <h3 className="mt-3 text-note font-semibold text-mute">How well it fits</h3>
                  <p className="mt-1 font-book text-plain leading-snug">{fit.how_well}</p>
                  <Statistics fit={fit} leading={place === 0} />
                </>
              )}
              <CommentsOn about={`fit:${fit.letter}`} place={`Fit ${fit.letter}`} />
              <Cautions fit={fit} />
              {fit.kind === "fit" && <Checklist checks={fit.checklist} />}
              <p className="mt-2 font-book text-plain leading-snug text-mute">{fit.method}</p>
            </div>
          </>
        )}
      </div>
    </section>
  );
});

interface HeadProps {
  fit: Fit;
  place: number;
  onRename: () => void;
  onRange: () => void;
}

/** Which fit it is, how well it fits, and what can be done with it. */
function Head({ fit, place, onRename, onRange }: HeadProps) {
  const change = useChange();
  const looking = useLooking();
  const leading = place === 0;
  return (
    <div className="flex flex-wrap items-center justify-end gap-x-1.5">
      <h2 className="flex items-center gap-2 text-note font-semibold text-mute">
        Model <Swatch letter={fit.letter} />
        <span className={`font-book text-plain text-ink ${looking ? "" : "hidden print:inline"}`}>{fit.label || fit.name}</span>
      </h2>
      {fit.hidden && <span className="no-print rounded bg-well px-1.5 text-note text-mute">not on the plot</span>}
      <span className="h-px min-w-0 grow bg-rule" />
      {isComputed(fit) && fit.r_squared && <Judgement fit={fit} />}
      <span className="-mr-1.5 inline-flex">
        {!leading && !looking && (
          <Hint text="Make this the leading fit: its residuals are shown and answers use it">
            <button
              className="icon-button no-print"
              aria-label={`Make ${fit.letter} the leading fit`}
              onClick={() => change({ kind: "lead_with", letter: fit.letter })}
            >
              <ArrowUp size={15} />
            </button>
          </Hint>
        )}
        <Own>
          <FitMenu fit={fit} place={place} onRename={onRename} onRange={onRange} />
        </Own>
      </span>
    </div>
  );
}

function Interpolated({ fit }: { fit: InterpolationFit }) {
  return (
    <>
      <p className="mt-1 font-book text-plain leading-snug">{fit.how_well}</p>
      <Pieces fit={fit} />
      <Cautions fit={fit} />
      <p className="mt-2 font-book text-plain leading-snug text-mute">{fit.method}</p>
    </>
  );
}

function Judgement({ fit }: { fit: ComputedFit }) {
  return (
    <span className="numerals text-note whitespace-nowrap text-mute">
      <Term
        word="R²"
        meaning="Share of the variation about the mean that the curve accounts for. It says nothing about whether this is the right model: look at the residuals."
      />{" "}
      <span className="text-ink">{fit.r_squared}</span>
      <span className="mx-1.5">·</span>
      <Term
        word="typical miss"
        meaning="How far a reading typically lies from the curve: √(sum of squared residuals / degrees of freedom), in the unit of y. Without weights this is s."
      />{" "}
      <span className="text-ink">{fit.typical_miss}</span>
    </span>
  );
}

/** Why there is no fit, the next thing to do, and what held before. */
function Refusal({ fit }: { fit: RefusedFit }) {
  const status = useAnalysisPart((analysis) => analysis.status);
  const old = useLastGood(fit.letter);
  const rows = fit.refused_rows.filter((row) => status[row] === 1);
  const text = String(fit.options.text ?? "");
  const [from, to] = fit.refused_at;
  return (
    <div role="status" className="mt-1 grid gap-1.5 font-book text-plain leading-snug">
      {from !== undefined && to !== undefined && text && (
        <p className="font-mono text-plain" aria-hidden="true">
          {text.slice(0, from)}
          <mark className="bg-amber-well text-amber underline decoration-wavy underline-offset-2">
            {text.slice(from, Math.max(to, from + 1)) || " "}
          </mark>
          {text.slice(Math.max(to, from + 1))}
        </p>
      )}
      <p>{fit.refusal}</p>
      {(rows.length > 0 || fit.actions.length > 0) && (
        <p className="flex flex-wrap gap-2">
          {rows.length > 0 && (
            <button className="button" onClick={() => select({ row: rows[0]!, col: 0 })}>
              Show row {rows[0]! + 1}
            </button>
          )}
          <Actions actions={fit.actions} />
        </p>
      )}
      <Checklist checks={fit.checklist} />
      {old && (
        <p className="text-plain text-mute">
          In grey, as it was before: {old.name}
          {isComputed(old) && <>, {old.equation_text}</>}
        </p>
      )}
    </div>
  );
}
