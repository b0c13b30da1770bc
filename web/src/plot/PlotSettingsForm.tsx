import { SlidersHorizontal } from "lucide-react";
import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";

import type { PlotSettings } from "../api/client";
import { useAnalysisPart, useNaming, useChange, useStudy } from "../study/context";
import { setView } from "../study/view";
import { inField, readNumber } from "../ui/decimals";
import { Hint } from "../ui/Hint";
import { SHAPES } from "./shapes";

type Key = keyof PlotSettings;

/** How the study is drawn: axes, limits, ticks, grid, marks, lines and labels; each is kept as it is set. */
export function PlotSettingsForm() {
  const { plot } = useStudy();
  const naming = useNaming();
  const straight = useAnalysisPart((analysis) => analysis.straight);
  const refusal = useAnalysisPart((analysis) => analysis.straight_refusal);
  const change = useChange();
  const set = (settings: Partial<Record<Key, unknown>>) => {
    // A view that was zoomed belongs to the axes as they were.
    if (Object.keys(settings).some((key) => /scale|low|high|equal|straighten/.test(key))) setView({ domain: null });
    change({ kind: "set_plot", settings });
  };
  const even = !plot.straighten && plot.x_scale === "linear" && plot.y_scale === "linear";
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
            <table>
              <thead>
                <tr className="text-left text-[12px] text-mute">
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
                    {(["low", "high", "step"] as const).map((end) => {
                      const name = `${axis}_${end}` as const;
                      const words = { low: "begins at", high: "ends at", step: "has a tick every" };
                      return (
                        <td key={end} className="py-0.5 pr-1">
                          <NumberField
                            label={`The ${axis} axis ${words[end]}`}
                            value={plot[name] ?? null}
                            clock={naming[`${axis}_clock`]}
                            onKeep={(value) => set({ [name]: value })}
                          />
                        </td>
                      );
                    })}
                  </tr>
                ))}
              </tbody>
            </table>
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
            {plot.join && <p className="text-[12px] text-mute">The lines join the readings in order of x. They are not a model.</p>}
            <div>
              <Check checked={plot.straighten ?? false} disabled={!straight && !plot.straighten} onChange={(on) => set({ straighten: on })}>
                Straighten the leading model
              </Check>
              <p className="mt-0.5 pl-6 text-[12px] text-mute">
                {straight ? `${straight.y_title} against ${straight.x_title}: ${straight.line}` : refusal}
              </p>
            </div>
            <div className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5">
              <Pick
                label="Grid"
                value={plot.grid ?? "major"}
                words={{ none: "none", major: "at ticks", minor: "at ticks and between" }}
                onPick={(grid) => set({ grid })}
              />
              <Pick
                label="Markers"
                value={plot.shape ?? "circle"}
                words={Object.fromEntries(SHAPES.map((shape) => [shape, `${shape}s`.replace("sss", "sses")]))}
                onPick={(shape) => set({ shape })}
              />
              <Range label="Marker size" value={plot.size ?? 4.5} low={1.5} high={10} onKeep={(size) => set({ size })} />
              <Range label="Line width" value={plot.line ?? 2.2} low={0.8} high={5} onKeep={(line) => set({ line })} />
              <Pick
                label="Labels"
                value={plot.label ?? "letter"}
                words={{ letter: "letters", equation: "letters and equations", none: "none" }}
                onPick={(label) => set({ label })}
              />
            </div>
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

function Check({
  checked,
  disabled,
  onChange,
  children,
}: {
  checked: boolean;
  disabled?: boolean;
  onChange: (on: boolean) => void;
  children: ReactNode;
}) {
  return (
    <label className={`flex items-center gap-2 ${disabled ? "text-mute" : ""}`}>
      <input
        type="checkbox"
        className="size-4 accent-pine"
        checked={checked}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

function Pick({
  label,
  value,
  words,
  onPick,
}: {
  label: string;
  value: string;
  words: Record<string, string>;
  onPick: (value: string) => void;
}) {
  return (
    <label className="contents">
      <span>{label}</span>
      <select className="field" value={value} onChange={(event) => onPick(event.target.value)}>
        {Object.entries(words).map(([name, word]) => (
          <option key={name} value={name}>
            {word}
          </option>
        ))}
      </select>
    </label>
  );
}

/** A slider that is kept when it is let go. */
function Range({
  label,
  value,
  low,
  high,
  onKeep,
}: {
  label: string;
  value: number;
  low: number;
  high: number;
  onKeep: (value: number) => void;
}) {
  const [draft, setDraft] = useState<number | null>(null);
  const keep = () => {
    if (draft !== null && draft !== value) onKeep(draft);
    setDraft(null);
  };
  return (
    <label className="contents">
      <span>{label}</span>
      <input
        type="range"
        className="accent-pine"
        min={low}
        max={high}
        step={0.1}
        value={draft ?? value}
        onChange={(event) => setDraft(Number(event.target.value))}
        onPointerUp={keep}
        onKeyUp={keep}
        onBlur={keep}
      />
    </label>
  );
}

/** A number that is kept on Enter or leaving; empty sets it back to what draws itself. */
function NumberField({
  label,
  value,
  clock,
  onKeep,
}: {
  label: string;
  value: number | null;
  clock: string;
  onKeep: (value: number | null) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const keep = () => {
    if (draft === null) return;
    const next = draft.trim() ? readNumber(draft, clock) : null;
    const unread = next === null && draft.trim() !== "";
    setWrong(unread);
    if (unread) return;
    setDraft(null);
    if (next !== value) onKeep(next);
  };
  return (
    <input
      className="field numerals h-[27px] w-full px-1.5 text-right aria-invalid:border-amber aria-invalid:text-amber"
      inputMode="decimal"
      aria-label={label}
      aria-invalid={wrong}
      title={wrong ? (clock ? "This is neither a number nor a time such as 13:30." : "This is not a number.") : undefined}
      placeholder="auto"
      value={draft ?? (value === null ? "" : inField(value, clock))}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === "Enter" && keep()}
    />
  );
}
