import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import {
  concludedOf,
  instrumentsSchema,
  jointsIn,
  judgedTest,
  narrowed,
  nextSplit,
  planTest,
  type PressureTest,
  pressureSources,
  simulatedHold,
  type TestBody,
  testNow,
  testSections,
} from "@uppershed/core/hold";
import { buildNetwork } from "@uppershed/core/watermap";
import { takeEntry } from "../findings/take.ts";
import type { Scope } from "../scope.ts";
import { takeTestEntry } from "../tests-of-pressure/store.ts";
import { demoId } from "./winterizing.ts";

/** Pressure tests of the demo: last year's that failed, the one after its mend, and one that is running. */

const GAUGE = { name: "Test gauge, 6 bar", stepPa: 2000 };
const MINUTE_MS = 60_000;
// A slow weep at a hose: four litres a day.
const WEEP_M3S = 4e-3 / 86_400;

const networkOf = (id: string) => {
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(`no example map ${id}`);
  return buildNetwork(map);
};

const planOf = (network: ReturnType<typeof networkOf>) =>
  planTest({
    network,
    target: { is: "pressure-side", source: pressureSources(network)[0]?.id ?? "" },
    by: "supply",
    gauge: GAUGE,
  });

interface Maker {
  readonly scope: Scope;
  readonly unitId: string;
  readonly by: { readonly id: string; readonly name: string };
  readonly revision: number;
}

/** One test, entry by entry, as a device would send them. */
class Told {
  readonly #of: Maker;
  readonly #id: string;
  #count = 0;
  test: PressureTest | undefined;

  constructor(of: Maker, key: string) {
    this.#of = of;
    this.#id = demoId(`test ${key}`);
  }

  async say(body: TestBody, at: Date): Promise<void> {
    const { scope, unitId, by, revision } = this.#of;
    const told = await takeTestEntry(scope, by, unitId, this.#id, {
      id: demoId(`${this.#id} ${this.#count++}`),
      at: at.toISOString(),
      body,
      mapRevision: revision,
    });
    this.test = testNow(told.entries).test;
  }
}

const begunBy = (
  plan: ReturnType<typeof planOf>,
  retestOf?: string,
  holdPoints: readonly string[] = [],
  holdAt: readonly string[] = [],
): TestBody => ({
  type: "begun",
  plan,
  instruments: instrumentsSchema.parse({ gauge: { stepPa: GAUGE.stepPa }, thermometerStepK: 0.1 }),
  gauge: { name: GAUGE.name, certificate: "GA-051" },
  thermometer: { name: "Thermometer with a wire", certificate: "" },
  barometer: { name: "Barometer in the shed", certificate: "BA-003" },
  ...(retestOf === undefined ? {} : { retestOf }),
  holdPoints,
  holdAt,
});

const heldFor = (
  plan: ReturnType<typeof planOf>,
  from: Date,
  seconds: number,
  leakM3S: number,
  seed: number,
): TestBody => ({
  type: "readings",
  from: "file",
  name: "logger-1.csv",
  beginsAt: from.toISOString(),
  readings: simulatedHold({
    seed,
    held: plan.held,
    instruments: instrumentsSchema.parse({ gauge: { stepPa: GAUGE.stepPa, noisePa: 600 } }),
    seconds,
    everyS: 60,
    startPa: plan.pressurePa,
    leakM3S,
    startC: 16,
    driftK: 0.1,
    swingK: 0.05,
    lagS: 120,
    barometerPa: 100_900,
    barometerDriftPa: 40,
    creepM3: 0,
    creepS: 300,
    pumpedK: 0,
    readsTemperature: true,
    readsBarometer: true,
  }),
});

/** A year ago: it leaked, was parted and soaped to one hose end, mended, and tested again. */
const failedAndMended = async (of: Maker, day: Date): Promise<void> => {
  const network = networkOf("haywain");
  const plan = planOf(network);
  const at = (minutes: number): Date => new Date(day.getTime() + minutes * MINUTE_MS);
  const first = new Told(of, "haywain 1");
  await first.say(begunBy(plan), at(0));
  for (const [i, s] of plan.steps.entries())
    await first.say({ type: "step-done", step: s.id }, at(s.id === "down" ? 55 : 4 + i * 3));
  await first.say(heldFor(plan, at(20), 1800, WEEP_M3S, 41), at(51));
  if (!first.test) return;
  await first.say(
    {
      type: "ended",
      name: of.by.name,
      early: "",
      concluded: concludedOf(judgedTest(first.test)),
    },
    at(52),
  );
  const sections = testSections(network, new Set(plan.cells));
  const hunt = { network, lineup: plan.lineup, gauge: plan.gaugeCell, sections };
  let suspects: ReadonlySet<string> = new Set(sections.map((s) => s.id));
  for (let i = 0; suspects.size > 1 && i < 4; i++) {
    const split = nextSplit(hunt, suspects);
    if (!split) break;
    await first.say(
      {
        type: "parted",
        shut: split.shut.map((c) => c.key),
        near: [...split.nearSuspects],
        far: [...split.farSuspects],
        fell: true,
      },
      at(60 + i * 15),
    );
    suspects = narrowed(split, true);
  }
  const joints = jointsIn(
    network,
    new Set(sections.filter((s) => suspects.has(s.id)).flatMap((s) => s.cells)),
  );
  const leak = joints.find((j) => j.likely > 1) ?? joints[0];
  if (!leak) return;
  for (const j of joints.slice(0, 8))
    await first.say(
      { type: "soaped", joint: j.id, found: j.id === leak.id ? "bubbles" : "dry" },
      at(100),
    );
  const findingId = demoId("finding haywain leak under test");
  const say = (id: string, minutes: number, body: object): Promise<unknown> =>
    takeEntry(of.scope, of.by, of.unitId, findingId, {
      id,
      at: at(minutes).toISOString(),
      body: body as never,
      mapRevision: of.revision,
    });
  await say(findingId, 101, {
    type: "found",
    what: `Leaks under test: ${leak.label}`,
    severity: "will-fail",
    partId: leak.parts[0] ?? null,
    place: leak.place,
    cause: `Pressure test: ${plan.title}`,
    advice: "",
    partsNeeded: "",
    minutes: null,
  });
  await first.say({ type: "leak-at", joint: leak.id, label: leak.label, findingId }, at(102));
  await say(demoId("mend haywain leak under test"), 150, {
    type: "mended",
    how: "Clip and washer new",
    proof: "Held again for half an hour",
    undone: [],
  });
  const second = new Told(of, "haywain 2");
  await second.say(begunBy(plan, demoId("test haywain 1")), at(155));
  for (const s of plan.steps)
    await second.say({ type: "step-done", step: s.id }, at(s.id === "down" ? 239 : 160));
  await second.say(heldFor(plan, at(170), Math.max(plan.holdS, 3600), 0, 42), at(235));
  if (second.test)
    await second.say(
      {
        type: "ended",
        name: of.by.name,
        early: "",
        concluded: concludedOf(judgedTest(second.test)),
      },
      at(240),
    );
};

/** A hold that was begun a quarter of an hour ago. */
const running = async (of: Maker, now: Date): Promise<void> => {
  const plan = planOf(networkOf("dipper"));
  const at = (minutes: number): Date => new Date(now.getTime() + minutes * MINUTE_MS);
  const told = new Told(of, "dipper 1");
  const behind = networkOf("dipper").map.parts.filter(
    (p) => p.kind === "diaphragm-pump" && plan.owners.includes(p.id),
  );
  await told.say(
    begunBy(
      plan,
      undefined,
      ["panel beside the pump"],
      behind.map((p) => p.id),
    ),
    at(-22),
  );
  for (const s of plan.steps.slice(0, 3))
    await told.say({ type: "step-done", step: s.id }, at(-18));
  for (const [i, minutes] of [-11, -8, -5, -2].entries())
    await told.say(
      {
        type: "reading",
        typed: "",
        reading: {
          pressurePa: plan.pressurePa - (i > 1 ? 2000 : 0),
          temperatureC: 17,
          barometerPa: 100_800,
        },
      },
      at(minutes),
    );
};

export const addTests = async (
  scope: Scope,
  unitOf: (map: string) => string,
  by: { id: string; name: string },
  now: Date,
  lastYear: Date,
): Promise<void> => {
  await failedAndMended({ scope, by, unitId: unitOf("haywain"), revision: 2 }, lastYear);
  await running({ scope, by, unitId: unitOf("dipper"), revision: 1 }, now);
};
