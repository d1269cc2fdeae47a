import { describe, expect, it } from "vitest";
import { fillIn, parseQuantity } from "../quantity/index.ts";
import { networkOf } from "../testing/variants.ts";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import {
  certificateOf,
  concludedOf,
  instrumentsSchema,
  judgedTest,
  planTest,
  type PressureTest,
  simulatedHold,
  testBodySchema,
  testNow,
} from "./index.ts";

const haywain = EXAMPLE_MAPS.find((m) => m.id === "haywain");
if (!haywain) throw new Error("no Haywain");
const network = networkOf(haywain);
const tank = haywain.parts.find((p) => p.kind === "fresh-tank")?.id ?? "";
const plan = planTest({
  network,
  target: { is: "tank", part: tank },
  by: "low-air",
  gauge: { name: "Tank gauge", stepPa: 25 },
  tankLimitPa: 10_000,
});
const instruments = instrumentsSchema.parse({ gauge: { stepPa: 25 }, thermometerStepK: 0.1 });
const readings = simulatedHold({
  seed: 3,
  held: plan.held,
  instruments,
  seconds: plan.holdS,
  everyS: 60,
  startPa: plan.pressurePa,
  leakM3S: 0,
  startC: 20,
  driftK: -1.5,
  swingK: 0,
  lagS: 120,
  barometerPa: 101_000,
  barometerDriftPa: 120,
  creepM3: 0,
  creepS: 300,
  pumpedK: 0,
  readsTemperature: true,
  readsBarometer: true,
});
const entry = (body: object, minute: number) => ({
  id: `e${minute}`,
  at: new Date(Date.UTC(2026, 4, 12, 9, minute)).toISOString(),
  by: "R. Amadi",
  body: testBodySchema.parse(body),
});
const held = (ends: boolean): PressureTest => {
  const before = [
    entry(
      {
        type: "begun",
        plan,
        instruments,
        gauge: { name: "Tank gauge", certificate: "GA-060", calibratedUntil: "2027-01-01" },
        holdPoints: ["sole board"],
      },
      0,
    ),
    ...plan.steps.map((s, i) => entry({ type: "step-done", step: s.id }, i + 1)),
    entry(
      {
        type: "readings",
        from: "file",
        beginsAt: new Date(Date.UTC(2026, 4, 12, 9, 20)).toISOString(),
        readings,
      },
      50,
    ),
  ];
  const { test } = testNow(before);
  if (!test) throw new Error("no test");
  const concluded = concludedOf(judgedTest(test));
  const all = ends
    ? [...before, entry({ type: "ended", name: "R. Amadi", concluded }, 55)]
    : before;
  const now = testNow(all).test;
  if (!now) throw new Error("no test");
  return now;
};
const paperOf = (test: PressureTest, openedSince: string | null = null) =>
  certificateOf(test, {
    unit: "Haywain, travel trailer",
    openedSince,
    day: (iso) => iso.slice(0, 10),
  });

describe("the certificate of a pressure test", () => {
  it("can be worked out again from what stands on it", () => {
    const { working, readings: table } = paperOf(held(true));
    const said = fillIn(working, "metric");
    const of =
      /\((.+) \+ (.+) mbar\) × (.+) K ÷ (.+) K − (.+) mbar = (.+); read (.+)\. The leak/u.exec(
        said,
      );
    const pa = (text: string | undefined): number => {
      const read = parseQuantity(text ?? "", "pressure", "metric");
      if (!read.ok) throw new Error(`no pressure: ${text}`);
      return read.quantity.si;
    };
    const first = pa(of?.[1]);
    const around = [of?.[2], of?.[5]].map((mbar) => Number(mbar) * 100);
    const warmth = Number(of?.[3]) / Number(of?.[4]);
    const atEnd = (first + (around[0] ?? 0)) * warmth - (around[1] ?? 0);
    // To a digit of what is printed.
    expect(Math.abs(atEnd - pa(of?.[6]))).toBeLessThan(60);
    // The table's own first and last lines are what the arithmetic begins and ends with.
    const lines = table.lines.map((l) => l.map((cell) => fillIn(cell, "metric")));
    expect(pa(lines[0]?.[1])).toBeCloseTo(first, -2);
    expect(pa(lines.at(-1)?.[1])).toBeCloseTo(pa(of?.[7]), -2);
    expect(lines[0]?.[3]).toBe(`${of?.[2]} mbar`);
  });

  it("names the gauge with its calibration, what stayed open, who signed, and at most forty-one readings", () => {
    const paper = paperOf(held(true));
    const rows = new Map(paper.rows);
    expect(rows.get("Gauge")).toBe("Tank gauge, GA-060, calibrated until 2027-01-01");
    expect(rows.get("Thermometer")).toBeUndefined();
    expect(rows.get("Stayed open until it passed")).toBe("sole board");
    expect(paper.outcome).toBe("tight");
    expect(paper.signed).toBe("Signed R. Amadi, 2026-05-12");
    expect(paper.readings.lines.length).toBeLessThanOrEqual(41);
    expect(paper.readings.lines.at(-1)?.[0]).toBe(`{s:${readings.at(-1)?.atS}}`);
  });

  it("says first what takes its worth away, and that a running one is not signed", () => {
    expect(paperOf(held(true), "2026-06-01T08:00:00Z").warnings).toEqual([
      "Opened since: 2026-06-01.",
    ]);
    const running = paperOf({ ...held(false), isSimulated: true });
    expect(running.signed).toContain("Not signed");
    expect(running.warnings[0]).toContain("no proof");
    expect(new Map(running.rows).get("Leak, 95 in 100")).toBeUndefined();
  });
});
