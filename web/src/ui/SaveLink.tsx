import { type MouseEvent, type ReactNode, useEffect, useRef, useState } from "react";

import { saveFile, whySaving } from "./saveFile";

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
    const say = (said: string) => setState({ said, failed: false });
    say("preparing");
    try {
      await saveFile(href, {
        signal: control.signal,
        onWait: ({ ahead, seconds }) => say(seconds === null ? `${ahead || 1} before it` : `preparing, ${seconds} s`),
        onShare: (share) => say(`${Math.round(share * 100)} % here`),
      });
      setState(null);
    } catch (problem) {
      const reason = whySaving(problem);
      setState(control.signal.aborted ? null : { said: reason, failed: true });
    } finally {
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
