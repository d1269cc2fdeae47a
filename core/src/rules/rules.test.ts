import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  departuresFrom,
  departuresKept,
  HOUSE_LIMITS,
  planWinterize,
  setupBy,
  standardRequest,
  startPhysical,
} from "../procedure/index.ts";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { buildNetwork } from "../watermap/index.ts";
import {
  isChoice,
  pointOf,
  RULE_POINTS,
  RULE_SECTIONS,
  RULE_STANDARDS,
  ruleInWords,
  ruleValuesSchema,
} from "./index.ts";

const LOW = { from: "Upper yard", celsius: -18 };
const SHIPPED = { revision: 0, values: {} };

describe("the points of the house rules", () => {
  it("have keys of their own, stand by section, and have no sentence twice in one point", () => {
    const keys = RULE_POINTS.map((p) => p.key);
    expect(new Set(keys).size).toBe(keys.length);
    const sections = RULE_POINTS.map((p) => RULE_SECTIONS.indexOf(p.section));
    expect(sections).toEqual(sections.toSorted((a, b) => a - b));
    expect(new Set(sections).size).toBe(RULE_SECTIONS.length);
  });

  it.each(RULE_POINTS.map((p) => [p.key, p] as const))(
    "%s has a standard among its values, and every school its reason, cost and risk",
    (_, point) => {
      if (isChoice(point)) {
        const values = point.schools.map((s) => s.value);
        expect(values).toContain(point.standard);
        expect(new Set(values).size).toBe(values.length);
        expect(values.length).toBeGreaterThan(1);
        for (const s of point.schools)
          for (const words of [s.says, s.because, s.costs, s.leaves])
            expect(words).toMatch(/^\S.*[^.\s]$/u);
      } else {
        expect(point.low).toBeLessThanOrEqual(point.standard);
        expect(point.standard).toBeLessThanOrEqual(point.high);
        expect(point.source).not.toBe("");
      }
      expect(ruleInWords(point.key, point.standard, "metric")).not.toBe("");
    },
  );

  it("are sound as they were shipped, and take no value out of range or of an unknown key", () => {
    expect(ruleValuesSchema.parse(RULE_STANDARDS)).toEqual(RULE_STANDARDS);
    for (const wrong of [
      { "heater.openAt": 60 },
      { "heater.openAt": "40" },
      { "frost.basis": "luck" },
      { "frost.mood": 1 },
      { "air.pressure": 340_000, "air.ceiling": 200_000 },
    ])
      expect(ruleValuesSchema.safeParse(wrong).success).toBe(false);
  });

  it("are written in the reader's units", () => {
    expect(ruleInWords("heater.openAt", 40, "us")).toBe("104 °F");
    expect(ruleInWords("trap.dose", 0.0005, "metric.comma")).toBe("0,50 L");
    expect(ruleInWords("frost.margin", 2.5, "metric.comma")).toBe("2,5 K");
    expect(ruleInWords("frost.basis", "burst", "metric")).toBe("Burst everywhere");
  });
});

describe("a setup by the house's rules", () => {
  const numbers = RULE_POINTS.flatMap((p) => (isChoice(p) ? [] : [p]));
  it("never departs from them, whatever they are", () => {
    fc.assert(
      fc.property(
        fc.record(
          Object.fromEntries(
            numbers.map((p) => [p.key, fc.double({ min: p.low, max: p.high, noNaN: true })]),
          ),
          { requiredKeys: [] },
        ),
        fc.constantFrom("by-part", "burst", "no-ice"),
        (values, basis) => {
          const rules = { revision: 3, values: { ...values, "frost.basis": basis } as never };
          const setup = setupBy(rules, LOW);
          expect(departuresFrom(setup, rules, LOW)).toEqual([]);
          expect(setup.basis).toBe(basis);
        },
      ),
      { seed: 4, numRuns: 100 },
    );
  });

  it.each([
    ["winterLow", { winterLowC: -12 }, -18, -12],
    ["frost.margin", { marginC: 0 }, 5, 0],
    ["frost.basis", { basis: "no-ice" as const }, "by-part", "no-ice"],
    ["trap.dose", { trapDoseM3: 0.001 }, 0.0005, 0.001],
    ["antifreeze.least", { house: { ...HOUSE_LIMITS, leastStrength: 0.4 } }, 0, 0.4],
    ["heater.openAt", { house: { ...HOUSE_LIMITS, openAtC: 30 } }, 40, 30],
  ])("tells a departure of %s from what the house says", (key, change, house, used) => {
    expect(departuresFrom({ ...setupBy(SHIPPED, LOW), ...change }, SHIPPED, LOW)).toEqual([
      { key, house, used },
    ]);
  });

  it("kept with a run, tells its departures by the rules of its day alone", () => {
    const old = { revision: 1, values: { "frost.margin": 3 } };
    const setup = setupBy(old, LOW);
    const kept = {
      ...setup,
      marginC: 5,
      rules: {
        ...(setup.rules as NonNullable<typeof setup.rules>),
        departures: [{ key: "frost.margin", name: "R. Amadi", reason: "a bare mooring" }],
      },
    };
    expect(departuresKept(kept)).toEqual([
      { key: "frost.margin", house: 3, used: 5, name: "R. Amadi", reason: "a bare mooring" },
    ]);
    expect(pointOf("frost.margin")?.section).toBe("Winterizing");
  });
});

describe("a plan by the house's limits", () => {
  const map = EXAMPLE_MAPS.find((m) => m.id === "plover");
  const planBy = (values: Record<string, number | string>) => {
    if (!map) throw new Error("no plover");
    const network = buildNetwork(map);
    return planWinterize({
      ...standardRequest(network, startPhysical(network)),
      ...setupBy({ revision: 1, values }, LOW),
    });
  };

  it("opens the heater at the house's temperature, asks strength everywhere, and carries its reserve", () => {
    const [own, shipped] = [
      planBy({
        "heater.openAt": 30,
        "antifreeze.proof": "strength-everywhere",
        "antifreeze.reserve": 1,
      }),
      planBy({}),
    ];
    const asks = (plan: typeof own, kind: string) =>
      plan.steps.flatMap((s) => s.asks.filter((a) => a.kind === kind));
    expect(asks(own, "temperature").map((a) => a.atMost)).toEqual([30]);
    expect(asks(shipped, "temperature").map((a) => a.atMost)).toEqual([40]);
    expect(asks(own, "strength").every((a) => a.required)).toBe(true);
    expect(asks(shipped, "strength").some((a) => a.required)).toBe(false);
    expect(own.antifreeze.jugs).toBeGreaterThan(shipped.antifreeze.jugs);
  });

  it("runs outlets to the strength that the house wants at least, as far as the product can give it", () => {
    expect(planBy({ "antifreeze.least": 0.46 }).targetStrength).toBe(0.46);
    expect(planBy({ "antifreeze.least": 0.6 }).targetStrength).toBeCloseTo(0.475, 9);
    expect(planBy({}).targetStrength).toBeLessThan(0.46);
  });
});
