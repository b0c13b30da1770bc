import { type MouseEvent, type ReactNode, useEffect, useRef, useState } from "react";

import { notify } from "./Notices";
import { messageIn } from "./messageIn";
import { saidBy } from "../api/client";

interface Props {
  href: string;
  className: string;
  children: ReactNode;
}

/** A file made by the server: says how far it is while it is made, can be cancelled, and tells why it could not be made. */
export function SaveLink({ href, className, children }: Props) {
  const [state, setState] = useState<{ said: string; failed: boolean } | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);

  async function save(event: MouseEvent<HTMLAnchorElement>) {
    // Opened in a tab of its own, or saved from the menu of the browser, it is a link like any other.
    if (event.ctrlKey || event.metaKey || event.shiftKey || event.button) return;
    event.preventDefault();
    if (stop.current) return;
    const control = new AbortController();
    stop.current = control;
    const begun = performance.now();
    const say = (said: string) => setState({ said, failed: false });
    say("preparing");
    const clock = window.setInterval(() => say(`preparing, ${Math.round((performance.now() - begun) / 1000)} s`), 1000);
    try {
      const response = await fetch(href, { signal: control.signal });
      window.clearInterval(clock);
      if (!response.ok) throw new Error(await reasonOf(response));
      const name = /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1] ?? "study";
      const blob = await received(response, (share) => say(`${Math.round(share * 100)} % here`));
      offer(blob, name);
      notify(`${name} is saved.`);
      setState(null);
    } catch (problem) {
      const reason = problem instanceof TypeError ? "The server cannot be reached. Try again." : messageIn(problem);
      setState(control.signal.aborted ? null : { said: reason, failed: true });
    } finally {
      window.clearInterval(clock);
      stop.current = null;
    }
  }

  return (
    <span className="inline-flex flex-wrap items-center gap-1.5">
      <a className={className} href={href} download onClick={(event) => void save(event)}>
        {children}
      </a>
      {state && !state.failed && (
        <span role="status" className="numerals inline-flex items-center gap-1.5 text-note text-mute">
          {state.said}
          <button type="button" className="button !h-[24px] !px-1.5 !text-note" onClick={() => stop.current?.abort()}>
            Cancel
          </button>
        </span>
      )}
      {state?.failed && (
        <span role="alert" className="text-plain text-amber">
          {state.said}
        </span>
      )}
    </span>
  );
}

async function reasonOf(response: Response): Promise<string> {
  try {
    const message = saidBy(await response.json());
    if (message) return message;
  } catch {
    // Not from the API: a proxy, or a server that is about to stop.
  }
  return "The file could not be made. Try again.";
}

/** The whole body, with the share that is there as it comes in. */
async function received(response: Response, onShare: (share: number) => void): Promise<Blob> {
  const total = Number(response.headers.get("Content-Length"));
  const reader = response.body!.getReader();
  const pieces: BlobPart[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    pieces.push(value);
    length += value.length;
    if (total > 1e6) onShare(length / total);
  }
  return new Blob(pieces, { type: response.headers.get("Content-Type") ?? "" });
}

function offer(blob: Blob, name: string) {
  const address = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  // The browser needs the address until it has taken the file.
  window.setTimeout(() => URL.revokeObjectURL(address), 60_000);
}
