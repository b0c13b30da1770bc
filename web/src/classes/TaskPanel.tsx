import { CircleCheck, Circle, Lock, Send } from "lucide-react";
import { useEffect, useId, useRef, useState } from "react";

import type { Task } from "../api/client";
import { useLooking } from "../study/context";
import { SettledByCourse } from "./SettledByCourse";
import { StepWords } from "./StepWords";
import { useTask, useTaskActs, useTold } from "./useTask";

type Step = Task["steps"][number];

/** Milliseconds after the last letter until one's own words are kept. */
const REST = 1200;
const clock = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** The worksheet that a study is a copy of, beside the work: its steps in order, one's own words, and handing in. */
export function TaskPanel() {
  const task = useTask();
  return task && <Shown task={task} />;
}

function Shown({ task }: { task: Task }) {
  const looking = useLooking();
  const { handIn } = useTaskActs();
  useTold(task);
  const all = task.reached === task.steps.length;
  return (
    <section aria-label="Worksheet" className="no-print mt-3 grid gap-2 border border-edge bg-well p-3 text-plain">
      <h2 className="flex flex-wrap items-baseline justify-between gap-x-3 font-book text-lead font-semibold">
        Worksheet
        <span className="text-note font-normal text-mute">
          {task.student}
          {task.steps.length > 0 && `, ${task.reached} of ${task.steps.length} steps done`}
        </span>
      </h2>
      {task.gone && <p role="status">{task.gone}</p>}
      <ol aria-label="Steps" className="grid gap-2.5">
        {task.steps.map((step, place) => (
          <OneStep key={step.key} step={step} place={place} last={place === task.steps.length - 1} />
        ))}
      </ol>
      {!looking && task.withheld.length > 0 && (
        <ul aria-label="Kept back for now" className="grid gap-0.5 text-note text-mute">
          {task.withheld.map(({ part, what, until }) => (
            <li key={part} className="flex gap-1.5">
              <Lock size={13} className="mt-0.5 shrink-0" aria-hidden /> {what}: told when step {until} is done.
            </li>
          ))}
        </ul>
      )}
      <SettledByCourse />
      {!looking && task.lacking && <p className="text-note text-mute">{task.lacking}</p>}
      {!looking && !task.gone && (
        <p className="flex flex-wrap items-center gap-2">
          <button className={all ? "button-main" : "button"} aria-disabled={task.closed} onClick={() => !task.closed && handIn.mutate()}>
            <Send size={14} /> {task.number ? "Hand in again" : "Hand in to your teacher"}
          </button>
          {task.closed && <span className="text-mute">The worksheet is closed.</span>}
        </p>
      )}
      {task.handed_in && (
        <p role="status" className="text-note text-mute">
          Handed in on {clock.format(new Date(task.handed_in))}
          {task.number > 1 && `, for the ${ordinal(task.number)} time`}. What is changed since is not in it.
        </p>
      )}
      {handIn.error && (
        <p role="alert" className="text-amber">
          {handIn.error.message}
        </p>
      )}
    </section>
  );
}

const ordinal = (count: number) => `${count}${count === 2 ? "nd" : count === 3 ? "rd" : "th"}`;

function OneStep({ step, place, last }: { step: Step; place: number; last: boolean }) {
  const looking = useLooking();
  const { write } = useTaskActs();
  if (!step.open) {
    return (
      <li className="flex gap-2 text-mute">
        <Lock size={15} className="mt-0.5 shrink-0" aria-hidden />
        <span>Step {place + 1} is told when the one before it is done.</span>
      </li>
    );
  }
  const Sign = step.done ? CircleCheck : Circle;
  return (
    <li className="flex gap-2">
      <Sign size={16} className={`mt-0.5 shrink-0 ${step.done ? "text-pine" : "text-mute"}`} aria-label={step.done ? "Done" : "To do"} />
      <div className="grid min-w-0 grow gap-1">
        <StepWords text={step.text} />
        {step.needs && !step.done && (
          <p className="text-note text-mute">
            Needed{last ? "" : " to go on"}: {step.needs}.
          </p>
        )}
        {looking ? (
          step.own && <p className="border-l-2 border-rule pl-2 [overflow-wrap:anywhere] whitespace-pre-line">{step.own}</p>
        ) : (
          <OwnWords step={step} place={place} />
        )}
        {step.kind === "tick" && !looking && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-(--color-pine)"
              checked={step.done}
              onChange={(event) => write.mutate({ step: step.key, done: event.target.checked })}
            />
            Done
          </label>
        )}
        {write.error && (
          <p role="alert" className="text-amber">
            {write.error.message}
          </p>
        )}
      </div>
    </li>
  );
}

/** One's own words to a step, kept by themselves a moment after the last letter. */
function OwnWords({ step, place }: { step: Step; place: number }) {
  const id = useId();
  const { write } = useTaskActs();
  const [draft, setDraft] = useState<string | null>(null);
  const timer = useRef(0);
  const text = draft ?? step.own;
  const keep = (now: string) => {
    window.clearTimeout(timer.current);
    write.mutate({ step: step.key, text: now }, { onSuccess: () => setDraft((latest) => (latest === now ? null : latest)) });
  };
  // What was not kept yet is kept when the panel goes.
  const left = useRef<() => void>(() => undefined);
  useEffect(() => {
    left.current = () => draft !== null && keep(draft);
  });
  useEffect(() => () => left.current(), []);
  const type = (now: string) => {
    setDraft(now);
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => keep(now), REST);
  };
  const state = write.error ? `Not kept: ${write.error.message}` : draft !== null ? "Being kept…" : text ? "Kept" : "";
  return (
    <div className="grid gap-0.5">
      <label htmlFor={id} className="sr-only">
        Your words to step {place + 1}
      </label>
      <textarea
        id={id}
        className="field h-auto w-full [field-sizing:content] py-1"
        rows={step.kind === "text" ? 3 : 1}
        maxLength={10000}
        placeholder="Your own words"
        value={text}
        onChange={(event) => type(event.target.value)}
        onBlur={() => draft !== null && keep(draft)}
      />
      <p role={write.error ? "alert" : undefined} className="min-h-[1.2em] text-note text-mute" data-testid={`words-${place + 1}`}>
        {state}
      </p>
    </div>
  );
}
