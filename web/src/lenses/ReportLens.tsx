import { ArrowDown, ArrowUp, Plus, X } from "lucide-react";
import { useEffect, useRef } from "react";

import type { ReportPart } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { EditableText } from "../ui/EditableText";
import { LensTabs } from "./LensTabs";

const WORDS: Record<ReportPart["part"], string> = {
  question: "Question",
  answers: "Answers",
  figure: "Figure",
  model: "Model with its equation",
  equation_errors: "Equation with standard errors",
  parameters: "Parameters",
  correlations: "Correlations of parameters",
  judgement: "How well it fits",
  tests: "Tests: t, p, F, χ²",
  residual_plot: "Residual plot",
  cautions: "Cautions",
  readings: "Readings",
  method: "Method and references",
  own: "Paragraph of your own",
};
export const REPORT_FRAME = "report";

/** What is handed in: its parts on the left, and beside them the report as it will be. */
export function ReportLens() {
  return (
    <section aria-label="Report" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div className="flex min-h-0 grow gap-2 max-md:flex-col max-md:overflow-auto">
        <Parts />
        <Preview />
      </div>
    </section>
  );
}

/** The report as a page of its own, which follows the study and keeps its place. */
function Preview() {
  const { id, version } = useStudy();
  const frame = useRef<HTMLIFrameElement>(null);
  const top = useRef(0);
  // The older page is still there when the newer one has only been asked for.
  useEffect(() => {
    top.current = frame.current?.contentWindow?.scrollY ?? 0;
  }, [version]);
  return (
    <iframe
      ref={frame}
      id={REPORT_FRAME}
      title="Report preview"
      src={`/api/studies/${id}/report.html?inline=true&version=${version}`}
      sandbox="allow-same-origin allow-modals"
      className="min-h-[420px] min-w-0 grow border border-rule bg-sheet"
      onLoad={() => frame.current?.contentWindow?.scrollTo(0, top.current)}
    />
  );
}

/** Author and date, and which parts the report has in which order. */
function Parts() {
  const study = useStudy();
  const change = useChange();
  const put = (parts: ReportPart[]) => change({ kind: "set_report", parts });
  const parts = study.report;
  const move = (from: number, to: number) => {
    const next = parts.slice();
    next.splice(to, 0, ...next.splice(from, 1));
    put(next);
  };
  const edit = (place: number, part: Partial<ReportPart>) => put(parts.map((one, at) => (at === place ? { ...one, ...part } : one)));
  return (
    <div
      className="grid w-[232px] shrink-0 content-start gap-2.5 overflow-y-auto border border-rule bg-sheet px-3 py-2.5 text-[13px] max-md:w-full"
      role="region"
      aria-label="Parts of the report"
      tabIndex={0}
    >
      <div className="grid gap-0.5">
        <EditableText
          label="Author line"
          value={study.author}
          placeholder="Author"
          onCommit={(author) => change({ kind: "set_report", author })}
        />
        <EditableText label="Date" value={study.date} placeholder="Date" onCommit={(date) => change({ kind: "set_report", date })} />
      </div>
      <ol aria-label="Parts in their order" className="grid">
        {parts.map((part, place) => (
          <li key={part.part === "own" ? `own ${place}` : part.part} className="border-t border-rule py-1">
            <div className="flex items-center gap-1">
              <label className="flex min-w-0 grow items-center gap-1.5">
                <input
                  type="checkbox"
                  className="accent-(--color-pine)"
                  checked={part.shown}
                  onChange={(event) => edit(place, { shown: event.target.checked })}
                />
                <span className={part.shown ? "" : "text-mute"}>{WORDS[part.part]}</span>
              </label>
              <button
                className="icon-button"
                aria-label={`${nameOf(part)}: earlier`}
                disabled={place === 0}
                onClick={() => move(place, place - 1)}
              >
                <ArrowUp size={14} />
              </button>
              <button
                className="icon-button"
                aria-label={`${nameOf(part)}: later`}
                disabled={place === parts.length - 1}
                onClick={() => move(place, place + 1)}
              >
                <ArrowDown size={14} />
              </button>
            </div>
            {part.part === "own" && (
              <div className="flex gap-1 pl-5">
                <div className="min-w-0 grow">
                  <EditableText
                    label="Heading of the paragraph"
                    value={part.heading ?? ""}
                    placeholder="Heading, if any"
                    className="font-book text-[13px] font-semibold"
                    onCommit={(heading) => edit(place, { heading })}
                  />
                  <EditableText
                    label="Text of the paragraph"
                    lines
                    longest={5000}
                    value={part.text ?? ""}
                    placeholder="Write here. **bold**, - list, $formula$; Shift+Enter begins a new line"
                    className="font-book text-[13px] leading-snug"
                    onCommit={(text) => edit(place, { text })}
                  />
                </div>
                <button
                  className="icon-button"
                  aria-label={`Remove the ${nameOf(part)}`}
                  onClick={() => put(parts.filter((_, at) => at !== place))}
                >
                  <X size={14} />
                </button>
              </div>
            )}
          </li>
        ))}
      </ol>
      <button className="button justify-self-start" onClick={() => put([...parts, { part: "own", shown: true, heading: "", text: "" }])}>
        <Plus size={14} /> Paragraph of your own
      </button>
    </div>
  );
}

const nameOf = (part: ReportPart) => (part.part === "own" && part.heading ? `paragraph ${part.heading}` : WORDS[part.part].toLowerCase());
