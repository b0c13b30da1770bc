import { afterEach, beforeAll, describe, expect, it, vi } from "vitest";

const listeners: Record<string, (event: { pointerId: number }) => void> = {};

describe("what moves things", () => {
  let whenHandIsUp: (then: () => void) => void;
  beforeAll(async () => {
    vi.useFakeTimers();
    vi.stubGlobal("addEventListener", (name: string, listener: (event: { pointerId: number }) => void) => (listeners[name] = listener));
    ({ whenHandIsUp } = await import("./handUp"));
  });
  afterEach(() => void vi.runAllTimers());

  it("is done at once while no pointer is pressed", () => {
    const then = vi.fn();
    whenHandIsUp(then);
    expect(then).toHaveBeenCalledOnce();
  });

  it("waits until the last pointer is up, and for the click after it", () => {
    const then = vi.fn();
    listeners.pointerdown!({ pointerId: 1 });
    listeners.pointerdown!({ pointerId: 2 });
    whenHandIsUp(then);
    listeners.pointerup!({ pointerId: 1 });
    vi.runAllTimers();
    expect(then).not.toHaveBeenCalled();
    listeners.pointercancel!({ pointerId: 2 });
    expect(then).not.toHaveBeenCalled();
    vi.runAllTimers();
    expect(then).toHaveBeenCalledOnce();
  });

  it("waits on where the next press comes before its turn", () => {
    const then = vi.fn();
    listeners.pointerdown!({ pointerId: 1 });
    whenHandIsUp(then);
    listeners.pointerup!({ pointerId: 1 });
    listeners.pointerdown!({ pointerId: 1 });
    vi.runAllTimers();
    expect(then).not.toHaveBeenCalled();
    listeners.pointerup!({ pointerId: 1 });
    vi.runAllTimers();
    expect(then).toHaveBeenCalledOnce();
  });
});
