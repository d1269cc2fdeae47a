import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useNewVersion } from "./new-version.ts";

afterEach(cleanup);

/** A service worker and its page's container, as far as they matter here. */
class Worker extends EventTarget {
  state = "installing";
  readonly told: unknown[] = [];
  postMessage(message: unknown): void {
    this.told.push(message);
  }
  becomes(state: string): void {
    this.state = state;
    this.dispatchEvent(new Event("statechange"));
  }
}
const page = (controlled: boolean) => {
  const registration = Object.assign(new EventTarget(), {
    waiting: null as Worker | null,
    installing: null as Worker | null,
    update: vi.fn<() => Promise<void>>(() => Promise.resolve()),
  });
  const container = Object.assign(new EventTarget(), {
    controller: controlled ? {} : null,
    ready: Promise.resolve(registration),
  });
  return { registration, container: container as unknown as ServiceWorkerContainer };
};

describe("a new version of the application", () => {
  it("is offered when it has come while a tab is open, and takes over when it is told to", async () => {
    const { registration, container } = page(true);
    const { result } = renderHook(() => useNewVersion(container));
    await act(async () => undefined);
    expect(result.current.waiting).toBe(false);
    const worker = new Worker();
    registration.installing = worker;
    act(() => {
      registration.dispatchEvent(new Event("updatefound"));
      worker.becomes("installed");
    });
    expect(result.current.waiting).toBe(true);
    act(() => result.current.take());
    expect(worker.told).toEqual([{ type: "SKIP_WAITING" }]);
  });

  it("that came before the page was opened is offered at once", async () => {
    const { registration, container } = page(true);
    registration.waiting = new Worker();
    const { result } = renderHook(() => useNewVersion(container));
    await waitFor(() => expect(result.current.waiting).toBe(true));
  });

  it("is not offered where it is the first of all, and takes over by itself", async () => {
    const { registration, container } = page(false);
    const { result } = renderHook(() => useNewVersion(container));
    await act(async () => undefined);
    const worker = new Worker();
    registration.installing = worker;
    act(() => {
      registration.dispatchEvent(new Event("updatefound"));
      worker.becomes("installed");
    });
    expect(result.current.waiting).toBe(false);
  });

  it("is looked for again and again in a tab that stays open for weeks", async () => {
    vi.useFakeTimers();
    try {
      const { registration, container } = page(true);
      renderHook(() => useNewVersion(container));
      await act(async () => undefined);
      await act(() => vi.advanceTimersByTimeAsync(2 * 3_600_000));
      expect(registration.update).toHaveBeenCalledTimes(2);
    } finally {
      vi.useRealTimers();
    }
  });
});
