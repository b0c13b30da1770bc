import { api, type Change, messageOf, type Study } from "../api/client";
import { type HeldStudy, merge, showTyped } from "./changes";

/** One gesture on its way to the server. `key` makes repeating it harmless. */
type Gesture = { key: string; action: "change"; change: Change } | { key: string; action: "undo" | "redo" };

/**
 * saved: the server has acknowledged everything. sending: on its way. waiting: no connection, kept here and tried again.
 * conflict: the study was changed elsewhere; the gestures that were not made are held until the user decides.
 */
export type Saving = "saved" | "sending" | "waiting" | "conflict";

export interface Snapshot {
  study: HeldStudy;
  saving: Saving;
  /** Why the last gesture was refused, or what the conflict is. */
  message: string;
  held: number;
}

const WAITS = [1000, 2000, 4000, 8000];

/**
 * Carries gestures to the server one after the other, so that each is made on the version before it.
 * What is not acknowledged is kept in the browser's storage and survives a reload or a crash.
 */
export class GestureQueue {
  private pending: Gesture[] = [];
  private snapshot: Snapshot;
  private confirmed: HeldStudy;
  private listeners = new Set<() => void>();
  private busy = false;
  private tries = 0;
  private timer: number | undefined;
  private readonly storageKey: string;

  constructor(study: Study) {
    this.confirmed = merge(undefined, study);
    this.snapshot = { study: this.confirmed, saving: "saved", message: "", held: 0 };
    this.storageKey = `ridge-unsent-${study.id}`;
    const unsent = readUnsent(this.storageKey);
    if (unsent.length) {
      this.pending = unsent;
      this.show("sending");
      void this.pump();
    }
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    window.addEventListener("online", this.retry);
    return () => {
      this.listeners.delete(listener);
      if (!this.listeners.size) window.removeEventListener("online", this.retry);
    };
  };

  read = () => this.snapshot;

  change = (change: Change) => this.add({ key: crypto.randomUUID(), action: "change", change });
  undo = () => this.add({ key: crypto.randomUUID(), action: "undo" });
  redo = () => this.add({ key: crypto.randomUUID(), action: "redo" });

  /** Try again now. */
  retry = () => {
    window.clearTimeout(this.timer);
    this.tries = 0;
    void this.pump();
  };

  /** After a conflict: make the held gestures on the newer state. */
  applyHeld = () => {
    this.show("sending", "");
    void this.pump();
  };

  /** After a conflict: let the held gestures go. */
  dropHeld = () => {
    this.pending = [];
    this.store();
    this.show("saved", "");
  };

  clearMessage = () => this.show(this.snapshot.saving, "");

  private add(gesture: Gesture) {
    this.pending.push(gesture);
    this.store();
    if (this.snapshot.saving === "conflict") {
      this.show("conflict");
      return;
    }
    this.show(this.snapshot.saving === "waiting" ? "waiting" : "sending", "");
    void this.pump();
  }

  private async pump() {
    if (this.busy || this.snapshot.saving === "conflict") return;
    this.busy = true;
    while (this.pending.length) {
      const gesture = this.pending[0]!;
      const answer = await this.send(gesture);
      if (answer === "unreachable") {
        const wait = WAITS[Math.min(this.tries++, WAITS.length - 1)];
        this.show("waiting");
        this.timer = window.setTimeout(() => void this.pump(), wait);
        break;
      }
      this.tries = 0;
      if (answer.study) this.confirmed = merge(this.confirmed, answer.study);
      if (answer.conflict) {
        this.show("conflict", answer.message);
        break;
      }
      this.pending.shift();
      this.store();
      this.show(this.pending.length ? "sending" : "saved", answer.message);
    }
    this.busy = false;
  }

  private async send(gesture: Gesture): Promise<"unreachable" | { study?: Study; message: string; conflict?: boolean }> {
    const params = { params: { path: { study_id: this.confirmed.id } } };
    const version = this.confirmed.version;
    try {
      const { data, error, response } =
        gesture.action === "change"
          ? await api.POST("/api/studies/{study_id}/changes", {
              ...params,
              body: { version, change: gesture.change, request_key: gesture.key },
            })
          : await api.POST(`/api/studies/{study_id}/${gesture.action}`, { ...params, body: { version } });
      if (data) return { study: data, message: "" };
      if (response.status === 409 && error && "study" in error) return { study: error.study, message: error.message, conflict: true };
      if (response.status >= 500 || response.status === 429) return "unreachable";
      return { message: messageOf(error) };
    } catch {
      return "unreachable";
    }
  }

  private show(saving: Saving, message = this.snapshot.message) {
    // In a conflict the newer state is shown as it is; otherwise what was typed stands in the table at once.
    const study =
      saving === "conflict"
        ? this.confirmed
        : this.pending.reduce((held, gesture) => (gesture.action === "change" ? showTyped(held, gesture.change) : held), this.confirmed);
    this.snapshot = { study, saving, message, held: this.pending.length };
    this.listeners.forEach((listener) => listener());
  }

  private store() {
    try {
      if (this.pending.length) localStorage.setItem(this.storageKey, JSON.stringify(this.pending));
      else localStorage.removeItem(this.storageKey);
    } catch {
      // A full or forbidden storage only costs the safety net; the gestures still go out.
    }
  }
}

function readUnsent(key: string): Gesture[] {
  try {
    const stored: unknown = JSON.parse(localStorage.getItem(key) ?? "[]");
    return Array.isArray(stored) ? (stored as Gesture[]) : [];
  } catch {
    return [];
  }
}
