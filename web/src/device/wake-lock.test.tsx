import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useWakeLock } from "./wake-lock.ts";

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("the screen at a run sheet", () => {
  it("is kept awake, again when the page is shown again, and let go when the sheet is left", async () => {
    const release = vi.fn<() => Promise<void>>(() => Promise.resolve());
    const request = vi.fn<(kind: string) => Promise<unknown>>(() => Promise.resolve({ release }));
    vi.stubGlobal("navigator", { wakeLock: { request } });
    const { unmount } = renderHook(useWakeLock);
    await act(async () => undefined);
    expect(request).toHaveBeenCalledExactlyOnceWith("screen");
    act(() => void document.dispatchEvent(new Event("visibilitychange")));
    expect(request).toHaveBeenCalledTimes(2);
    await act(async () => undefined);
    unmount();
    expect(release).toHaveBeenCalled();
    act(() => void document.dispatchEvent(new Event("visibilitychange")));
    expect(request).toHaveBeenCalledTimes(2);
  });

  it("works all the same where the browser does not want to, or cannot", async () => {
    vi.stubGlobal("navigator", {
      wakeLock: { request: () => Promise.reject(new DOMException("low battery")) },
    });
    renderHook(useWakeLock).unmount();
    vi.stubGlobal("navigator", {});
    expect(() => renderHook(useWakeLock).unmount()).not.toThrow();
  });
});
