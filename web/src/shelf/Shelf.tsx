import { ArrowUpRight, Plus, Search, UserRound, Users } from "lucide-react";
import { useCallback, useEffect, useState } from "react";

import { useAccount } from "../account/useAccount";
import type { Sample } from "../api/client";
import { Worksheets } from "../classes/Worksheets";
import { navigate } from "../route";
import { beginWithPicture } from "../picture/beginWithPicture";
import { FileButton } from "../readings/FileButton";
import { takeFile } from "../readings/files";
import { usePasteAnywhere } from "../readings/usePasteAnywhere";
import type { Incoming } from "../study/view";
import { Mark } from "../ui/Mark";
import { DropSign, useDrop } from "../ui/useDrop";
import { Bin } from "./Bin";
import { chosenCards, type Order, ORDERS } from "./order";
import { StudyCard } from "./StudyCard";
import { useShelf } from "./useShelf";
import { Select } from "../ui/Select";
import { wordsOf } from "../ui/keys";
import { chooseSign } from "../ui/chooseSign";
import type { DecimalSign } from "../ui/decimalSign";
import { fetchAll, later } from "../ui/later";

const TableDialog = later(() => import("../readings/TableDialog").then((one) => one.TableDialog));

export function Shelf() {
  const { shelf, create, rename, duplicate, restore, remove, emptyBin } = useShelf();
  useEffect(() => {
    document.title = "Shelf · Ridge";
    // A study is likely to be opened next.
    const timer = window.setTimeout(fetchAll, 1000);
    return () => window.clearTimeout(timer);
  }, []);
  const [incoming, setIncoming] = useState<Incoming | null>(null);
  const [wanted, setWanted] = useState("");
  const [order, setOrder] = useState<Order>("changed");
  const dropping = useDrop(useCallback((dropped: File) => void takeFile(dropped, setIncoming, beginWithPicture), []));
  usePasteAnywhere(setIncoming, beginWithPicture);
  const data = shelf.data;
  const cards = data ? chosenCards(data.cards, wanted, order) : [];
  const start = () => create.mutate({});
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[46px] shrink-0 items-center justify-between bg-bar px-4 text-on-bar max-sm:px-2">
        <Mark />
        <span className="flex items-center gap-2 max-sm:gap-1">
          <AccountButton />
          <button className="bar-button" aria-label="Join a class" onClick={() => navigate("/join")}>
            <Users size={15} /> <span className="max-md:sr-only">Join a class</span>
          </button>
          <FileButton word="Open file" className="bar-button" onTable={setIncoming} onPicture={beginWithPicture} />
          <button className="button-main" onClick={start} disabled={create.isPending}>
            <Plus size={15} /> New study
          </button>
        </span>
      </header>
      <main className="mx-auto w-full max-w-[1180px] grow px-5 pt-7 pb-16">
        <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
          <h1 className="font-book text-title font-semibold">Shelf</h1>
          {data && data.cards.length > 1 && <Find wanted={wanted} onWanted={setWanted} order={order} onOrder={setOrder} />}
        </div>
        {data && wanted.trim() && !cards.length && (
          <p role="status" className="mt-4 text-mute">
            No study has “{wanted.trim()}” in its title, question or equation.
          </p>
        )}
        {shelf.isError && (
          <p role="alert" className="mt-4 flex items-center gap-3 rounded-(--radius) bg-amber-well px-4 py-3 text-amber">
            The shelf could not be loaded: {shelf.error.message}
            <button className="button" onClick={() => void shelf.refetch()}>
              Try again
            </button>
          </p>
        )}
        {data && !data.cards.length && <Empty onStart={start} busy={create.isPending} />}
        {data && data.cards.length > 0 && (
          <ul aria-label="Studies" className="mt-4 grid gap-4 [grid-template-columns:repeat(auto-fill,minmax(248px,1fr))]">
            {cards.map((card) => (
              <StudyCard
                key={card.id}
                card={card}
                onRename={(title) => rename.mutate({ card, title })}
                onDuplicate={() => duplicate.mutate(card)}
                onDelete={() => remove.mutate(card)}
              />
            ))}
          </ul>
        )}
        {data && <Samples samples={data.samples} onOpen={(sample) => create.mutate({ sample })} />}
        {data && <Worksheets />}
        {data && data.cards.length > 0 && <OnlyHere />}
        {data && <Sign sign={data.decimal_sign} onChosen={() => void shelf.refetch()} />}
        {data && data.bin.length > 0 && (
          <Bin cards={data.bin} onRestore={(card) => restore.mutate(card)} onEmpty={() => emptyBin.mutate()} />
        )}
      </main>
      {dropping && <DropSign />}
      {incoming && (
        <TableDialog
          key={incoming.text.length}
          incoming={incoming}
          filled={false}
          many
          onClose={() => setIncoming(null)}
          onTake={(table, apart) => {
            const title = (incoming.name ?? "New study").replace(/\.\w{1,5}$/, "").slice(0, 200);
            create.mutate({ title, table, apart }, { onSuccess: () => setIncoming(null) });
          }}
        />
      )}
    </div>
  );
}

/** To the account: to keep what a guest has made, or under the name of who is here. */
function AccountButton() {
  const account = useAccount();
  // There from the start: what comes later would move the others.
  return (
    <button className="bar-button" onClick={() => navigate("/account")}>
      <UserRound size={15} /> <span className="max-w-40 truncate max-sm:sr-only">{account?.name || "Keep my studies"}</span>
    </button>
  );
}

/** Of a guest's studies only one browser knows, and not for ever. */
function OnlyHere() {
  const account = useAccount();
  if (!account?.guest || account.shared) return null;
  return (
    <p className="mt-10 text-plain text-mute">
      Only this browser knows these studies, for 90 days after your last visit. <em>Keep my studies</em> keeps them for longer, and for
      other computers.
    </p>
  );
}

interface FindProps {
  wanted: string;
  onWanted: (wanted: string) => void;
  order: Order;
  onOrder: (order: Order) => void;
}

function Find({ wanted, onWanted, order, onOrder }: FindProps) {
  return (
    <div role="search" aria-label="Studies" className="flex flex-wrap items-center gap-2">
      <label className="relative">
        <span className="sr-only">Find a study</span>
        <Search size={14} className="absolute top-2 left-2 text-mute" />
        <input
          className="field w-56 pl-7"
          type="search"
          placeholder="title, question or equation"
          value={wanted}
          onChange={(event) => onWanted(event.target.value)}
        />
      </label>
      <label className="flex items-center gap-1.5 text-plain text-mute">
        sort by
        <Select aria-label="Order of the studies" value={order} words={wordsOf(ORDERS)} onPick={onOrder} />
      </label>
    </div>
  );
}

function Empty({ onStart, busy }: { onStart: () => void; busy: boolean }) {
  return (
    <section className="mt-4 border border-rule bg-sheet p-6">
      <h2 className="font-book text-lead font-semibold">Nothing here yet</h2>
      <p className="mt-1 max-w-prose text-mute">
        A study holds your readings, the curves through them, and the answers you take from it. Everything is saved as you make it; no
        account is needed. A table can be pasted or a file dropped anywhere on this page.
      </p>
      <button className="button-main mt-4" onClick={onStart} disabled={busy}>
        <Plus size={15} /> Type or paste readings
      </button>
    </section>
  );
}

function Samples({ samples, onOpen }: { samples: Sample[]; onOpen: (name: string) => void }) {
  return (
    <section className="mt-10" aria-labelledby="samples">
      <h2 id="samples" className="font-book text-title font-semibold">
        Samples to learn from
      </h2>
      <p className="mt-0.5 text-plain text-mute">
        From the Sallow Quay field week. All numbers are invented. Opening one makes a copy of your own.
      </p>
      <ul className="mt-3 divide-y divide-rule border-y border-rule">
        {samples.map((sample) => (
          <li key={sample.name} className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 py-3">
            <div className="min-w-0 grow basis-80">
              <h3 className="font-medium">{sample.title}</h3>
              <p className="text-plain text-mute">
                <span className="font-book italic">{sample.question}</span> {sample.discover}
              </p>
            </div>
            <button className="button" onClick={() => onOpen(sample.name)} aria-label={`Open a copy of ${sample.title}`}>
              Open a copy <ArrowUpRight size={14} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const SIGNS = [
  ["point", "1.5"],
  ["comma", "1,5"],
] as const;

/** How numbers are written, in all studies and all files. */
function Sign({ sign, onChosen }: { sign: DecimalSign; onChosen: () => void }) {
  return (
    <label className="mt-10 flex w-fit items-center gap-2 text-plain text-mute">
      Numbers are written like
      <Select
        aria-label="Decimal sign"
        value={sign}
        words={SIGNS}
        onPick={(next) => void chooseSign(next).then((known) => known && onChosen())}
      />
      in all your studies and in what you hand in
    </label>
  );
}
