import { describe, expect, it } from "vitest";
import { forecastOf, minutesAtWork, type Took } from "./forecast.ts";

const PLANNED = {
  steps: 20,
  minutes: 130,
  p90M3: 0.0095,
  jugs: 2,
  jugM3: 0.005,
  strength: 0.5,
} as const;
const took = (more: Partial<Took> = {}): Took => ({
  at: "2025-10-14T08:00:00.000Z",
  stepsDone: 20,
  minutes: 95,
  usedM3: 0.0079,
  strength: 0.5,
  ...more,
});

describe("a forecast", () => {
  it("is what is worked out where the unit was never done", () => {
    expect(forecastOf(PLANNED, [])).toEqual({ minutes: 130, carryM3: 0.0095, jugs: 2 });
  });

  it("is what the unit took last, with a tenth over, and says of which day", () => {
    const found = forecastOf(PLANNED, [
      took({ at: "2024-10-14T08:00:00.000Z", minutes: 240, usedM3: 0.02 }),
      took(),
    ]);
    expect(found).toMatchObject({
      minutes: 95,
      minutesFrom: "2025-10-14T08:00:00.000Z",
      jugs: 2,
      carryFrom: { usedM3: 0.0079 },
    });
    expect(found.carryM3).toBeCloseTo(0.00869, 9);
  });

  it.each([
    ["of much less work", { stepsDone: 9 }, 130, 2],
    ["of another strength", { strength: 0.35, usedM3: 0.03 }, 95, 2],
    ["in which nothing was measured", { usedM3: null, minutes: null }, 130, 2],
  ])("does not go by a run %s", (_, more, minutes, jugs) => {
    expect(forecastOf(PLANNED, [took(more)])).toMatchObject({ minutes, jugs });
  });

  it("brings whole jugs for what the unit takes", () => {
    expect(forecastOf(PLANNED, [took({ usedM3: 0.0137 })]).jugs).toBe(4);
  });
});

describe("minutes at work", () => {
  it("leave out pauses, in whatever order the entries came", () => {
    const at = (h: number, m: number) => new Date(Date.UTC(2025, 9, 14, h, m)).toISOString();
    expect(minutesAtWork([])).toBe(0);
    expect(minutesAtWork([at(8, 0), at(8, 20), at(8, 50), at(12, 0), at(12, 10)])).toBe(60);
    expect(minutesAtWork([at(12, 10), at(8, 0), at(12, 0), at(8, 20), at(8, 50)])).toBe(60);
  });
});
