import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { whenQuiet } from "./keep-application.ts";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const line = () => {
  const told = new Set<() => void>();
  let busy = true;
  return {
    subscribe: (f: () => void) => (told.add(f), () => void told.delete(f)),
    isBusy: () => busy,
    becomes: (now: boolean) => {
      busy = now;
      for (const f of told) f();
    },
    listeners: () => told.size,
  };
};

describe("the application is put on the device", () => {
  it("when nothing has been fetched for a while, once", () => {
    const kept = vi.fn<() => void>();
    const store = line();
    whenQuiet(store, store.isBusy, kept);
    vi.advanceTimersByTime(5000);
    expect(kept).not.toHaveBeenCalled();
    store.becomes(false);
    vi.advanceTimersByTime(1000);
    // One answer asks for the next.
    store.becomes(true);
    vi.advanceTimersByTime(5000);
    expect(kept).not.toHaveBeenCalled();
    store.becomes(false);
    vi.advanceTimersByTime(1500);
    expect(kept).toHaveBeenCalledTimes(1);
    store.becomes(false);
    vi.advanceTimersByTime(120_000);
    expect(kept).toHaveBeenCalledTimes(1);
    expect(store.listeners()).toBe(0);
  });

  it("after a minute, however busy the line is", () => {
    const kept = vi.fn<() => void>();
    const store = line();
    whenQuiet(store, store.isBusy, kept);
    vi.advanceTimersByTime(60_000);
    expect(kept).toHaveBeenCalledTimes(1);
  });
});
