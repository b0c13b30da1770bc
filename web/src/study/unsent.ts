/**
 * Gestures that the server has not acknowledged, kept in the browser's storage under this window's own name. A window
 * that was closed, reloaded or crashed leaves its entry behind; whoever opens the study next takes it up.
 */
const WINDOW = crypto.randomUUID();
const lockOf = (name: string) => `ridge-window-${name}`;

// Held as long as this window lives: others see by it that its entry is not left behind.
void navigator.locks?.request(lockOf(WINDOW), () => new Promise(() => undefined));

/** What was not sent, and the version of the study that it was made on. */
export interface Unsent<Gesture> {
  version: number;
  gestures: Gesture[];
}

const prefix = (study: string) => `ridge-unsent-${study}-`;

export function keep<Gesture>(study: string, unsent: Unsent<Gesture>) {
  try {
    if (unsent.gestures.length) localStorage.setItem(prefix(study) + WINDOW, JSON.stringify(unsent));
    else localStorage.removeItem(prefix(study) + WINDOW);
  } catch {
    // A full or forbidden storage only costs the safety net; the gestures still go out.
  }
}

/** Takes up what windows that are no more have left behind for this study, oldest version first. */
export async function takeUp<Gesture>(study: string): Promise<Unsent<Gesture>[]> {
  try {
    const held = new Set((await navigator.locks.query()).held?.map((lock) => lock.name));
    const found: Unsent<Gesture>[] = [];
    for (const key of Object.keys(localStorage)) {
      if (!key.startsWith(prefix(study)) || held.has(lockOf(key.slice(prefix(study).length)))) continue;
      // eslint-disable-next-line @typescript-eslint/consistent-type-assertions -- what this program has stored itself
      const stored = JSON.parse(localStorage.getItem(key) ?? "null") as Unsent<Gesture> | null;
      localStorage.removeItem(key);
      if (stored && Array.isArray(stored.gestures)) found.push(stored);
    }
    return found.sort((a, b) => a.version - b.version);
  } catch {
    return [];
  }
}
