import { describe, expect, it } from "vitest";
import { type YearFigures, yearOnYear } from "./years.ts";

const year = (at: string, more: Partial<YearFigures> = {}): YearFigures => ({
  runId: at,
  at,
  method: "antifreeze",
  usedM3: 0.008,
  recoveredM3: 0.04,
  strength: 0.45,
  minutes: 90,
  holdsToC: -26,
  ...more,
});

describe("year on year", () => {
  it("names what departs from the middle of the years before, and which way", () => {
    const [now, before] = yearOnYear([
      year("2024-10-01"),
      year("2026-10-01", { usedM3: 0.012, recoveredM3: 0.032, strength: 0.36, holdsToC: -20 }),
      year("2025-10-01"),
    ]);
    expect(now?.at).toBe("2026-10-01");
    expect(now?.standsOut).toEqual({
      usedM3: "more",
      holdsToC: "more",
    });
    expect(before?.standsOut).toEqual({});
    const [weak] = yearOnYear([
      year("2025-10-01"),
      year("2026-10-01", { strength: 0.3, recoveredM3: 0.02, minutes: 200 }),
    ]);
    expect(weak?.standsOut).toEqual({ strength: "less", recoveredM3: "less", minutes: "more" });
  });

  it("compares only what was done by the same method, and nothing with what nobody measured", () => {
    const [now] = yearOnYear([
      year("2025-10-01", { usedM3: null }),
      year("2024-10-01", { method: "air", usedM3: 0.001, minutes: 10 }),
      year("2026-10-01", { usedM3: 0.02 }),
    ]);
    expect(now?.standsOut).toEqual({});
  });
});
