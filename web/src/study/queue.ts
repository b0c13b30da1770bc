import { type Analysis, api, type Change, messageOf, saidBy, type Study } from "../api/client";
import { type HeldStudy, merge, showTyped } from "./changes";
import { offerSign } from "../ui/chooseSign";
import { setDecimalSign } from "../ui/decimalSign";
import { readingsOf } from "./preview";
import { share } from "./sharing";
import { keep, takeUp } from "./unsent";
import { useView } from "./view";

/** One gesture on its way to the server. `key` makes repeating it harmless. */
type Gesture =
  | { key: string; action: "change"; change: Change }
  | { key: string; action: "undo" | "redo" }
  | { key: string; action: "go_to"; number: number };

/**
 * saved: the server has acknowledged everything. sending: on its way. waiting: not reached, or not able to, kept here
 * and tried again. conflict: the study was changed elsewhere; what was not made is held until the user decides.
 */
export type Saving = "saved" | "sending" | "waiting" | "conflict";

export interface Snapshot {
  study: HeldStudy;
  saving: Saving;
  /** Why the last gesture was refused or cannot be made, or what the conflict is. */
  message: string;
  held: number;
}

/** done: acknowledged. refused: it has no meaning and is let go. later: kept and tried again. conflict: kept for a decision. */
type Answer = { outcome: "done" | "refused" | "later" | "conflict"; message: string; study?: Study };

const WAITS = [1000, 2000, 4000, 8000];
const SERVER_FAILS = "The server fails to save your last change.";
const ONLY_LOOKING = "You are looking at somebody else's study: nothing can be changed here. Take a copy to work on it.";
const KEPT = "Your last change is kept here and tried again.";

/**
 * Carries gestures to the server one after the other, so that each is made on the version before it.
 * What is not acknowledged survives a reload or a crash of the browser.
 */
export class GestureQueue {
  private pending: Gesture[] = [];
  private snapshot: Snapshot;
  private confirmed: HeldStudy;
  private listeners = new Set<() => void>();
  private busy = false;
  private tries = 0;
  private timer: number | undefined;
  /** The version that the first gesture was made on, where that is not the one held: after a reload. */
  private madeOn: number | null = null;

  /** `looking`: the study is somebody else's, shown by a link: nothing is changed. */
  constructor(
    study: Study,
    readonly looking = false,
  ) {
    setDecimalSign(study.decimal_sign);
    this.confirmed = merge(undefined, study);
    this.snapshot = { study: this.confirmed, saving: "saved", message: "", held: 0 };
    if (looking) return;
    void takeUp<Gesture>(study.id).then((left) => {
      const gestures = left.flatMap((unsent) => unsent.gestures);
      if (!gestures.length) return;
      this.madeOn = left[0]!.version;
      this.pending = [...gestures, ...this.pending];
      this.store();
      this.show("sending");
      void this.pump();
    });
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

  /** Back or forward to the step of this number. */
  goTo = (number: number) => this.add({ key: crypto.randomUUID(), action: "go_to", number });

  /** Try again now. */
  retry = () => {
    window.clearTimeout(this.timer);
    this.tries = 0;
    void this.pump();
  };

  /** After a conflict: make the held gestures on the newer state. */
  applyHeld = () => {
    this.madeOn = null;
    this.store();
    this.show("sending", "");
    void this.pump();
  };

  /** Let go what is not saved. */
  dropHeld = () => {
    window.clearTimeout(this.timer);
    this.pending = [];
    this.madeOn = null;
    this.store();
    this.show("saved", "");
  };

  /**
   * A newer state that came by itself, such as readings of an instrument. While something is on its way nothing is taken: the next
   * question brings it.
   */
  adopt = (study: Study) => {
    if (this.busy || this.pending.length || study.version <= this.confirmed.version) return;
    this.confirm(study);
    this.show("saved", "");
  };

  /** The same version told anew: of it more may be told now. */
  refresh = (study: Study) => {
    if (this.busy || this.pending.length || study.version < this.confirmed.version) return;
    this.confirm(study);
    this.show("saved");
  };

  clearMessage = () => this.show(this.snapshot.saving, "");

  /** Say something above the bench. */
  tell = (message: string) => this.show(this.snapshot.saving, message);

  /** Nothing is changed in somebody else's study. */
  refuse = () => this.tell(ONLY_LOOKING);

  private add(gesture: Gesture) {
    if (this.looking) {
      this.refuse();
      return;
    }
    this.pending.push(gesture);
    this.store();
    if (this.snapshot.saving === "conflict" || this.snapshot.saving === "waiting") {
      this.show(this.snapshot.saving);
    } else {
      this.show("sending", "");
    }
    void this.pump();
  }

  private async pump() {
    if (this.busy || this.snapshot.saving === "conflict") return;
    this.busy = true;
    while (this.pending.length) {
      const answer = await this.send(this.pending[0]!);
      if (answer.outcome === "later") {
        const wait = WAITS[Math.min(this.tries++, WAITS.length - 1)];
        this.show("waiting", answer.message);
        this.timer = window.setTimeout(() => void this.pump(), wait);
        break;
      }
      this.tries = 0;
      // A conflict stays one until it is decided, also over a reload: the version made on is kept with the gestures.
      this.madeOn = answer.outcome === "conflict" ? (this.madeOn ?? this.confirmed.version) : null;
      if (answer.study) this.confirm(answer.study);
      if (answer.outcome === "conflict") {
        this.store();
        this.show("conflict", answer.message);
        break;
      }
      this.pending.shift();
      this.store();
      this.show(this.pending.length ? "sending" : "saved", answer.message);
    }
    this.busy = false;
  }

  /** What was refined of a version, if that is still the newest. */
  refine(version: number, found: Analysis) {
    if (this.confirmed.version !== version) return;
    const before = this.confirmed.analysis;
    this.confirmed = { ...this.confirmed, analysis: share(before, { ...found, ...readingsOf(before), same_readings: false }) };
    this.show(this.snapshot.saving);
  }

  private confirm(study: Study) {
    const shown = useView.getState().preview ?? this.confirmed.analysis;
    setDecimalSign(study.decimal_sign);
    this.confirmed = merge(this.confirmed, { ...study, analysis: share(shown, study.analysis) });
  }

  private async send(gesture: Gesture): Promise<Answer> {
    const params = { params: { path: { study_id: this.confirmed.id } } };
    const version = this.madeOn ?? this.confirmed.version;
    try {
      const { data, error, response } =
        gesture.action === "change"
          ? await api.POST("/api/studies/{study_id}/changes", {
              ...params,
              body: { version, change: gesture.change, request_key: gesture.key },
            })
          : gesture.action === "go_to"
            ? await api.POST("/api/studies/{study_id}/go_to", {
                ...params,
                body: { version, number: gesture.number, request_key: gesture.key },
              })
            : await api.POST(`/api/studies/{study_id}/${gesture.action}`, { ...params, body: { version, request_key: gesture.key } });
      if (data) {
        offerSign(data.offered_sign);
        return { outcome: "done", study: data, message: "" };
      }
      if (response.status === 409 && error && "study" in error) return { outcome: "conflict", study: error.study, message: error.message };
      if (response.status >= 500) return { outcome: "later", message: `${saidBy(error) || SERVER_FAILS} ${KEPT}` };
      // Signed out, in the bin, or too many at once: the gesture may still be made once that is mended.
      if ([403, 404, 429].includes(response.status)) return { outcome: "later", message: messageOf(error) };
      return { outcome: "refused", message: messageOf(error) };
    } catch {
      return { outcome: "later", message: "" };
    }
  }

  private show(saving: Saving, message = this.snapshot.message) {
    // What was typed stands in its place at once, and stays there, over a newer state too, until it is saved or let go.
    const study = this.pending.reduce(
      (held, gesture) => (gesture.action === "change" ? showTyped(held, gesture.change) : held),
      this.confirmed,
    );
    this.snapshot = { study, saving, message, held: this.pending.length };
    this.listeners.forEach((listener) => listener());
  }

  private store() {
    keep(this.confirmed.id, { version: this.madeOn ?? this.confirmed.version, gestures: this.pending });
  }
}
