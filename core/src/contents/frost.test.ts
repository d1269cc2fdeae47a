import { describe, expect, it } from "vitest";
import { teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import {
  type Contents,
  frostVerdict,
  product,
  startingContents,
  unprotectedAt,
  volumeOf,
  water,
} from "./index.ts";
import { cellTold, cellAt } from "../watermap/index.ts";

const network = networkOf(teasel);
const at = (id: string): number => cellAt(network, id);
const capacity = (id: string): number => network.cells[at(id)]?.capacityM3 ?? 0;

/** Everything empty but what is named. */
const holding = (what: Record<string, ReturnType<typeof water>>): Contents =>
  network.cells.map((cell) => {
    const liquid = what[cellTold(network, network.cells.indexOf(cell))];
    return { plugs: liquid && volumeOf(liquid) > 0 ? [liquid] : [], source: "worked out" };
  });

describe("the frost verdict", () => {
  it("is 0 °C for a unit in use, with a vessel full of water named and assumed as its evidence", () => {
    const verdict = frostVerdict(network, startingContents(network));
    expect(verdict.holdsToC).toBe(0);
    expect(verdict.weakest).toMatchObject({
      name: "Heater",
      source: "assumed",
      evidence: "full of water (assumed)",
    });
  });

  it("has no limit when nothing is aboard", () => {
    expect(frostVerdict(network, holding({}))).toMatchObject({ holdsToC: null, weakest: null });
  });

  it.each([
    // Room for ice: ice takes 1/0.9167 of the water's volume (IAPWS R10-06, from memory), so 10/11 full is the limit.
    ["a heater a twentieth full", { heater: water(0.05 * 0.038) }, null],
    ["a heater nine tenths full", { heater: water(0.9 * 0.038) }, null],
    ["a heater 95 % full", { heater: water(0.95 * 0.038) }, 0],
    [
      "a pump head a fifth full (mist after air; common practice, no source)",
      { pump: water(0.2 * 0.06e-3) },
      null,
    ],
    ["a pump head 40 % full", { pump: water(0.4 * 0.06e-3) }, 0],
    [
      "a trap half full of water: a seal has no free room under it",
      { "trap-galley": water(0.5 * 0.25e-3) },
      0,
    ],
  ])("%s", (_, what, expected) => {
    expect(frostVerdict(network, holding(what)).holdsToC).toBe(expected);
  });

  it("calls nothing safe from bursting that is thinner than the table's first row, 12 % (manufacturer's guide)", () => {
    const pipe = "r-t-gc-b-galley-cold";
    const verdictAt = (strength: number) =>
      frostVerdict(network, holding({ [pipe]: product(capacity(pipe), strength) })).cells[at(pipe)];
    const thin = verdictAt(0.11);
    expect(thin?.why).toMatch(/first ice below/u);
    // ASHRAE Fundamentals: first crystals of 9.6 % at −3.3 °C, of 14.5 % at −5.1 °C; from memory.
    expect(thin?.holdsToC).toBeGreaterThan(-5.1);
    expect(thin?.holdsToC).toBeLessThan(-3.3);
    expect(verdictAt(0.12)?.why).toMatch(/bursts below/u);
  });

  it("counts a heated hose for what it is rated while the unit is in use, never below what stands in it, never laid up", () => {
    const pipe = "r-t-gc-b-galley-cold";
    const hose = networkOf({
      ...teasel,
      runs: teasel.runs.map((r) => (r.id === pipe ? { ...r, ratedToC: -20 } : r)),
    });
    const holds = (powered: boolean, strength: number) => {
      const what = hose.cells.map((c) => ({
        plugs: c.id === pipe ? [product(c.capacityM3, strength)] : [],
        source: "worked out" as const,
      }));
      const { cells, holdsToC } = frostVerdict(hose, what, "by-part", undefined, { powered });
      return { holdsToC, why: cells[hose.cellIndex.get(pipe) ?? -1]?.why };
    };
    expect(holds(true, 0)).toEqual({
      holdsToC: -20,
      why: "its own heat keeps it down to {c:-20}, as rated, while it has power",
    });
    expect(holds(false, 0).holdsToC).toBe(0);
    expect(holds(true, 0.3).holdsToC).toBeCloseTo(-28.9, 1);
  });

  it("takes the burst point in pipe and the first ice in a cartridge, unless the house says otherwise", () => {
    const pipe = "r-t-gc-b-galley-cold";
    const what = holding({
      [pipe]: product(capacity(pipe), 0.3),
      "galley:cold": product(capacity("galley:cold"), 0.3),
    });
    const cellOf = (policy: Parameters<typeof frostVerdict>[2], id: string) =>
      frostVerdict(network, what, policy).cells[at(id)]?.holdsToC;
    // Manufacturer's guide: 30 % bursts at −20 °F; ASHRAE: 29.4 % freezes at −12.7 °C. From memory.
    expect(cellOf("by-part", pipe)).toBeCloseTo(-28.9, 1);
    expect(cellOf("by-part", "galley:cold")).toBeCloseTo(-13.1, 1);
    expect(cellOf("burst", "galley:cold")).toBeCloseTo(-28.9, 1);
    expect(cellOf("no-ice", pipe)).toBeCloseTo(-13.1, 1);
  });

  it("lets a reading replace what was worked out, and says so", () => {
    const what = holding({ "shower:hose": product(capacity("shower:hose"), 0.45) });
    const read = frostVerdict(network, what, "by-part", new Map([[at("shower:hose"), 0.29]]));
    expect(read.weakest).toMatchObject({
      source: "measured",
      evidence: expect.stringContaining("read at 29 %"),
    });
    expect(read.holdsToC ?? 0).toBeGreaterThan(frostVerdict(network, what).holdsToC ?? 0);
  });

  it("counts the weakest plug of a pipe, not its mean", () => {
    const pipe = "r-t-gc-c-t-bc-a";
    const contents = holding({}).map((cell, i) =>
      i === at(pipe)
        ? { ...cell, plugs: [product(0.8 * capacity(pipe), 0.5), water(0.2 * capacity(pipe))] }
        : cell,
    );
    expect(frostVerdict(network, contents).holdsToC).toBe(0);
  });

  it("lists what does not hold a temperature, warmest first, vessels before small bodies", () => {
    const contents = holding({
      heater: water(0.038),
      pump: water(0.06e-3),
      "galley:cold": product(capacity("galley:cold"), 0.2),
    });
    const verdict = frostVerdict(network, contents);
    expect(unprotectedAt(verdict, -18).map((o) => o.id)).toEqual(["heater", "pump", "galley"]);
    // ASHRAE: 19.4 % by volume freezes at −7.1 °C, 24.4 % at −9.6 °C, from memory; 20 % lies between.
    expect(unprotectedAt(verdict, -6).map((o) => o.id)).toEqual(["heater", "pump"]);
    expect(unprotectedAt(verdict, 0)).toEqual([]);
  });

  it("does not go below the tables for a stronger mixture than they hold", () => {
    const what = holding({ heater: product(0.038, 0.9) });
    expect(frostVerdict(network, what, "no-ice").holdsToC).toBeCloseTo(-51.1, 6);
  });
});
