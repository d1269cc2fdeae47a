import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import {
  addToTest,
  concludedOf,
  instrumentsSchema,
  judgedTest,
  heldOpenAt,
  openHoldPoints,
  outcomeOf,
  planTest,
  pressureSources,
  pumpRunInWords,
  type PressureTest,
  simulatedHold,
  suspectsOf,
  type TestBody,
  testBodySchema,
  type TestEntry,
  testNow,
} from "./index.ts";

const haywain = EXAMPLE_MAPS.find((m) => m.id === "haywain");
if (!haywain) throw new Error("no Haywain");
const network = networkOf(haywain);
const source = pressureSources(network)[0]?.id ?? "";
const gauge = { name: "Test gauge", stepPa: 700 };
const plan = planTest({ network, target: { is: "pressure-side", source }, by: "supply", gauge });
const begun: TestBody = testBodySchema.parse({
  type: "begun",
  plan,
  instruments: instrumentsSchema.parse({ gauge: { stepPa: gauge.stepPa } }),
  gauge: { name: gauge.name },
});
let count = 0;
const entry = (body: TestBody, at = "2026-05-12T09:00:00.000Z"): TestEntry => ({
  id: String(count++),
  at,
  by: "R. Amadi",
  body,
});
const after = (...entries: TestEntry[]): PressureTest => {
  const { test, astray } = testNow(entries);
  expect(astray).toEqual([]);
  if (!test) throw new Error("no test");
  return test;
};
const reading = (pressurePa: number): TestBody => ({
  type: "reading",
  typed: "",
  reading: { pressurePa, temperatureC: 20, barometerPa: 101_325 },
});

describe("a pressure test on the record", () => {
  it("keeps its plan as it was made, whatever passes through JSON", () => {
    expect(JSON.parse(JSON.stringify(begun))).toEqual(begun);
    expect(after(entry(begun)).plan).toEqual(JSON.parse(JSON.stringify(plan)));
  });

  it("orders readings by their own time, typed or from a logger, and each moment once", () => {
    const typed = [
      entry(reading(309_000), "2026-05-12T09:10:00.000Z"),
      entry(reading(310_000), "2026-05-12T09:00:00.000Z"),
    ];
    const logged = entry(
      {
        type: "readings",
        from: "logger",
        name: "",
        beginsAt: "2026-05-12T09:00:00.000Z",
        readings: [
          { atS: 0, pressurePa: 310_000 },
          { atS: 300, pressurePa: 309_600 },
          { atS: 600, pressurePa: 309_000 },
        ],
      },
      "2026-05-12T09:12:00.000Z",
    );
    const forwards = after(entry(begun), ...typed, logged);
    const backwards = after(entry(begun), logged, ...typed.toReversed());
    expect(forwards.readings.map((r) => [r.atS, r.pressurePa])).toEqual([
      [0, 310_000],
      [300, 309_600],
      [600, 309_000],
    ]);
    expect(backwards.readings.map((r) => r.atS)).toEqual([0, 300, 600]);
    expect(forwards.readingsFrom).toBe("2026-05-12T09:00:00.000Z");
  });

  it("begins its hold again when it is pressed again, and says how often", () => {
    const test = after(
      entry(begun),
      entry(reading(310_000)),
      entry({ type: "pressed-again" }),
      entry(reading(311_000), "2026-05-12T09:20:00.000Z"),
    );
    expect(test.readings).toHaveLength(1);
    expect(test.pressedAgain).toBe(1);
  });

  it("is signed with what it came to, and takes no reading afterwards", () => {
    const readings = simulatedHold({
      seed: 2,
      held: plan.held,
      instruments: begun.type === "begun" ? begun.instruments : instrumentsSchema.parse({}),
      seconds: 1800,
      everyS: 60,
      startPa: plan.pressurePa,
      leakM3S: 0,
      startC: 20,
      driftK: 0,
      swingK: 0,
      lagS: 60,
      barometerPa: 101_325,
      barometerDriftPa: 0,
      creepM3: 0,
      creepS: 300,
      pumpedK: 0,
      readsTemperature: true,
      readsBarometer: true,
    });
    const running = after(
      entry(begun),
      entry({
        type: "readings",
        from: "logger",
        name: "",
        beginsAt: "2026-05-12T09:00:00.000Z",
        readings,
      }),
    );
    const concluded = concludedOf(judgedTest(running));
    const ended = addToTest(
      running,
      entry({ type: "ended", name: "R. Amadi", early: "", concluded }),
    );
    if (!ended.ok) throw new Error(ended.problem);
    expect(ended.test.ended?.concluded).toEqual(concluded);
    expect(addToTest(ended.test, entry(reading(1)))).toMatchObject({ ok: false });
    expect(addToTest(ended.test, entry({ type: "note", text: "seen again" })).ok).toBe(true);
  });

  it("cannot be begun where its plan was refused, nor twice", () => {
    const refused = planTest({
      network,
      target: { is: "tank", part: "tank" },
      by: "low-air",
      gauge,
    });
    expect(refused.refused).toContain("maker's limit");
    const body = { ...begun, plan: { ...plan, refused: refused.refused } } as TestBody;
    expect(addToTest(undefined, entry(body))).toMatchObject({ ok: false });
    expect(addToTest(after(entry(begun)), entry(begun))).toMatchObject({ ok: false });
  });

  it("narrows what is suspected by each answer, and never to nothing", () => {
    const parted = (fell: boolean, near: string[], far: string[]): TestEntry =>
      entry({ type: "parted", shut: ["v"], near, far, fell });
    const test = after(
      entry(begun),
      parted(true, ["a", "b"], ["c", "d"]),
      parted(false, ["a"], ["b"]),
    );
    expect([...suspectsOf(["a", "b", "c", "d"], test)]).toEqual(["b"]);
    const muddled = after(entry(begun), parted(true, ["a"], ["b"]), parted(true, ["b"], ["a"]));
    expect(suspectsOf(["a", "b"], muddled).size).toBe(1);
  });

  it("tells by the pump whether the house leaks or its own check passes, and how fast", () => {
    const run = (body: object): string | undefined =>
      pumpRunInWords(
        after(
          entry(begun),
          entry(
            testBodySchema.parse({
              type: "pump-run",
              stops: true,
              behindValve: "not-tried",
              ...body,
            }),
          ),
        ),
      )?.words;
    expect(run({ stops: false })).toContain("does not stop");
    expect(run({})).toContain("keeps silent");
    expect(run({ intervalS: 1200, behindValve: "silent" })).toContain("the leak is in the house");
    expect(run({ intervalS: 1200, behindValve: "starts-again" })).toContain("its own check");
    // Twice as often is twice as fast.
    const rate = (intervalS: number): number =>
      pumpRunInWords(
        after(
          entry(begun),
          entry({ type: "pump-run", stops: true, intervalS, behindValve: "silent" }),
        ),
      )?.leakM3S ?? 0;
    expect(rate(600) / rate(1200)).toBeCloseTo(2, 9);
  });

  it("keeps a panel open until it has passed itself, or a test after the mend has", () => {
    const of = (
      id: string,
      outcome: "tight" | "leaking" | "running",
      retestOf: string | null = null,
    ) => ({
      id,
      outcome,
      retestOf,
      holdPoints: retestOf === null ? ["panel behind the sink"] : [],
      holdAt: retestOf === null ? ["pump"] : [],
    });
    expect(openHoldPoints([of("a", "running")])).toEqual(["panel behind the sink"]);
    expect(openHoldPoints([of("a", "tight")])).toEqual([]);
    expect([...heldOpenAt([of("a", "running")])]).toEqual([["pump", "panel behind the sink"]]);
    expect(heldOpenAt([of("a", "leaking"), of("b", "tight", "a")]).size).toBe(0);
    expect(openHoldPoints([of("a", "leaking"), of("b", "running", "a")])).toHaveLength(1);
    expect(openHoldPoints([of("a", "leaking"), of("b", "tight", "a")])).toEqual([]);
    const again = [of("a", "leaking"), of("b", "leaking", "a"), of("c", "tight", "b")];
    expect(openHoldPoints(again)).toEqual([]);
    // A ring of tests that name each other ends too.
    expect(
      openHoldPoints([{ ...of("a", "leaking"), retestOf: "b" }, of("b", "leaking", "a")]),
    ).toEqual(["panel behind the sink"]);
  });

  it("is not called tight by an eye that looked again too soon", () => {
    const looked = (at: string) =>
      outcomeOf(
        after(
          entry(begun, "2026-05-12T09:00:00.000Z"),
          entry({ type: "ended", name: "R. Amadi", early: "", byEye: "tight" }, at),
        ),
      );
    expect(plan.holdS).toBeGreaterThan(600);
    expect(looked("2026-05-12T09:05:00.000Z")).toBe("cannot-tell");
    expect(looked("2026-05-13T09:00:00.000Z")).toBe("tight");
  });

  it("takes no reading under air before what makes it safe has been signed", () => {
    const byAir = planTest({
      network,
      target: { is: "pressure-side", source },
      by: "air",
      gauge,
    });
    const start = entry({ ...begun, plan: byAir } as TestBody);
    const waits = addToTest(after(start), entry(reading(200_000)));
    expect(waits).toMatchObject({ ok: false });
    const signed = after(start, entry({ type: "step-done", step: "air-safe" }));
    expect(addToTest(signed, entry(reading(200_000))).ok).toBe(true);
  });
});
