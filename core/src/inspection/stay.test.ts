import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { networkOf } from "../testing/variants.ts";
import type { WaterMap } from "../watermap/index.ts";
import { circuitLoad, stayInFrost } from "./stay.ts";

const hookUp = (): WaterMap => {
  const found = PATTERNS.find((p) => p.id === "P15");
  if (!found) throw new Error("no hook-up family");
  return starterMap(found);
};

/** Every run outside lagged, heated or bare. */
const withRuns = (map: WaterMap, change: Partial<WaterMap["runs"][number]>): WaterMap => ({
  ...map,
  runs: map.runs.map((r) => ({ ...r, ...change })),
});

describe("staying in frost", () => {
  it("names what lies bare, the one that gives out first at the top", () => {
    const stay = stayInFrost(networkOf(hookUp()), -12);
    expect(stay.weakest).not.toBeNull();
    const open = stay.outside.filter((e) => !e.kept).map((e) => e.throughS ?? 0);
    expect(open).toEqual(open.toSorted((a, b) => a - b));
    expect(stay.weakest?.id).toBe(stay.outside[0]?.id);
  });

  it("counts a heated hose for what it is rated, and for nothing below it or without power", () => {
    const map = withRuns(hookUp(), { ratedToC: -20 });
    const runs = new Set<string>(map.runs.map((r) => r.id));
    const at = (lowC: number) =>
      stayInFrost(networkOf(map), lowC).outside.filter((e) => runs.has(e.id));
    expect(at(-12).length).toBeGreaterThan(0);
    expect(at(-12).every((e) => e.kept && e.how === "heated")).toBe(true);
    expect(at(-25).some((e) => e.kept)).toBe(false);
    // Without power it lasts as long as a bare one of the same bore.
    const bareRuns = stayInFrost(networkOf(hookUp()), -12).outside.find((e) => runs.has(e.id));
    expect(at(-12).find((e) => e.id === bareRuns?.id)?.throughS).toBeCloseTo(
      bareRuns?.throughS ?? 0,
      6,
    );
    expect(stayInFrost(networkOf(map), -12).heatedM).toBeGreaterThan(0);
  });

  it("keeps what lies inside while the space is heated, and says how long it lasts without", () => {
    const inside = withRuns(EXAMPLE_MAPS[0] as WaterMap, { heated: true });
    const stay = stayInFrost(networkOf(inside), -10);
    const runs = new Set<string>(inside.runs.map((r) => r.id));
    expect(stay.outside.filter((e) => runs.has(e.id))).toEqual([]);
    expect(stay.insideWithoutHeat.some((e) => runs.has(e.id))).toBe(true);
    const last = stay.insideWithoutHeat.map((e) => e.throughS);
    expect(last).toEqual(last.toSorted((a, b) => a - b));
    expect(last[0]).toBeGreaterThan(0);
  });

  it("lasts longer lagged than bare, and shorter the colder it is", () => {
    const soonest = (map: WaterMap, lowC: number): number =>
      stayInFrost(networkOf(map), lowC).outside.find((e) => e.id.startsWith("r-"))?.throughS ?? 0;
    const [naked, lagged] = [hookUp(), withRuns(hookUp(), { insulated: true })];
    expect(soonest(lagged, -12)).toBeGreaterThan(soonest(naked, -12));
    expect(soonest(naked, -20)).toBeLessThan(soonest(naked, -12));
  });
});

describe("the load on one circuit", () => {
  // By hand: 12 m at 15 W/m and 1500 W on 120 V are 14 A; four fifths of 15 A are 12 A.
  it("is watts by volts, held against four fifths of the breaker", () => {
    const on = { volts: 120, cableM: 12, wattsPerM: 15, otherW: 1500 };
    expect(circuitLoad({ ...on, breakerA: 15 })).toMatchObject({
      cableW: 180,
      totalW: 1680,
      amps: 14,
      limitA: 12,
      verdict: "over the night's limit",
    });
    expect(circuitLoad({ ...on, breakerA: 20 }).verdict).toBe("within");
    expect(circuitLoad({ ...on, breakerA: 10 }).verdict).toBe("over the breaker");
  });
});
