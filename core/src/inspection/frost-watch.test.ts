import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { riskOf, simulatedNights } from "./frost-watch.ts";

describe("the stand-in for a forecast", () => {
  it("says the same of the same place and day, whenever it is asked, and never passes the winter low", () => {
    fc.assert(
      fc.property(
        fc.string(),
        fc.integer({ min: 0, max: 360 }),
        fc.double({ min: -45, max: -1, noNaN: true }),
        (place, skip, low) => {
          const all = simulatedNights(place, "2026-01-01", 366, low);
          const day = all[skip];
          expect(simulatedNights(place, day?.day ?? "", 1, low)).toEqual([day]);
          for (const night of all) expect(night.lowC).toBeGreaterThanOrEqual(low);
        },
      ),
      { seed: 6, numRuns: 30 },
    );
  });

  it("has frost in January and none in July", () => {
    const mean = (from: string): number =>
      simulatedNights("yard", from, 30, -18).reduce((s, n) => s + n.lowC / 30, 0);
    expect(mean("2026-01-05")).toBeLessThan(-3);
    expect(mean("2026-07-05")).toBeGreaterThan(8);
  });
});

describe("a unit's risk", () => {
  const nights = [
    { day: "2026-11-30", lowC: -2 },
    { day: "2026-12-01", lowC: -9 },
    { day: "2026-12-02", lowC: -14 },
  ];
  it.each([
    [0, "2026-11-30", 2],
    [-5, "2026-12-01", 4],
    [-9, "2026-12-02", 5],
  ])("that holds to %i begins on %s", (holds, day, shortK) => {
    expect(riskOf(holds, nights)).toMatchObject({ night: { day }, shortK });
  });
  it("is none where it holds every night, where nothing has a limit, and where no night freezes", () => {
    expect(riskOf(-14, nights)).toBeUndefined();
    expect(riskOf(null, nights)).toBeUndefined();
    expect(riskOf(5, [{ day: "2026-06-01", lowC: 2 }])).toBeUndefined();
  });
});
