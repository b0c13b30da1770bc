import { useState } from "react";

import { SlidersHorizontal } from "lucide-react";
import { Popover } from "radix-ui";

import type { PlotSettings } from "../api/client";
import { useAnalysisPart, useChange, useNaming, useStudy } from "../study/context";
import { setView, useView } from "../study/view";
import { MARK_COLOURS, SHAPES } from "./shapes";
import { keysOf, wordsOf } from "../ui/keys";
import { Check, Choose, NumberField, Slide } from "./settingFields";
import { Hint } from "../ui/Hint";
import { limitProblem } from "./limitProblem";

type Set = (settings: Partial<Record<keyof PlotSettings, unknown>>) => void;

const ENDS = { low: "begins at", high: "ends at", step: "has a tick every" };
const GRIDS = { none: "none", major: "at ticks", minor: "at ticks and between" };
const LABELS = { letter: "letters", equation: "letters and equations", none: "none" };
const MARKS = SHAPES.map((shape) => [shape, shape === "cross" ? "crosses" : `${shape}s`] as const);

/** How the study is drawn: axes, limits, ticks, grid, marks, lines and labels; each is kept as it is set. */
export function PlotSettingsForm() {
  const { plot } = useStudy();
  const change = useChange();
  const set: Set = (settings) => {
    // A view that was zoomed belongs to the axes as they were.
    if (Object.keys(settings).some((key) => /scale|low|high|equal|straighten/.test(key))) setView({ domain: null });
    change({ kind: "set_plot", settings });
  };
  return (
    <Popover.Root>
      <Hint text="Plot settings: axes, ticks, markers, lines">
        <Popover.Trigger asChild>
          <button className="icon-button" aria-label="Plot settings: axes, ticks, markers, lines">
            <SlidersHorizontal size={16} />
          </button>
        </Popover.Trigger>
      </Hint>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="floating max-h-[80vh] w-80 overflow-auto"
          aria-label="Plot settings"
        >
          <div className="grid gap-3">
            <Limits set={set} />
            <Scales set={set} />
            <Looks set={set} />
            <button
              className="button justify-self-end"
              onClick={() => set(Object.fromEntries(Object.keys(plot).map((key) => [key, null])))}
            >
              Reset to automatic
            </button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Limits({ set }: { set: Set }) {
  const { plot } = useStudy();
  const naming = useNaming();
  const seen = useView((view) => view.seen);
  const [problem, setProblem] = useState("");
  const problemOf = (axis: "x" | "y", end: keyof typeof ENDS) => (value: number) =>
    limitProblem(end, value, {
      low: plot[`${axis}_low`] ?? null,
      high: plot[`${axis}_high`] ?? null,
      seen: seen?.[axis] ?? [0, 0],
      logarithmic: plot[`${axis}_scale`] === "log",
    });
  return (
    <div>
      <table>
        <caption className="sr-only">Limits and ticks of the axes</caption>
        <thead>
          <tr className="text-left text-note text-mute">
            <th scope="col" className="pr-3 font-semibold">
              Axis
            </th>
            <th scope="col" className="font-normal">
              from
            </th>
            <th scope="col" className="font-normal">
              to
            </th>
            <th scope="col" className="font-normal">
              tick every
            </th>
          </tr>
        </thead>
        <tbody>
          {(["x", "y"] as const).map((axis) => (
            <tr key={axis}>
              <th scope="row" className="pr-3 text-left font-book font-normal italic">
                {naming[axis]}
              </th>
              {keysOf(ENDS).map((end) => {
                const name = `${axis}_${end}` as const;
                return (
                  <td key={end} className="py-0.5 pr-1">
                    <NumberField
                      label={`The ${axis} axis ${ENDS[end]}`}
                      value={plot[name] ?? null}
                      clock={naming[`${axis}_clock`]}
                      problemOf={problemOf(axis, end)}
                      onProblem={setProblem}
                      onKeep={(value) => set({ [name]: value })}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p role="alert" className="text-plain text-amber">
        {problem}
      </p>
    </div>
  );
}

function Scales({ set }: { set: Set }) {
  const { plot } = useStudy();
  const naming = useNaming();
  const straight = useAnalysisPart((analysis) => analysis.straight);
  const refusal = useAnalysisPart((analysis) => analysis.straight_refusal);
  const even = !plot.straighten && plot.x_scale === "linear" && plot.y_scale === "linear";
  return (
    <>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1.5">
        {(["x", "y"] as const).map((axis) => (
          <Check
            key={axis}
            disabled={plot.straighten}
            checked={plot[`${axis}_scale`] === "log"}
            onChange={(on) => set({ [`${axis}_scale`]: on ? "log" : "linear" })}
          >
            <i className="font-book">{naming[axis]}</i> logarithmic
          </Check>
        ))}
        <Check checked={plot.equal ?? false} disabled={!even} onChange={(on) => set({ equal: on })}>
          Equal scales
        </Check>
        <Check checked={plot.join ?? false} onChange={(on) => set({ join: on })}>
          Join the readings
        </Check>
      </div>
      {plot.join && <p className="text-note text-mute">The lines join the readings in order of x. They are not a model.</p>}
      <div>
        <Check checked={plot.straighten ?? false} disabled={!straight && !plot.straighten} onChange={(on) => set({ straighten: on })}>
          Straighten the leading model
        </Check>
        <p className="mt-0.5 pl-6 text-note text-mute">
          {straight ? `${straight.y_title} against ${straight.x_title}: ${straight.line}` : refusal}
        </p>
      </div>
    </>
  );
}

function Looks({ set }: { set: Set }) {
  const { plot } = useStudy();
  return (
    <div className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5">
      <Choose label="Grid" value={plot.grid ?? "major"} words={wordsOf(GRIDS)} onPick={(grid) => set({ grid })} />
      <Choose label="Markers" value={plot.shape ?? "circle"} words={MARKS} onPick={(shape) => set({ shape })} />
      <Choose label="Marker colour" value={plot.colour ?? "ink"} words={MARK_COLOURS} onPick={(colour) => set({ colour })} />
      <Slide label="Marker size" value={plot.size ?? 4.5} low={1.5} high={10} onKeep={(size) => set({ size })} />
      <Slide label="Line width" value={plot.line ?? 2.2} low={0.8} high={5} onKeep={(line) => set({ line })} />
      <Choose label="Labels" value={plot.label ?? "letter"} words={wordsOf(LABELS)} onPick={(label) => set({ label })} />
    </div>
  );
}
