import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Link2, Trash2 } from "lucide-react";
import { type FormEvent, useState } from "react";

import { api } from "../api/client";
import { done } from "../api/done";
import { must } from "../api/must";
import { notify } from "../ui/Notices";

const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });
const times = (count: number) => (count === 0 ? "not opened yet" : count === 1 ? "opened once" : `opened ${count} times`);

/** Read-only addresses of the study: made, looked after, withdrawn. */
export function Links({ id }: { id: string }) {
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: ["links", id] });
  const path = { study_id: id };
  const links = useQuery({
    queryKey: ["links", id],
    staleTime: 0,
    queryFn: () => must(api.GET("/api/studies/{study_id}/links", { params: { path } })),
  });
  const make = useMutation({
    mutationFn: (body: { called: string; ends: string | null }) =>
      must(api.POST("/api/studies/{study_id}/links", { params: { path }, body })),
    onSuccess,
  });
  const withdraw = useMutation({
    mutationFn: (link_id: number) =>
      done(api.DELETE("/api/studies/{study_id}/links/{link_id}", { params: { path: { ...path, link_id } } })),
    onSuccess,
  });
  const problem = links.error ?? make.error ?? withdraw.error;
  return (
    <>
      <p className="text-note text-mute">
        Whoever has the address sees this study as it is then, asks, saves and copies it, leaves comments, and changes nothing.
      </p>
      {make.data && <Address key={make.data.link.id} address={make.data.address} />}
      {links.data && links.data.length > 0 && (
        <ul aria-label="Links of this study" className="grid gap-1 text-plain">
          {links.data.map((link) => (
            <li key={link.id} className="flex items-center gap-2">
              <span className="min-w-0 grow [overflow-wrap:anywhere]">
                {link.called || `Made on ${day.format(new Date(link.made))}`}
                <span className="text-note text-mute">
                  , {times(link.opened)}
                  {link.ends && `, until ${day.format(new Date(link.ends))}`}
                </span>
              </span>
              <button
                className="icon-button"
                aria-label={`Withdraw the link ${link.called || `made on ${day.format(new Date(link.made))}`}`}
                title="Withdraw"
                onClick={() => withdraw.mutate(link.id)}
              >
                <Trash2 size={14} />
              </button>
            </li>
          ))}
        </ul>
      )}
      <NewLink key={make.submittedAt} busy={make.isPending} onMake={make.mutate} />
      {problem && (
        <p role="alert" className="text-plain text-amber">
          {problem.message}
        </p>
      )}
    </>
  );
}

function NewLink({ busy, onMake }: { busy: boolean; onMake: (wanted: { called: string; ends: string | null }) => void }) {
  const [called, setCalled] = useState("");
  const [ends, setEnds] = useState("");
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (!busy) onMake({ called, ends: ends || null });
  };
  return (
    <form className="grid gap-1.5" onSubmit={send} aria-label="New link">
      <label className="flex items-center gap-2 text-plain">
        For
        <input
          className="field min-w-0 grow"
          maxLength={60}
          placeholder="whom, as a note to yourself"
          value={called}
          onChange={(event) => setCalled(event.target.value)}
        />
      </label>
      <label className="flex items-center gap-2 text-plain">
        Until
        <input type="date" className="field grow" value={ends} onChange={(event) => setEnds(event.target.value)} />
      </label>
      <button className="button justify-self-start" aria-disabled={busy}>
        <Link2 size={14} /> Make a link
      </button>
    </form>
  );
}

/** The address of a new link, which is told this once. */
function Address({ address }: { address: string }) {
  const copy = () => void navigator.clipboard.writeText(address).then(() => notify("The address is copied."));
  return (
    <div role="alert" className="grid gap-1.5 border border-edge bg-sheet p-2">
      <p className="text-note text-mute">The address, shown this once:</p>
      <p className="flex items-center gap-1.5">
        <input
          readOnly
          aria-label="Address of the link"
          className="field min-w-0 grow font-mono text-note"
          value={address}
          onFocus={(event) => event.target.select()}
        />
        <button className="button" onClick={copy}>
          <Copy size={13} /> Copy
        </button>
      </p>
    </div>
  );
}
