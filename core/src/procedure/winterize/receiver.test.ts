import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { BY_RECEIVER, judgeMap, withRatedHeaters } from "../../testing/safety.ts";
import type { WaterMap } from "../../watermap/index.ts";
import { AIR_LIMITS, HOUSE_LIMITS, type HouseLimits } from "../house-settings.ts";
import { storedEnergyJ } from "../../fluid/index.ts";

const trailer = PATTERNS.find((p) => p.id === "P02");
if (!trailer) throw new Error("no family P02");
const plain = starterMap(trailer);
// Those with a storage heater, and the two of the demo that differ most from a family.
const MAPS = [...EXAMPLE_MAPS.slice(0, 2), ...PATTERNS.map(starterMap)].filter((m) =>
  m.parts.some((p) => p.kind === "storage-heater"),
);
const rated = withRatedHeaters(plain);
const air = (more: Partial<NonNullable<HouseLimits["air"]>>): HouseLimits => ({
  ...HOUSE_LIMITS,
  air: { ...AIR_LIMITS, ...more },
});
const planned = (map: WaterMap, house: HouseLimits) => judgeMap(map, "air-antifreeze", house);
const steps = (map: WaterMap, house: HouseLimits) => planned(map, house).plan.steps;
const saidAt = (map: WaterMap, house: HouseLimits): string =>
  steps(map, house)
    .filter((s) => s.id.endsWith(":on"))
    .flatMap((s) => s.cautions)
    .join(" ");

describe("the heater as a receiver", () => {
  it("is looked at, shut and in line before the hose goes on, and out of the loop before antifreeze comes", () => {
    const ids = steps(rated, BY_RECEIVER).map((s) => s.id);
    const at = (word: string): number => ids.findIndex((id) => id.includes(word));
    expect(at(":receiver:")).toBeGreaterThan(at("drain:heater"));
    expect(at(":plug")).toBeGreaterThan(at(":receiver:"));
    expect(at(":on")).toBeGreaterThan(at(":plug"));
    const out = ids.findIndex((id) => id.startsWith("bypass:"));
    expect(out).toBeGreaterThan(at(":off"));
    expect(out).toBeLessThan(ids.findIndex((id) => id.startsWith("fill:")));
  });

  it("says what it stores: 25 L at 40 psi are 7.4 kJ (worked example of adiabatic work, textbook)", () => {
    expect(storedEnergyJ(0.025, 275_790) / 1000).toBeCloseTo(7.4, 1);
    const step = steps(rated, BY_RECEIVER).find((s) => s.id.includes(":receiver:"));
    expect(step?.cautions.join(" ")).toMatch(/stores about \d+\.\d kJ/);
  });

  it("is not planned where a condition is missing, and the sheet says which", () => {
    const receiver = { heater: "receiver" as const };
    expect(saidAt(rated, air(receiver))).toContain("does not say how much the compressor");
    expect(saidAt(rated, air({ ...receiver, compressorM3: 0.024 }))).toContain("large enough");
    expect(saidAt(plain, air({ ...receiver, compressorM3: 0.011 }))).toContain("nobody has read");
    expect(saidAt(withRatedHeaters(plain, 2), air({ ...receiver, compressorM3: 0.011 }))).toContain(
      "bears only {pa:200000}",
    );
    for (const house of [air(receiver), air({ ...receiver, compressorM3: 0.024 })])
      expect(steps(rated, house).some((s) => s.id.includes(":receiver:"))).toBe(false);
  });

  it("is offered in words for a small compressor where the house has it bypassed, with what it would bring", () => {
    // 22 L behind 11 L: three times as much.
    expect(saidAt(rated, air({ compressorM3: 0.011 }))).toMatch(/in line as a receiver.*times/);
    expect(saidAt(rated, air({ compressorM3: 0.05 }))).not.toContain("receiver");
    expect(saidAt(plain, air({ compressorM3: 0.011 }))).not.toContain("receiver");
  });

  it.each(MAPS.map((m) => [m.name, m] as const))(
    "on %s protects no less, judged by the checker",
    (_, map) => {
      for (const method of ["air", "air-antifreeze"] as const) {
        const bypassed = judgeMap(map, method);
        const { plan, judged } = judgeMap(withRatedHeaters(map), method, BY_RECEIVER);
        expect(judged.falseProtected, method).toEqual([]);
        expect(judged.hazards, method).toEqual([]);
        expect(plan.unprotected.length, method).toBeLessThanOrEqual(
          bypassed.plan.unprotected.length,
        );
      }
    },
  );
});
