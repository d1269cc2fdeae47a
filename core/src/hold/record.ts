import { z } from "zod";
import type { HoldReading } from "./held.ts";
import { HOLD_VERDICTS, type HoldPolicy, type HoldVerdict, judgeHold } from "./judge.ts";
import { concludedSchema, SOAPED, type TestBody, type TestEntry } from "./test-body.ts";
import { AIR_SAFE } from "./test-plan.ts";

/**
 * A pressure test on the record: what is known of it is the fold of its entries, which are only ever added. The plan is kept as it was made,
 * and what was concluded as it was signed.
 */

/** Raised when the same readings can come to another verdict. */
const JUDGE_VERSION = "1";

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
