import { useQuery } from "@tanstack/react-query";
import { ChartLine, FileText, Table2 } from "lucide-react";
import { useCallback, useEffect, useMemo, useState, useRef, useSyncExternalStore } from "react";

import { api, messageOf, type Study } from "../api/client";
import { AskLine } from "../ask/AskLine";
import { CompareLens } from "../lenses/CompareLens";
import { ResampleLens } from "../lenses/ResampleLens";
import { ReportLens } from "../lenses/ReportLens";
import { ResidualsLens } from "../lenses/ResidualsLens";
import { Page } from "../page/Page";
import { Plot } from "../plot/Plot";
import { takeFile } from "../readings/files";
import { IncomingTable } from "../readings/IncomingTable";
import { Readings } from "../readings/Readings";
import { usePasteAnywhere } from "../readings/usePasteAnywhere";
import { navigate } from "../route";
import { QueueContext } from "../study/context";
import { GestureQueue } from "../study/queue";
import { type Incoming, resetView, setView, useView } from "../study/view";
import { Failures } from "./Failures";
import { KeysDialog } from "./KeysDialog";
import { Messages } from "./Messages";
import { TopBar } from "./TopBar";
import { useBenchKeys } from "./useBenchKeys";
import { loadKatex } from "../ui/Typeset";
import { DropSign, useDrop } from "../ui/useDrop";
import { WidthHandle } from "./WidthHandle";

/** A study: readings on the left, the plot in the middle, the page on the right; tabs where there is no room. */
export function Bench({ id }: { id: string }) {
  const opened = useQuery({
    queryKey: ["opened", id],
    gcTime: 0,
    queryFn: async () => {
      const { data, error } = await api.GET("/api/studies/{study_id}", { params: { path: { study_id: id } } });
      if (!data) throw new Error(messageOf(error));
      return data;
    },
  });
  if (opened.data) return <OpenBench study={opened.data} />;
  return (
    <main className="grid h-full place-content-center gap-3 p-6 text-center">
      {opened.isError ? (
        <>
          <h1 className="font-book text-2xl font-semibold">This study could not be opened</h1>
          <p role="alert">{opened.error.message === "Failed to fetch" ? "The server cannot be reached." : opened.error.message}</p>
          <p className="flex justify-center gap-2">
            <button className="button-main" onClick={() => void opened.refetch()}>
              Try again
            </button>
            <button className="button" onClick={() => navigate("/")}>
              Go to the shelf
            </button>
          </p>
        </>
      ) : (
        <p className="text-mute">Opening…</p>
      )}
    </main>
  );
}

const take = (incoming: Incoming) => setView({ incoming });

const PANELS = [
  { name: "readings", word: "Readings", icon: Table2 },
  { name: "plot", word: "Plot", icon: ChartLine },
  { name: "page", word: "Page", icon: FileText },
] as const;

function OpenBench({ study: first }: { study: Study }) {
  const queue = useMemo(() => new GestureQueue(first), [first]);
  const { study, saving } = useSyncExternalStore(queue.subscribe, queue.read);
  const panel = useView((view) => view.panel);
  const lens = useView((view) => view.lens);
  // The report needs room, and nothing is asked of it.
  const handing = lens === "report";
  const folded = useView((view) => view.pageFolded);
  const incoming = useView((view) => view.incoming);
  const dropping = useDrop(useCallback((file: File) => void takeFile(file, take), []));
  const [keys, setKeys] = useState(false);
  const [width, setWidth] = useState<number | null>(null);
  useBenchKeys(
    queue,
    useCallback(() => setKeys(true), []),
  );

  usePasteAnywhere(take);

  const begun = useRef(first.row_count > 0);
  useEffect(() => {
    // A new study opens where one can type.
    if (!begun.current) setView({ panel: "readings" });
    return resetView;
  }, []);
  useEffect(() => void loadKatex().catch(() => undefined), []);
  useEffect(() => {
    document.title = `${study.title} · Ridge`;
  }, [study.title]);
  useEffect(() => {
    if (saving === "saved") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [saving]);

  const narrow = (name: string) => (panel === name ? "" : "max-bench:hidden print:block");
  const readingsWidth = width ?? Math.min(272 + 62 * (study.columns.length - 2), 420);
  return (
    <QueueContext.Provider value={queue}>
      <div className="paper flex h-full flex-col">
        <TopBar onHelp={() => setKeys(true)} />
        <Messages />
        <Failures />
        <main className="paper-open flex min-h-0 grow max-bench:flex-col">
          <div
            className={`no-print relative min-h-0 shrink-0 p-3.5 max-bench:!w-full max-bench:shrink max-bench:grow max-bench:basis-0 ${narrow("readings")} ${handing ? "bench:hidden" : ""}`}
            style={{ width: readingsWidth + 28 }}
          >
            <Readings />
            <WidthHandle width={readingsWidth} onWidth={setWidth} />
          </div>
          <div
            className={`paper-figure flex min-h-0 min-w-0 grow flex-col gap-2 py-3 pr-3.5 ${handing ? "pl-3.5" : ""} max-bench:px-3 print:block print:p-0 ${narrow("plot")}`}
          >
            <div className="min-h-0 grow">
              {lens === "plot" ? (
                <Plot />
              ) : lens === "residuals" ? (
                <ResidualsLens />
              ) : lens === "compare" ? (
                <CompareLens />
              ) : lens === "resample" ? (
                <ResampleLens />
              ) : (
                <ReportLens />
              )}
            </div>
            {!handing && <AskLine />}
          </div>
          <div
            className={`paper-open w-[390px] shrink-0 overflow-y-auto border-l border-rule bg-sheet px-5 py-4 max-bench:w-full max-bench:shrink max-bench:grow max-bench:basis-0 max-bench:border-l-0 ${narrow("page")} ${folded ? "bench:hidden" : ""}`}
            tabIndex={0}
            role="region"
            aria-label="Account"
          >
            <Page />
          </div>
        </main>
        <nav aria-label="Parts of the study" className="no-print hidden shrink-0 border-t border-rule bg-sheet max-bench:flex">
          {PANELS.map(({ name, word, icon: Icon }) => (
            <button
              key={name}
              aria-current={panel === name ? "true" : undefined}
              className={`flex grow basis-0 flex-col items-center gap-0.5 border-t-2 py-1.5 text-[12px] ${panel === name ? "border-pine font-semibold" : "border-transparent text-mute"}`}
              onClick={() => setView({ panel: name })}
            >
              <Icon size={17} />
              {word}
            </button>
          ))}
        </nav>
      </div>
      <KeysDialog open={keys} onOpenChange={setKeys} />
      {incoming && <IncomingTable key={incoming.text.length} incoming={incoming} />}
      {dropping && <DropSign />}
    </QueueContext.Provider>
  );
}
