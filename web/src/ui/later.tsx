import { type ComponentType, createElement, type ReactNode, useSyncExternalStore } from "react";

const TRIES = 3;
const WAIT = 1500; // ms between two tries
const all: (() => void)[] = [];

/**
 * A part of the page whose script comes when it is first shown, or before: `fetchAll`. Where it does not come, that is said in its
 * place, and everything else goes on. `above`: what stands there as long as it is not here. Not React's own way: that one holds
 * what has come back for a third of a second.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>, above: ReactNode = null): ComponentType<Props> {
  let held: { part: ComponentType<Props> | null; failed: boolean } = { part: null, failed: false };
  let asked = false;
  const listeners = new Set<() => void>();
  const fetched = () => {
    if (asked) return;
    asked = true;
    void insist(load, TRIES)
      .then(
        (part) => (held = { part, failed: false }),
        () => (held = { part: null, failed: true }),
      )
      .then(() => listeners.forEach((listener) => listener()));
  };
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    fetched();
    return () => listeners.delete(listener);
  };
  all.push(fetched);
  return function Later(props: Props) {
    const { part, failed } = useSyncExternalStore(subscribe, () => held);
    if (part) return createElement(part, props);
    return failed ? <Missing above={above} /> : above;
  };
}

/** Fetch every such part, so that they are there without a connection too. */
export const fetchAll = () => all.forEach((fetched) => fetched());

async function insist<Part>(load: () => Promise<Part>, tries: number): Promise<Part> {
  try {
    return await load();
  } catch (problem) {
    if (tries <= 1) throw problem;
    await new Promise((resolve) => window.setTimeout(resolve, WAIT));
    return insist(load, tries - 1);
  }
}

function Missing({ above }: { above: ReactNode }) {
  return (
    <>
      {above}
      <p role="alert" className="m-3 flex flex-wrap items-center gap-3 rounded-(--radius) bg-amber-well px-4 py-2 text-plain text-amber">
        This part of Ridge could not be loaded.
        <button className="button" onClick={() => window.location.reload()}>
          Load the page again
        </button>
      </p>
    </>
  );
}
