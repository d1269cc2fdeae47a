import { z } from "zod";
import { heldSchema, type HoldReading, holdReadingSchema, instrumentsSchema } from "./held.ts";
import { HOLD_VERDICTS, type HoldPolicy, type HoldVerdict, judgeHold } from "./judge.ts";
import { AIR_SAFE, TEST_WAYS } from "./test-plan.ts";

/**
 * A pressure test on the record: what is known of it is the fold of its entries, which are only ever added. The plan is kept as it was made,
 * and what was concluded as it was signed.
 */

/** Raised when the same readings can come to another verdict. */
const JUDGE_VERSION = "1";

const words = (most: number) => z.string().trim().max(most);
const id = z.string().min(1).max(200);
const moment = z.iso.datetime({ offset: true });
const finite = z.number().min(-1e12).max(1e12);

const target = z.discriminatedUnion("is", [
  z.strictObject({ is: z.literal("pressure-side"), source: id }),
  z.strictObject({ is: z.literal("section"), source: id, section: id }),
  z.strictObject({ is: z.literal("joint"), source: id, joint: id }),
  z.strictObject({ is: z.literal("tank"), part: id, joint: z.optional(id) }),
  z.strictObject({ is: z.literal("hatches"), part: id }),
  z.strictObject({ is: z.literal("waste"), part: id, joint: z.optional(id) }),
]);

const turn = z.object({
  key: id,
  part: id,
  name: words(200),
  tag: words(60),
  place: words(120),
  from: words(60),
  to: words(60),
  fromLabel: words(120),
  toLabel: words(120),
  handle: words(120),
});

/** A plan as it is kept. */
const testPlanSchema = z.strictObject({
  title: words(200).min(1),
  by: z.enum(TEST_WAYS),
  target: z.optional(target),
  refused: z.optional(words(500)),
  lineup: z.record(z.string().max(200), z.string().max(60)),
  turns: z.array(turn).max(400).readonly(),
  gaugeCell: z.number().int().min(0).max(10_000),
  cells: z.array(z.number().int().min(0).max(10_000)).max(10_000).readonly(),
  owners: z.array(id).max(1000).readonly(),
  sections: z.number().int().min(0).max(1000),
  joints: z.number().int().min(0).max(10_000),
  leftOut: z.array(words(200)).max(400).readonly(),
  held: heldSchema,
  pressurePa: z.number().min(0).max(5e6),
  weakest: z.strictObject({ name: words(200), pa: z.number().min(0).max(1e9) }),
  firstPa: z.optional(z.number().min(0).max(5e6)),
  holdS: z.number().min(60).max(1e7),
  everyS: z.number().min(1).max(1e6),
  readings: z.number().int().min(1).max(1000),
  smallestM3S: z.number().min(1e-14).max(1),
  airJ: z.number().min(0).max(1e9),
  waterJ: z.number().min(0).max(1e9),
  panelN: z.optional(z.number().min(0).max(1e8)),
  tooCoarse: z.optional(words(500)),
  steps: z
    .array(
      z.strictObject({
        id,
        title: words(300),
        rows: z.array(words(400)).max(500).readonly(),
        why: words(2000),
        cautions: z.array(words(600)).max(20).readonly(),
      }),
    )
    .max(40)
    .readonly(),
});

/** An instrument of the workshop's own list, as it was on the day. */
const named = z.strictObject({
  name: words(120).min(1),
  certificate: words(120).default(""),
  calibratedUntil: z.optional(z.iso.date()),
});

const range = z.strictObject({ low: finite, mid: finite, high: finite });

/** What was concluded, as it was signed. */
const concludedSchema = z.strictObject({
  verdict: z.enum(HOLD_VERDICTS),
  why: words(600),
  leak: range,
  smallestDetectable: finite,
  judge: words(10),
});

export const SOAPED = ["dry", "bubbles", "not-looked-at"] as const;

export const PUMP_ANSWERS = ["not-tried", "silent", "starts-again"] as const;

export const testBodySchema = z.discriminatedUnion("type", [
  z.strictObject({
    type: z.literal("begun"),
    plan: testPlanSchema,
    instruments: instrumentsSchema,
    gauge: named,
    thermometer: z.optional(named),
    barometer: z.optional(named),
    /** The test that this one repeats after a mend. */
    retestOf: z.optional(z.uuid()),
    /** What may not be closed before it has passed: a panel, a wall, a floor. */
    holdPoints: z.array(words(120).min(1, "say what stays open")).max(10).readonly().default([]),
    /** The parts that lie behind what stays open, so that it stands on the map. */
    holdAt: z.array(id).max(40).readonly().default([]),
  }),
  z.strictObject({ type: z.literal("step-done"), step: id }),
  /** One reading off a gauge, at the entry's own time. */
  z.strictObject({
    type: z.literal("reading"),
    reading: holdReadingSchema.omit({ atS: true }),
    typed: words(200).default(""),
  }),
  z.strictObject({
    type: z.literal("readings"),
    from: z.enum(["simulated", "file", "logger"]),
    name: words(200).default(""),
    beginsAt: moment,
    readings: z.array(holdReadingSchema).min(1).max(5000).readonly(),
  }),
  /** Pressed to the figure once more: the hold begins again. */
  z.strictObject({ type: z.literal("pressed-again") }),
  /** A stand-in for a logger is on; how it was set is said, and it is marked as simulated. */
  z.strictObject({
    type: z.literal("logger-on"),
    simulated: z.literal(true),
    seed: z
      .number()
      .int()
      .min(0)
      .max(2 ** 31),
    leakM3S: z.number().min(0).max(1e-3),
    driftK: z.number().min(-20).max(20),
    /** So many times faster than the clock. */
    speed: z.number().min(1).max(600),
  }),
  /** Valves shut to halve what may leak, and whether the gauge fell. */
  z.strictObject({
    type: z.literal("parted"),
    shut: z.array(id).max(100).readonly(),
    near: z.array(id).max(400).readonly(),
    far: z.array(id).max(400).readonly(),
    fell: z.boolean(),
  }),
  z.strictObject({ type: z.literal("soaped"), joint: id, found: z.enum(SOAPED) }),
  /** Where it leaks: the joint, and the finding that was written down for it. */
  z.strictObject({
    type: z.literal("leak-at"),
    joint: id,
    label: words(200),
    findingId: z.optional(z.uuid()),
  }),
  /** The unit's own pump, every tap shut: whether it stops, and how soon it starts again by itself. */
  z.strictObject({
    type: z.literal("pump-run"),
    stops: z.boolean(),
    /** From one start to the next; none where it kept silent. */
    intervalS: z.optional(z.number().min(1).max(1e6)),
    /** With the valve behind the pump shut. */
    behindValve: z.enum(PUMP_ANSWERS),
  }),
  z.strictObject({ type: z.literal("note"), text: words(1000).min(1, "say what was noticed") }),
  z.strictObject({
    type: z.literal("ended"),
    name: words(120).min(1, "say who signs"),
    /** Why it ended before its time; empty where it did not. */
    early: words(300).default(""),
    /** Of a fill to a mark, where no gauge says it. */
    byEye: z.optional(z.enum(["tight", "leaking", "cannot-tell"])),
    concluded: z.optional(concludedSchema),
  }),
]);

export type TestBody = z.output<typeof testBodySchema>;

export interface TestEntry {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  readonly body: TestBody;
}

type Begun = Extract<TestBody, { type: "begun" }>;
type Ended = Extract<TestBody, { type: "ended" }>;
type Parted = Extract<TestBody, { type: "parted" }>;
type PumpRun = Extract<TestBody, { type: "pump-run" }>;

export interface PressureTest extends Omit<Begun, "type"> {
  readonly begunAt: string;
  readonly begunBy: string;
  readonly done: readonly string[];
  /** Readings since it was last pressed, in order of time. */
  readonly readings: readonly HoldReading[];
  /** Moment of the first of them. */
  readonly readingsFrom: string | null;
  readonly pressedAgain: number;
  readonly parted: readonly Parted[];
  readonly soaped: Readonly<Record<string, (typeof SOAPED)[number]>>;
  readonly leakAt?: {
    readonly joint: string;
    readonly label: string;
    readonly findingId?: string | undefined;
  };
  readonly logger?: Extract<TestBody, { type: "logger-on" }> & { readonly at: string };
  readonly isSimulated: boolean;
  readonly pumpRun?: PumpRun;
  readonly notes: readonly { readonly text: string; readonly by: string; readonly at: string }[];
  readonly ended?: Omit<Ended, "type"> & { readonly at: string; readonly by: string };
}

export type TestResult =
  | { readonly ok: true; readonly test: PressureTest }
  | { readonly ok: false; readonly problem: string };

const no = (problem: string): TestResult => ({ ok: false, problem });
const MOST_READINGS = 120_000;

/** Readings by their moments, each moment once. */
const withReadings = (
  test: PressureTest,
  from: string,
  more: readonly HoldReading[],
): PressureTest => {
  const [a, b] = [test.readingsFrom ?? from, from].map(Date.parse) as [number, number];
  const begin = Math.min(a, b + (more[0]?.atS ?? 0) * 1000);
  const shifted = (readings: readonly HoldReading[], zero: number): HoldReading[] =>
    readings.map((r) => ({ ...r, atS: r.atS + (zero - begin) / 1000 }));
  const all = new Map<number, HoldReading>();
  for (const r of [...shifted(more, b), ...shifted(test.readings, a)])
    all.set(Math.round(r.atS * 1000), r);
  return {
    ...test,
    readingsFrom: new Date(begin).toISOString(),
    readings: [...all.values()].toSorted((x, y) => x.atS - y.atS),
  };
};

/** Whether what makes air safe has been signed; water needs none of it. */
export const isMadeSafe = ({ plan, done }: Pick<PressureTest, "plan" | "done">): boolean =>
  plan.steps.every((s) => s.id !== AIR_SAFE || done.includes(s.id));

/** What a test comes to with one more entry, or why that entry cannot be. */
export const addToTest = (before: PressureTest | undefined, entry: TestEntry): TestResult => {
  const { body, at, by } = entry;
  if (!before) {
    if (body.type !== "begun") return no("No test has been begun yet that this could be of.");
    if (body.plan.refused !== undefined) return no(`It is not done: ${body.plan.refused}`);
    const { type: _type, ...begun } = body;
    return {
      ok: true,
      test: {
        ...begun,
        begunAt: at,
        begunBy: by,
        done: [],
        readings: [],
        readingsFrom: null,
        pressedAgain: 0,
        parted: [],
        soaped: {},
        isSimulated: false,
        notes: [],
      },
    };
  }
  const said = (change: Partial<PressureTest>): TestResult => ({
    ok: true,
    test: { ...before, ...change },
  });
  if (body.type === "note") return said({ notes: [...before.notes, { text: body.text, by, at }] });
  // It is let down, and where it leaks is looked for, after the hold too.
  if (before.ended && !["soaped", "parted", "leak-at", "step-done"].includes(body.type))
    return no("It has ended and been signed. A new test takes what is new.");
  const isPressing = ["reading", "readings", "logger-on", "pressed-again"].includes(body.type);
  if (isPressing && !isMadeSafe(before))
    return no("Nothing is pressed with air before what makes it safe has been signed.");
  switch (body.type) {
    case "begun":
      return no("It has been begun already.");
    case "step-done":
      if (!before.plan.steps.some((s) => s.id === body.step))
        return no("That step is not in its plan.");
      return said({ done: [...new Set([...before.done, body.step])] });
    case "reading":
      return {
        ok: true,
        test: withReadings(before, at, [{ ...body.reading, atS: 0 }]),
      };
    case "readings": {
      if (before.readings.length + body.readings.length > MOST_READINGS)
        return no("It has more readings than can be judged; begin another.");
      const next = withReadings(before, body.beginsAt, body.readings);
      return {
        ok: true,
        test: { ...next, isSimulated: before.isSimulated || body.from === "simulated" },
      };
    }
    case "pressed-again":
      return said({ readings: [], readingsFrom: null, pressedAgain: before.pressedAgain + 1 });
    case "logger-on":
      return said({ logger: { ...body, at }, isSimulated: true });
    case "pump-run":
      return said({ pumpRun: body });
    case "parted":
      return said({ parted: [...before.parted, body] });
    case "soaped":
      return said({ soaped: { ...before.soaped, [body.joint]: body.found } });
    case "leak-at":
      return said({
        leakAt: { joint: body.joint, label: body.label, findingId: body.findingId },
      });
    case "ended": {
      const { type: _type, ...ended } = body;
      return said({ ended: { ...ended, at, by } });
    }
  }
};

export interface TestAstray {
  readonly id: string;
  readonly type: string;
  readonly problem: string;
}

/** What its entries come to; one that cannot be is left out and named. */
export const testNow = (
  entries: readonly TestEntry[],
): { readonly test: PressureTest | undefined; readonly astray: readonly TestAstray[] } => {
  let test: PressureTest | undefined;
  const astray: TestAstray[] = [];
  for (const entry of entries) {
    const next = addToTest(test, entry);
    if (next.ok) test = next.test;
    else astray.push({ id: entry.id, type: entry.body.type, problem: next.problem });
  }
  return { test, astray };
};

/** How its readings are judged: by the leak that its own plan named. */
const policyOf = (test: Pick<PressureTest, "plan">): HoldPolicy => ({
  smallestM3S: test.plan.smallestM3S,
  leastReadings: 3,
  leastS: 600,
});

/** The verdict of the readings as they stand now. */
export const judgedTest = (
  test: Pick<PressureTest, "plan" | "instruments" | "readings">,
): HoldVerdict => judgeHold(test.plan.held, test.instruments, test.readings, policyOf(test));

/** What is signed of a verdict. */
export const concludedOf = (verdict: HoldVerdict): z.output<typeof concludedSchema> => ({
  verdict: verdict.verdict,
  why: verdict.why,
  leak: verdict.leak,
  smallestDetectable: verdict.smallestDetectable,
  judge: JUDGE_VERSION,
});

/** Sections that are still suspected after what was parted; all of them before. */
export const suspectsOf = (
  sections: readonly string[],
  test: Pick<PressureTest, "parted">,
): ReadonlySet<string> => {
  let left = new Set(sections);
  for (const p of test.parted) {
    const kept = new Set([...left].filter((id) => (p.fell ? p.near : p.far).includes(id)));
    if (kept.size > 0) left = kept;
  }
  return left;
};

/** When the hold has run its time, ISO: from the first reading since it was last pressed; from its beginning where nothing was read. */
export const holdEnds = ({ readingsFrom, begunAt, plan }: PressureTest): string =>
  new Date(Date.parse(readingsFrom ?? begunAt) + plan.holdS * 1000).toISOString();

export type OutcomeName = (typeof HOLD_VERDICTS)[number] | "running";

/** Whether a fill was looked at again before its time: then nothing is seen of a weep. */
const isTooShort = ({ ended, begunAt, plan }: PressureTest): boolean =>
  ended !== undefined && (Date.parse(ended.at) - Date.parse(begunAt)) / 1000 < plan.holdS;

/** What a test came to, in one word: as signed, or running. What an eye calls tight too soon cannot be told. */
export const outcomeOf = (test: PressureTest): OutcomeName => {
  const { ended } = test;
  if (!ended) return "running";
  if (ended.concluded) return ended.concluded.verdict;
  return ended.byEye === "tight" && isTooShort(test)
    ? "cannot-tell"
    : (ended.byEye ?? "cannot-tell");
};

/** A test as far as its hold points go. */
export interface HoldPointTest {
  readonly id: string;
  readonly outcome: OutcomeName;
  readonly holdPoints: readonly string[];
  readonly holdAt: readonly string[];
  readonly retestOf: string | null;
}

/** Tests that have not passed and that no later test of the same has passed for them. */
const notPassed = <T extends Pick<HoldPointTest, "id" | "outcome" | "retestOf">>(
  tests: readonly T[],
): T[] => {
  const passed = new Set(tests.filter((t) => t.outcome === "tight").map((t) => t.id));
  const isPassed = (id: string, seen = new Set<string>()): boolean => {
    if (passed.has(id)) return true;
    seen.add(id);
    return tests.some((t) => t.retestOf === id && !seen.has(t.id) && isPassed(t.id, seen));
  };
  return tests.filter((t) => !isPassed(t.id));
};

/** What may not be closed yet: the hold points of every test that has not passed. */
export const openHoldPoints = (tests: readonly Omit<HoldPointTest, "holdAt">[]): string[] => [
  ...new Set(notPassed(tests).flatMap((t) => t.holdPoints)),
];

/** Parts that lie behind what may not be closed yet, each with what stays open before it. */
export const heldOpenAt = (tests: readonly HoldPointTest[]): ReadonlyMap<string, string> =>
  new Map(
    notPassed(tests).flatMap((t) =>
      t.holdAt.map((part) => [part, t.holdPoints.join(", ")] as const),
    ),
  );
