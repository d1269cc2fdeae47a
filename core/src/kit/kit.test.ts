import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../procedure/index.ts";
import { buildNetwork, readWaterMap } from "../watermap/index.ts";
import { canBePlannedWith, curesIn, kitFactsSchema, kitWarnings, lackingFor } from "./index.ts";

const glycol = (more: object = {}) => ({
  kind: "antifreeze" as const,
  base: "propylene-glycol" as const,
  strength: 0.5,
  jugsM3: [0.005],
  ...more,
});
const read = (facts: object) => kitFactsSchema.parse(facts);
const TODAY = "2026-11-30";

describe("what a workshop owns", () => {
  it("is never automotive antifreeze, nor one of which nobody knows what it is", () => {
    for (const base of ["ethylene-glycol", "unknown"] as const) {
      const given = kitFactsSchema.safeParse(glycol({ base }));
      expect(given.success).toBe(false);
      expect(given.error?.issues[0]?.path).toEqual(["base"]);
    }
  });

  it("is planned with where the tables know it", () => {
    expect(canBePlannedWith(read(glycol()))).toBe(true);
    expect(canBePlannedWith(read(glycol({ base: "alcohol" })))).toBe(false);
    expect(canBePlannedWith(read(glycol({ strength: 0.95 })))).toBe(false);
  });

  // Freezing of propylene glycol at 50 % by volume is near −34 °C (ASHRAE Fundamentals, from memory).
  it("says where a label's figure is probably the burst figure", () => {
    expect(kitWarnings(read(glycol({ noIceC: -34 })), TODAY, 6)).toEqual([]);
    expect(kitWarnings(read(glycol({ strength: 0.3, noIceC: -46 })), TODAY, 6)[0]).toContain(
      "burst figure",
    );
  });

  it.each([
    ["2026-10-01", 0],
    ["2026-05-30", 1],
    ["2025-01-01", 1],
  ])("a bottle opened on %s is warned of %i times", (openedOn, times) => {
    expect(kitWarnings(read({ kind: "bleach", strength: 0.06, openedOn }), TODAY, 6)).toHaveLength(
      times,
    );
  });

  it("a sealant cures as its maker says, between his temperatures by their logarithm, and outside them nobody knows", () => {
    const paste = { hoursAt20C: 2, hoursAt5C: 8 };
    expect([25, 20, 5].map((c) => curesIn(paste, c))).toEqual([2, 2, 8]);
    // Half way between 20 and 5 °C: the geometric mean of 2 and 8.
    expect(curesIn(paste, 12.5)).toBeCloseTo(4, 9);
    expect(curesIn(paste, 2)).toBeUndefined();
    expect(curesIn({ hoursAt20C: 24 }, 19)).toBeUndefined();
  });

  it("an instrument past its calibration says so", () => {
    const gauge = { kind: "instrument", what: "gauge", calibratedUntil: "2026-11-29" };
    expect(kitWarnings(read(gauge), TODAY, 6)[0]).toContain("past");
    expect(kitWarnings(read({ ...gauge, calibratedUntil: TODAY }), TODAY, 6)).toEqual([]);
  });
});

const carryOf = (metal: string): readonly string[] => {
  const map = structuredClone(EXAMPLE_MAPS.find((m) => m.id === "teasel")) as unknown as {
    parts: { kind: string; params?: Record<string, unknown> }[];
  };
  const heater = map.parts.find((p) => p.kind === "storage-heater");
  if (heater) heater.params = { ...heater.params, metal };
  const sound = readWaterMap(map);
  if (!sound.ok) throw new Error("not a map");
  const network = buildNetwork(sound.map);
  return planWinterize(standardRequest(network, startPhysical(network))).carry;
};

describe("what is carried", () => {
  it.each([
    ["aluminium", "15/16 in"],
    ["steel", "1-1/16 in or 27 mm"],
  ])("names the socket of a plug in a vessel of %s", (metal, size) => {
    expect(carryOf(metal).filter((line) => line.includes("socket"))).toEqual([
      expect.stringContaining(size),
    ]);
  });

  it("says what the workshop has nothing for", () => {
    const carry = carryOf("steel");
    const socket = carry.find((line) => line.includes("27 mm")) ?? "";
    const key = { name: "Key", facts: read({ kind: "socket", size: "27 mm" }) };
    const scope = {
      name: "Scope",
      facts: read({ kind: "instrument", what: "refractometer", calibratedUntil: TODAY }),
    };
    expect(lackingFor(carry, [])).toEqual(expect.arrayContaining([socket]));
    expect(lackingFor(carry, [key, scope])).not.toContain(socket);
    expect(lackingFor(carry, [key]).some((l) => l.startsWith("Refractometer"))).toBe(true);
    expect(lackingFor(carry, [scope]).some((l) => l.startsWith("Refractometer"))).toBe(false);
  });
});
