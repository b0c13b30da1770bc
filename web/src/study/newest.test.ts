import { describe, expect, it, vi } from "vitest";

import { newestWins } from "./newest";
import { share } from "./sharing";

const calm = () => new Promise((resolve) => setTimeout(resolve, 0));

describe("the newest request", () => {
  it("is made when the one under way has ended; those between are dropped", async () => {
    const ends: (() => void)[] = [];
    const asked: number[] = [];
    const done = vi.fn();
    const wanted = newestWins((input: number) => (asked.push(input), new Promise<number>((end) => ends.push(() => end(input * 10)))), done);
    [1, 2, 3].forEach((input) => wanted.ask(input));
    ends[0]!();
    await calm();
    ends[1]!();
    await calm();
    expect(asked).toEqual([1, 3]);
    expect(done.mock.calls).toEqual([
      [10, 1],
      [30, 3],
    ]);
  });

  it("is forgotten when it is cancelled, and one that fails does no harm", async () => {
    const done = vi.fn();
    const wanted = newestWins((input: number) => (input < 0 ? Promise.reject(new Error("lost")) : Promise.resolve(input)), done);
    wanted.ask(1);
    wanted.cancel();
    await calm();
    wanted.ask(-1);
    await calm();
    wanted.ask(2);
    await calm();
    expect(done.mock.calls).toEqual([[2, 2]]);
  });
});

describe("parts that did not change", () => {
  it("are taken from the older value", () => {
    const older = { a: { x: 1 }, list: [{ n: 1 }, { n: 2 }], numbers: [1, 2] };
    const newer = { a: { x: 1 }, list: [{ n: 1 }, { n: 3 }], numbers: [1, 2] };
    const shared = share(older, newer);
    expect(shared).toEqual(newer);
    expect(shared.a).toBe(older.a);
    expect(shared.numbers).toBe(older.numbers);
    expect(shared.list[0]).toBe(older.list[0]);
    expect(shared.list[1]).not.toBe(older.list[1]);
  });

  it("are the whole where nothing changed, and nothing where a name went", () => {
    const older = { a: [1, null, { b: "c" }] };
    expect(share(older, { a: [1, null, { b: "c" }] })).toBe(older);
    expect(share({ a: 1, b: 2 }, { a: 1 })).toEqual({ a: 1 });
    expect(share([1, 2, 3], [1, 2])).toEqual([1, 2]);
  });
});
