import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { CALCULATIONS, reckon } from "../reckon/index.ts";
import { COMMON_NIGHT, nightWatch, product, startingContents, water } from "./index.ts";

const night = (airC: number) => ({ ...COMMON_NIGHT, airC });

describe("how long what is wet lasts in a night", () => {
  const network = networkOf(teasel);
  const contents = startingContents(network);

  it("of a bare pipe is what the reckoner says of it", () => {
    const run = network.cells.findIndex(
      (c) => c.run && !c.run.heated && !c.run.insulated && c.run.pipe === "metric-15",
    );
    const [bore, outside] = [0.0117, 0.015];
    const found = nightWatch(network, contents, night(-6.667)).find((w) => w.cell === run);
    const calculation = CALCULATIONS.find((c) => c.name === "night");
    if (!calculation) throw new Error("no such calculation");
    const worked = reckon(calculation, {
      bore,
      outside,
      wall: 0.41,
      foam: 0,
      foamConducts: 0.036,
      film: 10,
      begin: 8,
      air: -6.667,
    });
    if (!worked.ok || !found) throw new Error("no answer");
    expect(found.firstIceS).toBeCloseTo(worked.answer.value, 6);
  });

  it("is longer for larger bodies and milder nights, and shorter in wind", () => {
    const cold = nightWatch(network, contents, night(-12));
    const last = (list: typeof cold, id: string): number =>
      list.find((w) => w.id === id)?.throughS ?? 0;
    expect(last(cold, "heater:vessel")).toBeGreaterThan(20 * last(cold, "galley:cold"));
    expect(last(nightWatch(network, contents, night(-6)), "heater:vessel")).toBeGreaterThan(
      last(cold, "heater:vessel"),
    );
    expect(
      last(nightWatch(network, contents, { ...night(-12), filmWm2K: 25 }), "galley:cold"),
    ).toBeLessThan(last(cold, "galley:cold"));
    expect(cold.map((w) => w.throughS)).toEqual(
      cold.map((w) => w.throughS).toSorted((a, b) => a - b),
    );
  });

  it("leaves out a heated hose down to what it is rated, and names it below", () => {
    const rated = networkOf({ ...teasel, runs: teasel.runs.map((r) => ({ ...r, ratedToC: -20 })) });
    const pipesAt = (airC: number) =>
      nightWatch(rated, startingContents(rated), { ...COMMON_NIGHT, airC }).filter(
        (w) => rated.cells[w.cell]?.run,
      ).length;
    expect(pipesAt(-20)).toBe(0);
    expect(pipesAt(-20.1)).toBeGreaterThan(20);
  });

  it("is longer inside the heated space, by what that is warmer", () => {
    const warm = networkOf({ ...teasel, runs: teasel.runs.map((r) => ({ ...r, heated: true })) });
    const cold = networkOf({ ...teasel, runs: teasel.runs.map((r) => ({ ...r, heated: false })) });
    const id = "r-t-gc-b-galley-cold";
    const lasts = (unit: typeof network, airC: number): number =>
      nightWatch(unit, startingContents(unit), night(airC)).find((w) => w.id === id)?.throughS ??
      Number.NaN;
    expect(lasts(warm, -10)).toBeGreaterThan(1.2 * lasts(cold, -10));
    // Three kelvins warmer inside is as good as a night three kelvins milder.
    expect(lasts(warm, -10)).toBeCloseTo(lasts(cold, -10 + COMMON_NIGHT.insideK), 3);
    // So is a part to which only such pipes lead, and no other.
    const part = (unit: typeof network, airC: number): number =>
      nightWatch(unit, startingContents(unit), night(airC)).find((w) => w.id === "galley:cold")
        ?.throughS ?? Number.NaN;
    expect(part(warm, -10)).toBeCloseTo(part(cold, -10 + COMMON_NIGHT.insideK), 3);
    const one = networkOf({
      ...teasel,
      runs: teasel.runs.map((r) => ({ ...r, heated: r.id !== id })),
    });
    expect(part(one, -10)).toBeCloseTo(part(cold, -10), 3);
  });

  it("lists nothing that has room for its ice, nothing that stays liquid, and nothing at all above freezing", () => {
    const half = network.cells.map((c) => ({
      plugs: [water(0.1 * c.capacityM3)],
      source: "measured" as const,
    }));
    const strong = network.cells.map((c) => ({
      plugs: [product(c.capacityM3, 0.5)],
      source: "measured" as const,
    }));
    const full = network.cells.map((c) => ({
      plugs: [water(c.capacityM3)],
      source: "measured" as const,
    }));
    const traps = network.cells.flatMap((c, i) => (c.form === "trap" ? [i] : []));
    expect(
      nightWatch(network, half, night(-20)).every(
        (w) => traps.includes(w.cell) || (network.cells[w.cell]?.allowedRemainder ?? 1) < 0.1,
      ),
    ).toBe(true);
    expect(nightWatch(network, strong, night(-20))).toEqual([]);
    expect(nightWatch(network, full, night(-20)).length).toBeGreaterThan(40);
    // What falls to its tank keeps a film; what stands in a dip stays.
    const wastes = network.cells.flatMap((c, i) => (c.form === "waste-pipe" ? [i] : []));
    const listed = (unit: typeof network) =>
      nightWatch(unit, full, night(-20)).filter((w) => wastes.includes(w.cell)).length;
    const dipped = networkOf({
      ...teasel,
      runs: teasel.runs.map((r) =>
        r.service === "waste" ? { ...r, sag: { depthM: 0.05, lengthM: 0.2 } } : r,
      ),
    });
    expect([listed(network), listed(dipped)]).toEqual([0, wastes.length]);
    expect(wastes.length).toBeGreaterThan(0);
    expect(nightWatch(network, full, { ...night(-0.005), insideK: 0 })).toEqual([]);
  });

  it("has a finite answer for every part of every demo unit", () => {
    for (const map of EXAMPLE_MAPS) {
      const unit = networkOf(map);
      for (const w of nightWatch(unit, startingContents(unit), night(-15))) {
        expect(w.firstIceS, w.id).toBeGreaterThan(0);
        expect(Number.isFinite(w.throughS), w.id).toBe(true);
      }
    }
  });
});
