import { useSyncExternalStore } from "react";

/** Where we are: the shelf, the account, the letters of the demo, a study, or one that is shown by a link. */
export type Route =
  | { name: "shelf" }
  | { name: "account" }
  | { name: "outbox" }
  | { name: "look"; token: string }
  | { name: "copy"; id: string }
  | { name: "worksheet"; id: string }
  | { name: "join"; code: string }
  | { name: "study"; id: string }
  | { name: "nowhere" };

const listeners = new Set<() => void>();

function subscribe(listener: () => void) {
  listeners.add(listener);
  window.addEventListener("popstate", listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("popstate", listener);
  };
}

export function navigate(path: string) {
  window.history.pushState(null, "", path);
  listeners.forEach((listener) => listener());
}

function decoded(part: string) {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

export function useRoute(): Route {
  const path = useSyncExternalStore(subscribe, () => window.location.pathname);
  const study = /^\/study\/([0-9a-f-]{36})$/.exec(path);
  if (study) return { name: "study", id: study[1]! };
  if (path === "/account") return { name: "account" };
  const copy = /^\/(copy|worksheet)\/([0-9a-f-]{36})$/.exec(path);
  if (copy) return { name: copy[1] === "copy" ? "copy" : "worksheet", id: copy[2]! };
  const join = /^\/join(?:\/([^/]+))?$/.exec(path);
  if (join) return { name: "join", code: decoded(join[1] ?? "") };
  const look = /^\/look\/([^/]+)$/.exec(path);
  if (look) return { name: "look", token: look[1]! };
  if (path === "/outbox") return { name: "outbox" };
  return path === "/" ? { name: "shelf" } : { name: "nowhere" };
}
