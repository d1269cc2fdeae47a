import { describe, expect, it } from "vitest";
import { capital, clock, countdown } from "./words.ts";

describe("times in words", () => {
  it.each([
    [0, "0:00"],
    [7.4, "0:07"],
    [95, "1:35"],
    [600, "10:00"],
  ])("%d minutes are %s", (minutes, words) => {
    expect(clock(minutes)).toBe(words);
  });

  it("a clock counts down, and then up with a sign", () => {
    const end = "2025-10-14T09:00:00.000Z";
    const at = Date.parse(end);
    expect(countdown(end, at - 400_000)).toBe("6:40");
    expect(countdown(end, at)).toBe("0:00");
    expect(countdown(end, at + 12_000)).toBe("+0:12");
    expect(countdown(end, at - 5_430_000)).toBe("1:30 h");
  });

  it("a place begins with a capital", () => {
    expect(capital("bow locker")).toBe("Bow locker");
    expect(capital("")).toBe("");
  });
});
