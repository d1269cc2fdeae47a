import { act, renderHook } from "@testing-library/react";
import type { PressureTest } from "@uppershed/core/hold";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useLogger } from "./use-logger.ts";
import type { EnterTest } from "./use-test-entry.ts";

/** A stream of the test's own hand. */
class Stream extends EventTarget {
  static readonly CLOSED = 2;
  static readonly all: Stream[] = [];
  readyState = 1;
  readonly url: string;

  constructor(url: string) {
    super();
    this.url = url;
    Stream.all.push(this);
  }

  close(): void {
    this.readyState = Stream.CLOSED;
  }

  says(readings: readonly { atS: number; pa: number }[]): void {
    this.dispatchEvent(new MessageEvent("message", { data: JSON.stringify({ readings }) }));
  }

  refuses(): void {
    this.close();
    this.dispatchEvent(new Event("error"));
  }
}
vi.stubGlobal("EventSource", Stream);

const AT = "2026-05-01T08:00:00.000Z";
const test = {
  logger: { at: AT },
  readings: [],
  ended: undefined,
} as unknown as PressureTest;

afterEach(() => {
  Stream.all.length = 0;
  vi.useRealTimers();
});

describe("the stand-in for a logger", () => {
  it("is asked again where the server has not heard of the test yet, and goes on from the last that came", () => {
    vi.useFakeTimers();
    const enter = vi.fn<EnterTest>();
    const { result, unmount } = renderHook(() => useLogger("u", "t", test, enter));
    expect(Stream.all.map((s) => s.url)).toEqual(["/api/units/u/tests/t/logger?after=-1"]);
    act(() => Stream.all[0]?.refuses());
    act(() => void vi.advanceTimersByTime(2000));
    expect(Stream.all).toHaveLength(2);
    act(() => Stream.all[1]?.says([{ atS: 15, pa: 3e5 }]));
    expect(result.current).toEqual([{ atS: 15, pa: 3e5 }]);
    act(() => Stream.all[1]?.refuses());
    act(() => void vi.advanceTimersByTime(2000));
    expect(Stream.all[2]?.url).toBe("/api/units/u/tests/t/logger?after=15");
    // What came is kept when the screen is left, and nothing is asked any more.
    unmount();
    expect(enter).toHaveBeenCalledOnce();
    act(() => void vi.advanceTimersByTime(60_000));
    expect(Stream.all).toHaveLength(3);
  });

  it("is left to the browser where the line only broke", () => {
    vi.useFakeTimers();
    renderHook(() => useLogger("u", "t", test, vi.fn<EnterTest>()));
    act(() => void Stream.all[0]?.dispatchEvent(new Event("error")));
    act(() => void vi.advanceTimersByTime(5000));
    expect(Stream.all).toHaveLength(1);
  });
});
