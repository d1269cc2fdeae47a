import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { readWaterMap, type WaterMap } from "../../watermap/index.ts";
import { caseMap, CASE_NAMES } from "../cases/index.ts";
import { judgeMap, judgeSystem } from "../safety.ts";
import { judgePlan, type Told } from "./index.ts";

/** Every plan is judged by a second, simpler engine that knows the map and plain physics only. */

const maps: [string, WaterMap][] = [
  ...EXAMPLE_MAPS.map((m): [string, WaterMap] => [m.name, m]),
  ...PATTERNS.map((p): [string, WaterMap] => [p.id, starterMap(p)]),
  ...CASE_NAMES.map((name): [string, WaterMap] => [name, caseMap(name)]),
];

describe("the checker finds nothing called protected that is wet, and no hazard, in the plan", () => {
  it.each(maps)("of %s", (_, map) => {
    const { plan, judged } = judgeMap(map);
    expect(judged.falseProtected).toEqual([]);
    expect(judged.hazards).toEqual([]);
    // Something is filled, or it is said why not.
    const isFilled = plan.steps.some((s) => s.stage === "fill" && s.antifreezeM3 > 0);
    expect(isFilled || plan.unprotected.length === 0 || plan.entry.startsWith("none")).toBe(true);
  });

  // A heater's leg, out of which the air of an empty heater was counted on to drive the water while a way lay open beside it, and one
  // through which a push at the inlet drove the inlet line's water, by a bypass beside.
  it.each([5408, 9947, 5609])("of the hostile system %d, once found wrong", (seed) => {
    expect(judgeSystem(seed)).toMatchObject({ judged: { falseProtected: [], hazards: [] } });
  });

  it("of hostile systems, seeded", () => {
    const judged = Array.from({ length: 30 }, (_, i) => judgeSystem(900_001 + i));
    expect(judged.flatMap((j) => (j.failure ? [[j.seed, j.failure]] : []))).toEqual([]);
    expect(
      judged.flatMap((j) => (j.judged?.falseProtected ?? []).map((f) => [j.seed, f.node, f.why])),
    ).toEqual([]);
    expect(
      judged.flatMap((j) => (j.judged?.hazards ?? []).map((h) => [j.seed, h.step, h.what])),
    ).toEqual([]);
    const shown = judged.reduce((sum, j) => sum + (j.judged?.shown ?? 0), 0);
    const over = judged.reduce((sum, j) => sum + (j.judged?.overCautious.length ?? 0), 0);
    expect(over / shown).toBeLessThan(0.05);
  });
});

/** Pump and tap on a tank with a low point, and whatever plan is told of it. */
const bench = (): WaterMap => {
  const read = readWaterMap({
    format: "upper-shed/water-map",
    version: 3,
    id: "bench",
    name: "Bench",
    craft: "bench",
    parts: [
      {
        id: "tank",
        kind: "fresh-tank",
        name: "Tank",
        heightM: 0.1,
        params: { volumeL: 20, depthM: 0.3 },
      },
      { id: "pump", kind: "diaphragm-pump", name: "Pump", heightM: 0.1 },
      { id: "t", kind: "tee", name: "Tee", heightM: 0.1 },
      { id: "low", kind: "low-point-drain", name: "Low point", heightM: 0 },
      { id: "heater", kind: "storage-heater", name: "Heater", heightM: 0.2 },
      { id: "tap", kind: "single-tap", name: "Tap", heightM: 0.9 },
    ],
    runs: [
      {
        id: "suction",
        from: { part: "tank", port: "outlet" },
        to: { part: "pump", port: "in" },
        pipe: "hose-13",
        lengthM: 1,
        service: "suction",
      },
      {
        id: "main",
        from: { part: "pump", port: "out" },
        to: { part: "t", port: "a" },
        pipe: "pex-1/2",
        lengthM: 1,
        service: "cold",
      },
      {
        id: "to-low",
        from: { part: "t", port: "b" },
        to: { part: "low", port: "in" },
        pipe: "pex-1/2",
        lengthM: 0.5,
        service: "cold",
      },
      {
        id: "to-heater",
        from: { part: "t", port: "c" },
        to: { part: "heater", port: "cold" },
        pipe: "pex-1/2",
        lengthM: 1,
        service: "cold",
      },
      {
        id: "to-tap",
        from: { part: "heater", port: "hot" },
        to: { part: "tap", port: "in" },
        pipe: "pex-1/2",
        lengthM: 2,
        service: "hot",
      },
    ],
  });
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  return read.map;
};

const told = (steps: Told["steps"][number]["actions"][], holdsToC: number | null = -30): Told => ({
  steps: steps.map((actions, i) => ({ id: `s${i}`, stage: "fill", actions, antifreezeM3: 0.004 })),
  verdict: {
    owners: ["main", "to-low", "heater", "to-tap", "pump"].map((id) => ({ id, holdsToC })),
  },
  cannotTell: [],
});
const SETTINGS = { winterLowC: -18, strength: 0.5, burst: true };
const set = (control: string, position: string) => ({ type: "set-valve", control, position });
const OFF = [
  { type: "confirm", fact: "off:heater" },
  { type: "confirm", fact: "cool:heater" },
];
const owners = (t: Told): string[] =>
  judgePlan(bench(), {}, t, SETTINGS).falseProtected.map((f) => f.owner);
const hazards = (t: Told): string[] =>
  judgePlan(bench(), {}, t, SETTINGS).hazards.map((h) => h.what);

describe("the checker itself", () => {
  it("does not believe what is only said", () => {
    expect(owners(told([]))).toEqual(["main", "to-low", "heater", "to-tap", "pump"]);
  });

  it("lets a line run out only where air comes in beside it", () => {
    // A low point alone: the tap shut, it holds like a straw. With the tap open too the lines run out.
    const shut = told([[set("low", "open"), { type: "drain" }]]);
    expect(owners(shut)).toContain("to-tap");
    const open = told([
      [
        ...OFF,
        set("heater:plug", "open"),
        set("heater:relief", "open"),
        set("tap", "open"),
        set("low", "open"),
        { type: "drain" },
      ],
    ]);
    // Behind the pump's valves no air comes to the main: it holds too.
    expect(owners(open)).toEqual(["main", "pump"]);
  });

  it("does not take a shut tap's line for swept, nor a way without a jug for filled", () => {
    const pump = {
      type: "pump",
      switch: "pump",
      watch: "tap:spout",
      untilStrength: 0.4,
      maxM3: 0.004,
    };
    expect(owners(told([[set("tap", "open"), set("pump", "on"), pump]]))).toContain("to-tap");
    const jug = { type: "disconnect", run: "suction", end: "to", jug: true };
    expect(owners(told([[jug, pump]]))).toContain("main");
  });

  it("names what could hurt: a hot plug, a post, a jet beside what is watched", () => {
    expect(hazards(told([[set("heater:plug", "open")]]))).toEqual([
      "heater:plug is opened before the relief is lifted",
      "heater:plug is opened before heater is off and cool",
    ]);
    expect(hazards(told([[...OFF, set("heater:plug", "open")]]))).toEqual([
      "heater:plug is opened before the relief is lifted",
    ]);
    const lifted = set("heater:relief", "open");
    expect(hazards(told([[...OFF, lifted, set("heater:plug", "open")]]))).toEqual([]);
    const jug = { type: "disconnect", run: "suction", end: "to", jug: true };
    const pump = {
      type: "pump",
      switch: "pump",
      watch: "tap:spout",
      untilStrength: 0.4,
      maxM3: 0.004,
    };
    expect(hazards(told([[jug, set("low", "open"), set("tap", "open"), pump]]))).toEqual([
      "product jets out at low:out",
    ]);
  });

  it("lets nobody push into a line that is still joined", () => {
    const push = {
      type: "push-by-hand",
      cell: "suction",
      watch: "tap:spout",
      untilStrength: 0.4,
      maxM3: 0.004,
    };
    expect(hazards(told([[set("tap", "open"), push]]))).toEqual([
      "suction is joined at both its ends",
    ]);
    const off = { type: "disconnect", run: "suction", end: "from" };
    expect(hazards(told([[off, set("tap", "open"), push]]))).toEqual([]);
  });

  it("says what was too careful: a line shown to be empty that the plan calls wet", () => {
    const open = [
      ...OFF,
      set("heater:plug", "open"),
      set("heater:relief", "open"),
      set("tap", "open"),
      set("low", "open"),
      { type: "drain" },
    ];
    const judged = judgePlan(bench(), {}, told([open], 0), SETTINGS);
    expect(judged.overCautious).toEqual(["to-low", "heater", "to-tap"]);
    expect(judged.shown).toBe(3);
  });
});
