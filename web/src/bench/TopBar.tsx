import { Keyboard, PanelRightClose, PanelRightOpen, Redo2, Undo2 } from "lucide-react";

import { navigate } from "../route";
import { useQueue, useSnapshot } from "../study/context";
import { setView, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { Mark } from "../ui/Mark";
import { HandIn } from "./HandIn";
import { HistoryMenu } from "./HistoryMenu";

export function TopBar({ onHelp }: { onHelp: () => void }) {
  const queue = useQueue();
  const { study } = useSnapshot();
  const folded = useView((view) => view.pageFolded);
  return (
    <header className="no-print flex h-[46px] shrink-0 items-center gap-2 bg-bar px-3 text-on-bar">
      <a
        href="/"
        aria-label="Ridge: back to the shelf"
        className="on-bar rounded-(--radius) px-1 py-1"
        onClick={(event) => {
          if (event.metaKey || event.ctrlKey) return;
          event.preventDefault();
          navigate("/");
        }}
      >
        <Mark />
      </a>
      <span className="mx-1 hidden h-5 w-px bg-on-bar/25 sm:block" />
      <h1 className="min-w-0 truncate text-plain max-sm:sr-only">{study.title}</h1>
      <SavingState />
      <span className="grow" />
      <Hint text={study.undo ? `Undo: ${study.undo} (Ctrl+Z)` : "Nothing to undo"}>
        <button className="bar-button" aria-disabled={!study.undo} onClick={() => study.undo && queue.undo()}>
          <Undo2 size={15} /> <span className="max-md:sr-only">Undo</span>
        </button>
      </Hint>
      <Hint text={study.redo ? `Redo: ${study.redo} (Ctrl+Y)` : "Nothing to redo"}>
        <button className="bar-button" aria-disabled={!study.redo} onClick={() => study.redo && queue.redo()}>
          <Redo2 size={15} /> <span className="max-md:sr-only">Redo</span>
        </button>
      </Hint>
      <HistoryMenu />
      <Hint text="Keyboard shortcuts (?)">
        <button className="bar-button max-sm:hidden" aria-label="Keyboard shortcuts" onClick={onHelp}>
          <Keyboard size={15} />
        </button>
      </Hint>
      <button
        className="bar-button max-bench:hidden"
        aria-label={folded ? "Show the page" : "Hide the page"}
        aria-expanded={!folded}
        onClick={() => setView({ pageFolded: !folded })}
      >
        {folded ? <PanelRightOpen size={15} /> : <PanelRightClose size={15} />}
      </button>
      <HandIn />
    </header>
  );
}

/** "Saved" is said only when the server has acknowledged everything. */
function SavingState() {
  const { saving, held, message } = useSnapshot();
  const queue = useQueue();
  const words = {
    saved: "Saved",
    sending: "Saving…",
    waiting: `${message ? "" : "No connection: "}${held} change${held === 1 ? "" : "s"} not saved yet`,
    conflict: "Not saved",
  };
  return (
    <span
      role={saving === "saved" || saving === "sending" ? undefined : "status"}
      data-testid="saving"
      data-state={saving}
      className={`ml-1 text-plain whitespace-nowrap ${saving === "saved" ? "text-on-bar/75" : "text-lichen"}`}
    >
      {words[saving]}
      {saving === "waiting" && (
        <button className="on-bar ml-2 rounded-sm underline" onClick={queue.retry}>
          Try now
        </button>
      )}
    </span>
  );
}
