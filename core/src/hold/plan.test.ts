import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { PSI_PA } from "../quantity/index.ts";
import { withRatedHeaters } from "../testing/safety.ts";
import { networkOf } from "../testing/variants.ts";
import { type WaterMap, weakestOf } from "../watermap/index.ts";
import {
  isVented,
  jointChoices,
  jointsIn,
  planTest,
  pressureSources,
  TEST_HOUSE,
  testSections,
  type TestRequest,
  type TestWay,
} from "./index.ts";

const gauge = { name: "Gauge", stepPa: 700 };
const maps: [string, WaterMap][] = [
  ...EXAMPLE_MAPS.map((m): [string, WaterMap] => [m.name, m]),
  ...PATTERNS.map((p): [string, WaterMap] => [p.id, starterMap(p)]),
];
const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(`no unit ${id}`);
  return found;
};
const planned = (map: WaterMap, by: TestWay, more: Partial<TestRequest> = {}) => {
  const network = networkOf(map);
  const source = pressureSources(network)[0]?.id ?? "";
  return planTest({ network, target: { is: "pressure-side", source }, by, gauge, ...more });
};
const tankOf = (map: WaterMap) =>
  ({ is: "tank", part: map.parts.find((p) => p.kind === "fresh-tank")?.id ?? "" }) as const;

describe("a pressure test planned from the map", () => {
  it.each(maps)(
    "on %s presses no tank that stands open, and nothing over what it bears",
    (_, map) => {
      const network = networkOf(map);
      for (const { id } of pressureSources(network))
        for (const by of ["supply", "pump", "air"] as const) {
          const plan = planTest({
            network,
            target: { is: "pressure-side", source: id },
            by,
            gauge,
          });
          if (plan.refused !== undefined) {
            expect(plan.steps).toEqual([]);
            continue;
          }
          expect(plan.cells.filter((c) => isVented(network, c))).toEqual([]);
          const owners = new Set(plan.owners);
          const bears = weakestOf(network, (run) => owners.has(run)).pa;
          expect(plan.pressurePa).toBeLessThanOrEqual(by === "air" ? bears / 2 : bears);
          if (by === "air") expect(plan.pressurePa).toBeLessThanOrEqual(TEST_HOUSE.airCeilingPa);
          expect(plan.holdS).toBeGreaterThanOrEqual(TEST_HOUSE.minHoldS);
          // Zero on the gauge comes last of all.
          expect(plan.steps.at(-1)?.rows.join(" ")).toContain("Gauge reads zero");
        }
    },
  );

  it("refuses air on a tank whose limit is not known, and points to the brim", () => {
    const haywain = demo("haywain");
    const plan = planned(haywain, "low-air", { target: tankOf(haywain) });
    expect(plan.refused).toContain("brim");
    expect(planned(haywain, "brim", { target: tankOf(haywain) }).refused).toBeUndefined();
  });

  it("with a limit presses to no more than that, with a relief and the force on the panel", () => {
    const haywain = demo("haywain");
    const plan = planned(haywain, "low-air", {
      target: tankOf(haywain),
      tankLimitPa: 1 * PSI_PA,
      panelM2: 0.6 * 0.6,
    });
    expect(plan.pressurePa).toBeLessThanOrEqual(PSI_PA);
    expect(plan.panelN).toBeCloseTo(0.36 * plan.pressurePa, 6);
    expect(plan.steps.find((s) => s.id === "air-safe")?.rows.join(" ")).toContain("Relief");
  });

  it.each(maps)("on %s takes any one joint with little else, and it is under test", (_, map) => {
    const network = networkOf(map);
    const all = jointsIn(network, new Set(network.cells.keys()));
    for (const choice of jointChoices(network).filter((_c, i) => i % 5 === 0)) {
      const [by] = choice.ways;
      if (!by) throw new Error("no way");
      const plan = planTest({ network, target: choice.target, by, gauge });
      if (plan.refused !== undefined) continue;
      const joint = all.find((j) => j.id === choice.joint);
      expect(plan.steps.flatMap((s) => s.rows).join(" ")).toContain(joint?.label);
      if (choice.target.is !== "joint") continue;
      expect(plan.cells).toContain(joint?.cell);
      const { source } = choice.target;
      const whole = planTest({ network, target: { is: "pressure-side", source }, by, gauge });
      expect(plan.cells.length).toBeLessThanOrEqual(whole.cells.length);
    }
  });

  it("offers no joint twice, and leaves out none that a pump, an inlet or a tank can press", () => {
    const network = networkOf(demo("teasel"));
    const joints = jointChoices(network).map((j) => j.joint);
    expect(new Set(joints).size).toBe(joints.length);
    const all = jointsIn(network, new Set(network.cells.keys())).map((j) => j.id);
    expect(joints.toSorted()).toEqual(all.toSorted());
  });

  it("loads hatches by water in the filler where it stands over the lid, each looked at, the other half empty", () => {
    const dipper = demo("dipper");
    const [fore, aft] = dipper.parts.filter((p) => Number(p.params?.["hatches"] ?? 0) > 0);
    const plan = planned(dipper, "brim", { target: { is: "hatches", part: fore?.id ?? "" } });
    expect(plan.refused).toBeUndefined();
    const filler = dipper.parts.find((p) => p.kind === "gravity-fill");
    const over = (filler?.heightM ?? 0) - (fore?.heightM ?? 0) - Number(fore?.params?.["depthM"]);
    // Water of 9.8 kPa for each metre.
    expect(plan.pressurePa / 9800).toBeCloseTo(over, 1);
    const rows = plan.steps.flatMap((s) => s.rows).join("\n");
    expect(rows).toContain("Hatch 3: bolts");
    expect(rows).not.toContain("Hatch 4");
    expect(rows).toContain(`The way to the ${aft?.name.toLowerCase()} plugged`);
    const dry = planned(dipper, "brim", { target: { is: "hatches", part: aft?.id ?? "" } });
    expect(dry.refused).toContain("leaves the hatches unloaded");
    const air = planned(dipper, "low-air", { target: { is: "hatches", part: aft?.id ?? "" } });
    expect(air.refused).toContain("ask its maker");
  });

  it("of what is built so far lists every end that has no pipe yet, and the plugs that are owed back", () => {
    const haywain = demo("haywain");
    const tap = haywain.parts.find((p) => p.name === "Sink tap");
    const half = {
      ...haywain,
      runs: haywain.runs.filter((r) => r.to.part !== tap?.id && r.from.part !== tap?.id),
    };
    const rows = (map: WaterMap, step: string): string =>
      planned(map, "supply")
        .steps.find((s) => s.id === step)
        ?.rows.join(" ") ?? "";
    expect(rows(haywain, "secure")).not.toContain("no pipe there yet");
    expect(rows(half, "secure")).toContain("no pipe there yet, plugged");
    expect(rows(half, "down")).toContain("Plugs out, each ticked off");
  });

  it("names what may not be closed, before and until it is signed", () => {
    const plan = planned(demo("haywain"), "supply", { holdPoints: ["wall behind the shower"] });
    expect(plan.steps[0]?.rows.join(" ")).toContain("wall behind the shower: open");
  });

  it("says before that a gauge is far too coarse", () => {
    const onTank = (stepPa: number) =>
      planned(demo("haywain"), "low-air", {
        target: tankOf(demo("haywain")),
        tankLimitPa: 1.5 * PSI_PA,
        gauge: { name: "Dial", stepPa },
      });
    const coarse = onTank(5000);
    expect(coarse.tooCoarse).toMatch(/Dial shows .* times too coarse/u);
    expect(onTank(25).tooCoarse).toBeUndefined();
  });

  it("refuses a gauge that ends below what is pressed", () => {
    const small = { ...gauge, rangePa: 100_000 };
    expect(planned(demo("haywain"), "supply", { gauge: small }).refused).toContain("ends at");
    expect(
      planned(demo("haywain"), "supply", { gauge: { ...gauge, rangePa: 600_000 } }).refused,
    ).toBeUndefined();
  });

  it("asks for a low first pressure with somebody inside where nobody knows the system", () => {
    const unknown = planned(demo("haywain"), "supply", { isUnknown: true });
    expect(unknown.firstPa).toBeCloseTo(10 * PSI_PA, 3);
    expect(unknown.steps.find((s) => s.id === "first")?.rows.join(" ")).toContain("inside");
    expect(planned(demo("haywain"), "supply").firstPa).toBeUndefined();
  });

  it("stores next to nothing in water beside air of the same volume and pressure", () => {
    const plan = planned(demo("haywain"), "air");
    expect(plan.airJ / plan.waterJ).toBeGreaterThan(1000);
    expect(plan.steps.find((s) => s.id === "air-safe")?.why).toContain("Water comes first");
  });

  it("names what it says nothing of: the suction side behind the pump", () => {
    expect(planned(demo("haywain"), "supply").leftOut.map((n) => n.toLowerCase())).toContain(
      "strainer",
    );
  });

  it.each([
    ["pump", "tank"],
    ["brim", "pressure-side"],
  ] as const)("does not do %s on a %s", (by, is) => {
    const haywain = demo("haywain");
    const plan = planned(haywain, by, is === "tank" ? { target: tankOf(haywain) } : {});
    expect(plan.refused).toBeTruthy();
  });

  it.each(maps)("on %s lets no air into a heater whose label nobody has read", (_, map) => {
    const network = networkOf(map);
    for (const { id } of pressureSources(network)) {
      const plan = planTest({
        network,
        target: { is: "pressure-side", source: id },
        by: "air",
        gauge,
      });
      if (plan.refused !== undefined) continue;
      const heaters = map.parts.filter((p) => p.kind.endsWith("heater"));
      const pressed = heaters.filter((p) =>
        plan.cells.some(
          (c) => network.cells[c]?.ownerId === p.id && network.cells[c]?.form === "vessel",
        ),
      );
      expect(pressed.map((p) => p.id)).toEqual([]);
    }
  });

  it("takes a heater in whose label was read, and then goes by half of what it allows", () => {
    const plover = demo("plover");
    expect(planned(plover, "air").refused).toContain("nobody has read");
    const read = withRatedHeaters(plover, 3);
    const plan = planned(read, "air");
    expect(plan.refused).toBeUndefined();
    expect(plan.pressurePa).toBe(150_000);
    expect(plan.weakest.name).toBe("Heater");
  });

  it("presses nothing where the limit is less than can be set, and never more than the limit", () => {
    const haywain = demo("haywain");
    const on = (tankLimitPa: number) =>
      planned(haywain, "low-air", { target: tankOf(haywain), tankLimitPa });
    expect(on(100).refused).toContain("too little to be set");
    for (const limit of [500, 777, 6895]) expect(on(limit).pressurePa).toBeLessThanOrEqual(limit);
  });

  it("does not run a pump against shut taps that stops above what the pipe bears", () => {
    const haywain = demo("haywain");
    const weak = {
      ...haywain,
      runs: haywain.runs.map((r) => (r.service === "cold" ? { ...r, pipe: "hose-38" } : r)),
    };
    const source = pressureSources(networkOf(haywain)).find((s) => s.by === "pump")?.id ?? "";
    const target = { is: "pressure-side", source } as const;
    expect(planned(haywain, "pump", { target }).refused).toBeUndefined();
    expect(planned(weak, "pump", { target }).refused).toContain("stops only at");
  });

  it("plugs the vent and every line of a tank before air goes in, and owes each back", () => {
    const haywain = demo("haywain");
    const { steps } = planned(haywain, "low-air", {
      target: tankOf(haywain),
      tankLimitPa: 1.5 * PSI_PA,
    });
    const rows = (id: string): string => steps.find((s) => s.id === id)?.rows.join(" ") ?? "";
    expect(rows("air-safe")).toMatch(/Plugged, .*vent, line to the filler/u);
    expect(rows("down")).toMatch(/Plugs out, .*vent, line to the filler/u);
    const at = (word: string): number => rows("down").indexOf(word);
    expect(at("Gauge reads zero")).toBeLessThan(at("Plugs out"));
  });

  it("of one section takes in that section and the way to it, and less than the whole side", () => {
    const network = networkOf(demo("turnstone"));
    const source = pressureSources(network)[0]?.id ?? "";
    const whole = planTest({
      network,
      target: { is: "pressure-side", source },
      by: "supply",
      gauge,
    });
    const sections = testSections(network, new Set(whole.cells));
    expect(sections.length).toBeGreaterThan(10);
    for (const { id, cells } of sections) {
      const plan = planTest({
        network,
        target: { is: "section", source, section: id },
        by: "supply",
        gauge,
      });
      expect(plan.refused).toBeUndefined();
      const inTest = new Set(plan.cells);
      expect(
        cells.filter((c) => !inTest.has(c)),
        id,
      ).toEqual([]);
      // The gauge stands where the pressure comes in, and feels it.
      expect(inTest.has(plan.gaugeCell), id).toBe(true);
      expect(plan.joints).toBeLessThan(whole.joints);
    }
  });
});
