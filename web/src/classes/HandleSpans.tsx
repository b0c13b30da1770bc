import { X } from "lucide-react";

import type { HandleSpan } from "../api/client";
import { NumberField } from "../ui/NumberField";
import { Select } from "../ui/Select";
import { useParameters } from "./parametersOffered";

/** Between which values handles go while a curve is set by hand, and by which step; the others take theirs from the readings. */
export function HandleSpans({ spans, onSpans }: { spans: HandleSpan[]; onSpans: (spans: HandleSpan[]) => void }) {
  const parameters = useParameters();
  const is = (form: string, name: string) => (span: HandleSpan) => span.form === form && span.parameter === name;
  const left = parameters.filter(({ form, name }) => !spans.some(is(form, name)));
  const put = (place: number, span: HandleSpan) => onSpans(spans.map((one, at) => (at === place ? span : one)));
  return (
    <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-1">
      <legend>Spans and steps of handles</legend>
      {spans.map((span, place) => {
        const said = parameters.find(({ form, name }) => is(form, name)(span))?.said ?? span.parameter;
        const field = (word: string, part: "low" | "high" | "step", name: string) => (
          <NumberField
            word={word}
            label={`${name} for ${said}`}
            value={span[part]}
            onValue={(value) => put(place, { ...span, [part]: value })}
          />
        );
        return (
          <div key={`${span.form} ${span.parameter}`} className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="grow basis-60">{said}</span>
            {field("from", "low", "Lowest value")}
            {field("to", "high", "Highest value")}
            {field("by", "step", "Step")}
            <button
              type="button"
              className="icon-button"
              aria-label={`No span of its own for ${said}`}
              onClick={() => onSpans(spans.filter((one) => one !== span))}
            >
              <X size={14} />
            </button>
          </div>
        );
      })}
      <Select
        aria-label="A span for"
        className="field w-full"
        value=""
        words={[["", "Another handle…"] as const, ...left.map(({ form, name, said }) => [`${form} ${name}`, said] as const)]}
        onPick={(wanted) => {
          const [form, parameter] = wanted.split(" ");
          if (form && parameter) onSpans([...spans, { form, parameter, low: 0, high: 10, step: 0.1 }]);
        }}
      />
    </fieldset>
  );
}
