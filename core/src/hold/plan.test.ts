import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { PATTERNS, starterMap } from "../patterns/index.ts";
import { PSI_PA } from "../quantity/index.ts";
import { networkOf } from "../testing/variants.ts";
import { type WaterMap, weakestOf } from "../watermap/index.ts";
import {
  isVented,
  planTest,
  pressureSources,
  TEST_HOUSE,
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
});
