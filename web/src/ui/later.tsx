import { Component, type ComponentType, lazy, type ReactNode, Suspense } from "react";

const TRIES = 3;
const WAIT = 1500; // ms between two tries
const all: (() => Promise<unknown>)[] = [];

/**
 * A part of the page whose script comes when it is first shown, or before: `fetchAll`. It stands alone when it fails. `above`: what
 * stands there without it too, as long as it is not here.
 */
export function later<Props extends object>(load: () => Promise<ComponentType<Props>>, above?: ReactNode): ComponentType<Props> {
  const fetched = () => insist(load, TRIES).then((part) => ({ default: part }));
  all.push(fetched);
  const Late = lazy(fetched);
  return function Later(props: Props) {
    return (
      <Whole above={above}>
        <Suspense fallback={above ?? null}>
          <Late {...props} />
        </Suspense>
      </Whole>
    );
  };
}

/** Fetch every such part, so that they are there without a connection too. */
export function fetchAll() {
  for (const fetched of all) void fetched().catch(() => undefined);
}

async function insist<Part>(load: () => Promise<Part>, tries: number): Promise<Part> {
  try {
    return await load();
  } catch (problem) {
    if (tries <= 1) throw problem;
    await new Promise((resolve) => window.setTimeout(resolve, WAIT));
    return insist(load, tries - 1);
  }
}

/** Where a script does not come, that is said in place of its part, and everything else goes on. */
class Whole extends Component<{ above: ReactNode; children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <>
        {this.props.above}
        <p role="alert" className="m-3 flex flex-wrap items-center gap-3 rounded-(--radius) bg-amber-well px-4 py-2 text-plain text-amber">
          This part of Ridge could not be loaded.
          <button className="button" onClick={() => window.location.reload()}>
            Load the page again
          </button>
        </p>
      </>
    );
  }
}
