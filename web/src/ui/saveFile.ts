import { saidBy } from "../api/client";
import { messageIn } from "./messageIn";
import { notify } from "./Notices";
import { type HowFar, takeTicket } from "./ticket";

interface Options {
  signal?: AbortSignal;
  /** Called again and again while the file is made. */
  onWait?: (how: HowFar) => void;
  /** Called with the share that is here, for a long file. */
  onShare?: (share: number) => void;
}

/** Fetch a file that the server makes and hand it to the browser to be saved; fails with what the server says. */
export async function saveFile(href: string, { signal, onShare, onWait }: Options = {}): Promise<void> {
  const response = await made(href, signal, onWait);
  if (!response.ok) throw new Error(await reasonOf(response));
  const name = /filename="([^"]+)"/.exec(response.headers.get("Content-Disposition") ?? "")?.[1] ?? "study";
  offer(await received(response, onShare), name);
  notify(`${name} is saved.`);
}

/** The answer of the server, looked after while it is made. */
async function made(href: string, signal?: AbortSignal, onWait?: (how: HowFar) => void): Promise<Response> {
  const ticket = takeTicket(href);
  const stop = onWait ? ticket.watch(onWait) : () => undefined;
  signal?.addEventListener("abort", ticket.giveBack);
  try {
    return await fetch(ticket.address, signal ? { signal } : {});
  } finally {
    stop();
    signal?.removeEventListener("abort", ticket.giveBack);
  }
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
async function received(response: Response, onShare: ((share: number) => void) | undefined): Promise<Blob> {
  const total = Number(response.headers.get("Content-Length"));
  const reader = response.body!.getReader();
  const pieces: BlobPart[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    pieces.push(value);
    length += value.length;
    if (total > 1e6) onShare?.(length / total);
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

/** Why a file could not be saved, for whoever wanted it. */
export const whySaving = (problem: unknown) =>
  problem instanceof TypeError ? "The server cannot be reached. Try again." : messageIn(problem);
