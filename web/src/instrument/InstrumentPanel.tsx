import { useQuery } from "@tanstack/react-query";
import { Play, Square, X } from "lucide-react";
import { useState } from "react";

import { api, type Instrument, type Run } from "../api/client";
import { useStudy } from "../study/context";
import { setView } from "../study/view";
import { readNumber } from "../ui/numbers";
import { Select } from "../ui/Select";
import { Keys } from "./Keys";
import { useRun } from "./useRun";

/** An instrument that is read into the table: what it shows now, started and stopped, reading by reading, and keys for others. */
export function InstrumentPanel() {
  const { run, problem, start, stop, single, reveal } = useRun();
  const { data: instruments = [] } = useQuery({
    queryKey: ["instruments"],
    staleTime: Infinity,
    queryFn: async () => (await api.GET("/api/instruments")).data ?? [],
  });
  const [chosen, setChosen] = useState("");
  const [posting, setPosting] = useState(false);
  const one = instruments.find(({ key }) => key === (run?.going ? run.instrument : chosen || run?.instrument)) ?? instruments[0];
  return (
    <section aria-label="Instrument" className="grid max-h-[55%] shrink-0 gap-2 overflow-y-auto border border-rule bg-sheet p-2.5">
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-semibold">Instrument</h3>
        {!run?.going && (
          <button className="icon-button" aria-label="Close the instrument" onClick={() => setView({ instrument: false })}>
            <X size={15} />
          </button>
        )}
      </div>
      {one && (
        <>
          <Select
            aria-label="Which instrument"
            className="field w-full min-w-0"
            disabled={run?.going}
            value={one.key}
            words={instruments.map(({ key, title }) => [key, title] as const)}
            onPick={setChosen}
          />
          <p className="text-note text-mute">
            {one.simulated && <strong className="font-semibold text-amber">Simulated. </strong>}
            {!run?.going && one.about}
          </p>
          {run && run.instrument === one.key && <Shown run={run} />}
          {run?.going ? (
            <button className="button-main justify-self-start" onClick={() => void stop()}>
              <Square size={13} /> Stop
            </button>
          ) : (
            <Begin key={one.key} one={one} onStart={start} onSingle={single} />
          )}
          {run && !run.going && run.simulated && run.taken > 1 && (
            <button className="button justify-self-start" onClick={() => void reveal()}>
              Reveal the true curve
            </button>
          )}
        </>
      )}
      <p role="alert" className="text-note text-amber empty:hidden">
        {problem}
      </p>
      <button className="justify-self-start text-note text-mute underline" aria-expanded={posting} onClick={() => setPosting(!posting)}>
        A real instrument, by HTTP
      </button>
      {posting && <Keys />}
    </section>
  );
}

/** What the display shows, large, and how far the run has come. */
function Shown({ run }: { run: Run }) {
  const [x, ...values] = run.shown;
  return (
    <div data-testid="shown" className="border-y border-rule py-1.5">
      {values.map(({ name, text }) => (
        <p key={name}>
          <span className="numerals font-book text-title font-semibold">{text}</span> <span className="text-note text-mute">{name}</span>
        </p>
      ))}
      <p className="numerals text-note text-mute">
        {x && `${x.name} ${x.text} · `}
        {run.taken} taken{run.gap && ` · ${run.gap}`}
      </p>
    </div>
  );
}

const LENGTHS = [
  ["readings", "readings"],
  ["s", "seconds"],
] as const;

interface BeginProps {
  one: Instrument;
  onStart: (body: { instrument: string; interval: number; most: number; channels: string[] }) => Promise<void>;
  onSingle: (instrument: string, x: string) => Promise<boolean>;
}

/** How often and how long, of which quantities; or one reading at an x that is typed. */
function Begin({ one, onStart, onSingle }: BeginProps) {
  const { columns } = useStudy();
  const [interval, setSeconds] = useState("0.5");
  const [most, setMost] = useState("60");
  const [counted, setCounted] = useState<"readings" | "s">("readings");
  const [channels, setChannels] = useState(one.channels.slice(0, 1).map(({ symbol }) => symbol));
  const [x, setX] = useState("");
  const [seconds, typed] = [readNumber(interval), readNumber(most)];
  // A run of 3 s at a reading a second has those at 0, 1, 2 and 3 s.
  const count = counted === "s" && typed !== null && seconds ? Math.floor(typed / seconds + 1e-9) + 1 : typed;
  const wrong =
    seconds === null || seconds < 0.1 || seconds > 3600
      ? "The interval is from 0.1 to 3600 s."
      : count === null || count < 1 || count > 10_000 || count % 1
        ? "The number of readings is from 1 to 10 000."
        : channels.length > 1 && !columns.some(({ role }) => role === "series")
          ? "Two quantities need a column with the role “series”: add one first."
          : "";
  const toggle = (symbol: string) =>
    setChannels(channels.includes(symbol) ? channels.filter((held) => held !== symbol) : [...channels, symbol]);
  return (
    <>
      <form
        aria-label="Read it again and again"
        className="flex flex-wrap items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          if (!wrong && channels.length) void onStart({ instrument: one.key, interval: seconds!, most: count!, channels });
        }}
      >
        every
        <input
          className="field numerals !h-[27px] w-14 text-right"
          aria-label="Seconds from one reading to the next"
          inputMode="decimal"
          value={interval}
          onChange={(event) => setSeconds(event.target.value)}
        />
        s, for
        <input
          className="field numerals !h-[27px] w-16 text-right"
          aria-label={counted === "s" ? "Seconds to run" : "Number of readings"}
          inputMode="decimal"
          value={most}
          onChange={(event) => setMost(event.target.value)}
        />
        <Select aria-label="How long it is read" className="field !h-[27px]" value={counted} words={LENGTHS} onPick={setCounted} />
        {one.channels.length > 1 &&
          one.channels.map(({ symbol, name }) => (
            <label key={symbol} className="flex w-full items-center gap-1.5">
              <input type="checkbox" className="accent-pine" checked={channels.includes(symbol)} onChange={() => toggle(symbol)} />
              {name}
            </label>
          ))}
        <button className="button-main" aria-disabled={wrong !== "" || !channels.length}>
          <Play size={13} /> Start
        </button>
        <span role="status" className="w-full text-note text-amber empty:hidden">
          {wrong}
        </span>
      </form>
      <form
        aria-label="One reading"
        className="flex flex-wrap items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          void onSingle(one.key, x).then((taken) => taken && setX(""));
        }}
      >
        at <i className="font-book">{one.x.symbol}</i>
        <input
          className="field numerals !h-[27px] w-16 text-right"
          aria-label={`${one.x.name} of a single reading`}
          value={x}
          onChange={(event) => setX(event.target.value)}
        />
        {one.x.unit}
        <button className="button">Read once</button>
      </form>
    </>
  );
}
