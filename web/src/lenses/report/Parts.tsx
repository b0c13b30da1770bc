import { ArrowDown, ArrowUp, Plus, X } from "lucide-react";

import type { ReportPart } from "../../api/client";
import { useChange, useStudy } from "../../study/context";
import { EditableText } from "../../ui/EditableText";

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
  comments: "Comments of others",
  own: "Paragraph of your own",
  working: "Working",
};

/** Parts that a report may have several times. */
const isOwn = (part: ReportPart) => part.part === "own" || part.part === "working";

/** Author and date, and which parts the report has in which order. */
export function Parts() {
  const study = useStudy();
  const change = useChange();
  const parts = study.report;
  const put = (parts: ReportPart[]) => change({ kind: "set_report", parts });
  return (
    <div
      className="grid w-[232px] shrink-0 content-start gap-2.5 overflow-y-auto border border-rule bg-sheet px-3 py-2.5 text-plain max-md:w-full"
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
          <Part key={isOwn(part) ? `${part.part} ${place}` : part.part} parts={parts} place={place} put={put} />
        ))}
      </ol>
      <button className="button justify-self-start" onClick={() => put([...parts, { part: "own", shown: true, heading: "", text: "" }])}>
        <Plus size={14} /> Paragraph of your own
      </button>
    </div>
  );
}

function Part({ parts, place, put }: { parts: ReportPart[]; place: number; put: (parts: ReportPart[]) => void }) {
  const part = parts[place]!;
  const name =
    isOwn(part) && part.heading ? `${part.part === "own" ? "paragraph" : "working"} ${part.heading}` : WORDS[part.part].toLowerCase();
  const edit = (changed: Partial<ReportPart>) => put(parts.map((one, at) => (at === place ? { ...one, ...changed } : one)));
  const move = (to: number) => {
    const next = parts.slice();
    next.splice(to, 0, ...next.splice(place, 1));
    put(next);
  };
  return (
    <li className="border-t border-rule py-1">
      <div className="flex items-center gap-1">
        <label className="flex min-w-0 grow items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-(--color-pine)"
            checked={part.shown}
            onChange={(event) => edit({ shown: event.target.checked })}
          />
          <span className={part.shown ? "" : "text-mute"}>
            {WORDS[part.part]}
            {part.part === "working" && part.heading && `: ${part.heading}`}
          </span>
        </label>
        <button className="icon-button" aria-label={`${name}: earlier`} disabled={place === 0} onClick={() => move(place - 1)}>
          <ArrowUp size={14} />
        </button>
        <button className="icon-button" aria-label={`${name}: later`} disabled={place === parts.length - 1} onClick={() => move(place + 1)}>
          <ArrowDown size={14} />
        </button>
        {part.part === "working" && (
          <button className="icon-button" aria-label={`Remove the ${name}`} onClick={() => put(parts.filter((_, at) => at !== place))}>
            <X size={14} />
          </button>
        )}
      </div>
      {part.part === "own" && (
        <OwnParagraph part={part} name={name} onEdit={edit} onRemove={() => put(parts.filter((_, at) => at !== place))} />
      )}
    </li>
  );
}

interface OwnProps {
  part: ReportPart;
  name: string;
  onEdit: (changed: Partial<ReportPart>) => void;
  onRemove: () => void;
}

function OwnParagraph({ part, name, onEdit, onRemove }: OwnProps) {
  return (
    <div className="flex gap-1 pl-5">
      <div className="min-w-0 grow">
        <EditableText
          label="Heading of the paragraph"
          value={part.heading ?? ""}
          placeholder="Heading, if any"
          className="font-book text-plain font-semibold"
          onCommit={(heading) => onEdit({ heading })}
        />
        <EditableText
          label="Text of the paragraph"
          lines
          longest={5000}
          value={part.text ?? ""}
          placeholder="Write here. **bold**, - list, $formula$; Shift+Enter begins a new line"
          className="font-book text-plain leading-snug"
          onCommit={(text) => onEdit({ text })}
        />
      </div>
      <button className="icon-button" aria-label={`Remove the ${name}`} onClick={onRemove}>
        <X size={14} />
      </button>
    </div>
  );
}
