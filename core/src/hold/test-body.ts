import { z } from "zod";
import { heldSchema, holdReadingSchema, instrumentsSchema } from "./held.ts";
import { HOLD_VERDICTS } from "./judge.ts";
import { TEST_WAYS } from "./test-plan.ts";

/** What is written down of a pressure test, entry by entry. */

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
export const concludedSchema = z.strictObject({
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
