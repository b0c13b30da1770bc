import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Study } from "../api/client";

const sent: { path: string; body: Record<string, unknown> }[] = [];
type Reply = { data?: Study; error?: unknown; response: { status: number } };
let answers: (Reply | Error)[] = [];
const kept = vi.fn<(study: string, unsent: unknown) => void>();

vi.mock("../api/client", () => ({
  api: {
    POST: async (path: string, { body }: { body: Record<string, unknown> }) => {
      sent.push({ path, body });
      const answer = answers.shift();
      if (!answer) throw new Error("nothing answers");
      if (answer instanceof Error) throw answer;
      return answer;
    },
  },
  saidBy: (error: { message?: string }) => error.message ?? "",
  messageOf: (error: { message?: string }) => error.message ?? "plain",
}));
vi.mock("./unsent", () => ({ keep: kept, takeUp: () => Promise.resolve([]) }));
vi.stubGlobal("window", Object.assign(globalThis, { addEventListener: () => undefined, removeEventListener: () => undefined }));

const { GestureQueue } = await import("./queue");

const study = (version: number, title = "t") =>
  ({ id: "s", version, title, row_count: 1, columns: [{ key: "x", cells: ["1"] }], analysis: {} }) as unknown as Study;
const done = (version: number, title = "t"): Reply => ({ data: study(version, title), response: { status: 200 } });
const settled = () => vi.waitFor(() => expect(answers).toEqual([]));
const calm = () => new Promise((resolve) => setTimeout(resolve, 0));

beforeEach(() => {
  sent.length = 0;
  answers = [];
  kept.mockClear();
});

describe("gestures on their way", () => {
  it("go one after the other, each on the version before it, each with a key of its own", async () => {
    const queue = new GestureQueue(study(3));
    answers = [done(4), done(5)];
    queue.change({ kind: "edit_study", title: "a" });
    queue.undo();
    expect(queue.read().saving).toBe("sending");
    await settled();
    await calm();
    expect(sent.map(({ body }) => body.version)).toEqual([3, 4]);
    expect(sent[1]!.path).toContain("/undo");
    expect(new Set(sent.map(({ body }) => body.request_key)).size).toBe(2);
    expect(queue.read()).toMatchObject({ saving: "saved", held: 0, study: { version: 5 } });
  });

  it("are kept and repeated with the same key where the answer is lost", async () => {
    const queue = new GestureQueue(study(3));
    answers = [new Error("lost"), done(4)];
    queue.change({ kind: "edit_study", title: "a" });
    await vi.waitFor(() => expect(queue.read().saving).toBe("waiting"));
    expect(queue.read().held).toBe(1);
    queue.retry();
    await settled();
    await calm();
    expect(sent[0]!.body.request_key).toBe(sent[1]!.body.request_key);
    expect(queue.read().saving).toBe("saved");
  });

  it("that are too many at once are kept with the reason and made later", async () => {
    vi.useFakeTimers();
    const queue = new GestureQueue(study(3));
    answers = [{ error: { message: "Try again in a minute." }, response: { status: 429 } }, done(4)];
    queue.undo();
    await vi.advanceTimersByTimeAsync(0);
    expect(queue.read()).toMatchObject({ saving: "waiting", message: "Try again in a minute.", held: 1 });
    await vi.advanceTimersByTimeAsync(1000);
    vi.useRealTimers();
    expect(queue.read()).toMatchObject({ saving: "saved", message: "", held: 0 });
    expect(sent[0]!.body.request_key).toBe(sent[1]!.body.request_key);
  });

  it("that mean nothing are let go with the reason, and the next one is made", async () => {
    const queue = new GestureQueue(study(3));
    answers = [{ error: { message: "no such row" }, response: { status: 400 } }];
    queue.change({ kind: "edit_study", title: "a" });
    await vi.waitFor(() => expect(queue.read().saving).toBe("saved"));
    expect(queue.read()).toMatchObject({ held: 0, message: "no such row", study: { version: 3 } });
    answers = [done(4)];
    queue.undo();
    await settled();
    await calm();
    expect(queue.read()).toMatchObject({ message: "", study: { version: 4 } });
  });

  it("wait for a decision where the study was changed elsewhere, and are then made on the newer state", async () => {
    const queue = new GestureQueue(study(3));
    answers = [{ error: { message: "changed elsewhere", study: study(9, "newer") }, response: { status: 409 } }];
    queue.change({ kind: "edit_study", title: "mine" });
    await vi.waitFor(() => expect(queue.read().saving).toBe("conflict"));
    // What was typed stays in sight over the newer state, and so does what is typed while the decision is open.
    expect(queue.read()).toMatchObject({ held: 1, study: { title: "mine", version: 9 } });
    queue.change({ kind: "set_cells", row: 1, column: 0, block: [["7"]] });
    expect(queue.read()).toMatchObject({ held: 2, study: { title: "mine", version: 9 } });
    expect(queue.read().study.columns[0]!.cells).toEqual(["1", "7"]);
    queue.redo();
    await calm();
    expect(sent.length).toBe(1);
    answers = [done(10), done(11), done(12)];
    queue.applyHeld();
    await settled();
    await calm();
    expect(sent.slice(1).map(({ body }) => body.version)).toEqual([9, 10, 11]);
    expect(queue.read().saving).toBe("saved");
  });

  it("can be let go in a conflict", async () => {
    const queue = new GestureQueue(study(3));
    answers = [{ error: { message: "changed elsewhere", study: study(9) }, response: { status: 409 } }];
    queue.change({ kind: "edit_study", title: "mine" });
    await vi.waitFor(() => expect(queue.read().saving).toBe("conflict"));
    queue.dropHeld();
    expect(queue.read()).toMatchObject({ saving: "saved", held: 0, message: "" });
    expect(kept).toHaveBeenLastCalledWith("s", { version: 9, gestures: [] });
  });

  it("are shown at once where they are typed", async () => {
    const queue = new GestureQueue(study(3));
    answers = [new Error("lost")];
    queue.change({ kind: "set_cells", row: 1, column: 0, block: [["7"]] });
    expect(queue.read().study.columns[0]!.cells).toEqual(["1", "7"]);
    await vi.waitFor(() => expect(queue.read().saving).toBe("waiting"));
    queue.dropHeld();
    expect(queue.read().study.columns[0]!.cells).toEqual(["1"]);
  });
});
