import { ChartLine, FileText, Table2 } from "lucide-react";
import { type ComponentType, useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";

import type { Study } from "../api/client";
import { AskLine } from "../ask/AskLine";
import { LensTabs } from "../lenses/LensTabs";
import { Page } from "../page/Page";
import { openPicture } from "../picture/openPicture";
import { Plot } from "../plot/Plot";
import { takeFile } from "../readings/files";
import { Readings } from "../readings/Readings";
import { usePasteAnywhere } from "../readings/usePasteAnywhere";
import { QueueContext, useStale } from "../study/context";
import { GestureQueue } from "../study/queue";
import { type Incoming, type Lens, resetView, setView, useView } from "../study/view";
import { fetchAll, later } from "../ui/later";
import { loadKatex } from "../ui/Typeset";
import { DropSign, useDrop } from "../ui/useDrop";
import { Failures } from "./Failures";
import { KeysDialog } from "./KeysDialog";
import { Messages } from "./Messages";
import { LookBar } from "./LookBar";
import { TopBar } from "./TopBar";
import { useNewer } from "../study/useNewer";
import { useRefined } from "../study/useRefined";
import { useBenchKeys } from "./useBenchKeys";
import { WidthHandle } from "./WidthHandle";
import { Announcer } from "./Announcer";

const CompareLens = later(() => import("../lenses/compare/CompareLens").then((one) => one.CompareLens), <LensTabs />);
const ReportLens = later(() => import("../lenses/report/ReportLens").then((one) => one.ReportLens), <LensTabs />);
const ResampleLens = later(() => import("../lenses/resample/ResampleLens").then((one) => one.ResampleLens), <LensTabs />);
const ResidualsLens = later(() => import("../lenses/residuals/ResidualsLens").then((one) => one.ResidualsLens), <LensTabs />);
const WorkingsLens = later(() => import("../lenses/workings/WorkingsLens").then((one) => one.WorkingsLens), <LensTabs />);
const IncomingTable = later(() => import("../readings/IncomingTable").then((one) => one.IncomingTable));

/** A window in which the lens and one other part have room, as in the breakpoints of the styles. */
const PAIR = "(min-width: 48rem) and (max-width: 65.99rem)";

const PANELS = [
  { name: "readings", word: "Readings", icon: Table2 },
  { name: "plot", word: "Plot", icon: ChartLine },
  { name: "page", word: "Page", icon: FileText },
] as const;
const LENSES: Record<Lens, ComponentType> = {
  plot: Plot,
  residuals: ResidualsLens,
  compare: CompareLens,
  resample: ResampleLens,
  workings: WorkingsLens,
  report: ReportLens,
};

/** A study that has been opened, with its queue of changes. */
export function OpenBench({ study: first, looking }: { study: Study; looking: boolean }) {
  const queue = useMemo(() => new GestureQueue(first, looking), [first, looking]);
  const { study, saving } = useSyncExternalStore(queue.subscribe, queue.read);
  const incoming = useView((view) => view.incoming);
  const lay = useCallback(async (file: File) => (looking ? queue.refuse() : openPicture(queue, file)), [looking, queue]);
  const take = useCallback((incoming: Incoming) => (looking ? queue.refuse() : setView({ incoming })), [looking, queue]);
  const dropping = useDrop(useCallback((file: File) => void takeFile(file, take, lay), [take, lay]));
  const [keys, setKeys] = useState(false);
  const showKeys = useCallback(() => setKeys(true), []);
  useBenchKeys(queue, showKeys);
  useRefined(queue, study);
  useNewer(queue, study);
  usePasteAnywhere(take, lay);
  const begun = useRef(first.row_count > 0);
  useEffect(() => {
    // A new study opens where one can type; where two parts have room, another beside the lens.
    if (!begun.current && !looking) setView({ panel: "readings" });
    else if (window.matchMedia(PAIR).matches) setView({ panel: "page" });
    return resetView;
  }, [looking]);
  useEffect(() => {
    void loadKatex().catch(() => undefined);
    // When the study has been drawn: nobody waits for these.
    const timer = window.setTimeout(fetchAll, 1000);
    return () => window.clearTimeout(timer);
  }, []);
  useEffect(() => {
    document.title = `${study.title} · Ridge`;
  }, [study.title]);
  useWarnWhileUnsaved(saving !== "saved");
  return (
    <QueueContext.Provider value={queue}>
      <div className="paper flex h-full flex-col">
        {looking ? <LookBar /> : <TopBar onHelp={showKeys} />}
        <Messages />
        <Failures />
        <Announcer />
        <Panels columns={study.columns.length} title={study.title} />
        <PanelTabs />
      </div>
      <KeysDialog open={keys} onOpenChange={setKeys} />
      {incoming && <IncomingTable key={incoming.text.length} incoming={incoming} />}
      {dropping && <DropSign />}
    </QueueContext.Provider>
  );
}

/** Readings, lens and page side by side; in a narrower window the lens and one of them, in a narrow one only that. */
function Panels({ columns, title }: { columns: number; title: string }) {
  const panel = useView((view) => view.panel);
  const lens = useView((view) => view.lens);
  const stale = useStale();
  const folded = useView((view) => view.pageFolded);
  const [width, setWidth] = useState<number | null>(null);
  const narrow = (name: string) => (panel === name ? "" : name === "plot" ? "max-pair:hidden print:block" : "max-bench:hidden print:block");
  // The report needs room, and nothing is asked of it.
  const handing = lens === "report";
  const readingsWidth = width ?? Math.min(278 + 62 * (columns - 2), 420);
  const ShownLens = LENSES[lens];
  return (
    <main className="paper-open flex min-h-0 grow max-pair:flex-col">
      <div
        className={`no-print relative min-h-0 shrink-0 p-3.5 max-pair:!w-full max-pair:shrink max-pair:grow max-pair:basis-0 ${narrow("readings")} ${handing ? "bench:hidden" : ""}`}
        style={{ width: readingsWidth + 28 }}
      >
        <Readings />
        <WidthHandle width={readingsWidth} onWidth={setWidth} />
      </div>
      <div
        className={`paper-figure flex min-h-0 min-w-0 grow flex-col gap-2 py-3 pr-3.5 ${handing || panel !== "readings" ? "max-bench:pl-3.5" : ""} ${handing ? "pl-3.5" : ""} max-pair:px-3 print:block print:p-0 ${narrow("plot")}`}
      >
        <div className="goes-stale min-h-0 grow" aria-busy={stale}>
          <ShownLens />
        </div>
        {!handing && (
          <div className={lens === "workings" ? "max-pair:hidden" : "contents"}>
            <AskLine />
          </div>
        )}
      </div>
      <div
        className={`paper-open w-[380px] shrink-0 min-[100rem]:w-[460px] min-[112rem]:w-[520px] overflow-y-auto border-l border-rule bg-sheet px-5 py-4 max-pair:w-full max-pair:shrink max-pair:grow max-pair:basis-0 max-pair:border-l-0 ${narrow("page")} ${folded ? "bench:hidden" : ""}`}
        tabIndex={0}
        role="region"
        aria-label={`Page of ${title}`}
      >
        <Page />
      </div>
    </main>
  );
}

function PanelTabs() {
  const panel = useView((view) => view.panel);
  return (
    <nav aria-label="Parts of the study" className="no-print hidden shrink-0 border-t border-rule bg-sheet max-bench:flex">
      {PANELS.map(({ name, word, icon: Icon }) => (
        <button
          key={name}
          aria-current={panel === name ? "true" : undefined}
          className={`flex grow basis-0 flex-col items-center gap-0.5 border-t-2 py-1.5 text-note ${panel === name ? "border-pine font-semibold" : "border-transparent text-mute"}`}
          onClick={() => setView({ panel: name })}
        >
          <Icon size={17} />
          {word}
        </button>
      ))}
    </nav>
  );
}

/** Leaving the page is asked about as long as something is not saved. */
function useWarnWhileUnsaved(unsaved: boolean) {
  useEffect(() => {
    if (!unsaved) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [unsaved]);
}
