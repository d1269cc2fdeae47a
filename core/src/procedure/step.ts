import { z } from "zod";
import {
  type CellId,
  type ControlKey,
  readAsId,
  type IdOf,
  type OpeningId,
  type PartId,
  type PipeRunId,
} from "../watermap/index.ts";

/** The step language: what a plan is made of. All of it is plain data, so that a plan can be stored, sent and compared. */

export const STAGES = [
  { stage: "secure", label: "Secure" },
  { stage: "drain", label: "Drain" },
  { stage: "bypass", label: "Bypass" },
  { stage: "air", label: "Air" },
  { stage: "fill", label: "Fill" },
  { stage: "traps", label: "Traps" },
  { stage: "button-up", label: "Button up" },
  { stage: "close", label: "Close up" },
  { stage: "tank", label: "Tank" },
  { stage: "flush", label: "Flush" },
  { stage: "heater", label: "Heater" },
  { stage: "dose", label: "Dose" },
  { stage: "spread", label: "To every tap" },
  { stage: "stand", label: "Stand" },
  { stage: "rinse", label: "Rinse" },
  { stage: "prove", label: "Prove" },
] as const satisfies readonly { readonly stage: string; readonly label: string }[];

export type StepId = IdOf<"step">;

const label = z.string().max(400);
const id = z.string().min(1).max(300);
// A step that turns every valve of a large map names them all.
export const stepIdSchema = readAsId<StepId>(z.string().min(1).max(4000));
const control = readAsId<ControlKey>(id);
const cell = readAsId<CellId>(id);
const run = readAsId<PipeRunId>(id);
const opening = readAsId<OpeningId>(id);
const part = readAsId<PartId>(z.string().max(60));
const m3 = z.number().min(0).max(100);
const share = z.number().min(0).max(1);
const end = z.enum(["from", "to"]);
const mgL = z.number().min(0).max(10_000);

/** What all from the source to the watched opening is to be. */
const wantedSchema = z.strictObject({
  glycolAtMost: z.optional(share),
  chlorineAtLeast: z.optional(mgL),
  chlorineAtMost: z.optional(mgL),
  full: z.optional(z.boolean()),
  atLeastM3: z.optional(m3),
});

/** One thing done to the unit. */
const actionSchema = z.discriminatedUnion("type", [
  /** Turn a control: valve, tap, plug, cap, switch. */
  z.strictObject({
    type: z.literal("set-valve"),
    control,
    position: label,
    from: label,
    label,
    tag: label,
    handle: label,
  }),
  /** Something only a person can vouch for; kept as a fact of the run. */
  z.strictObject({ type: z.literal("confirm"), fact: id, label }),
  /** Let gravity work through what stands open. */
  z.strictObject({ type: z.literal("drain") }),
  /** Run a pump until something is seen at an opening. */
  z.strictObject({
    type: z.literal("pump"),
    switch: control,
    watch: opening,
    untilStrength: z.optional(share),
    untilAir: z.optional(share),
    /** Until it comes so, and all on the way is so. */
    wants: z.optional(wantedSchema),
    maxM3: m3,
    /** What it is expected to take. */
    aboutM3: z.optional(m3),
  }),
  /** Push product in at an inlet with a hand pump. */
  z.strictObject({
    type: z.literal("push-by-hand"),
    cell,
    watch: opening,
    untilStrength: share,
    maxM3: m3,
    aboutM3: z.optional(m3),
    label,
  }),
  /** Let the supply press in at an inlet until what is watched comes as wanted. */
  z.strictObject({
    type: z.literal("supply"),
    cell,
    /** The inlet's opening. */
    inlet: opening,
    /** Its cap, which the hose takes the place of. */
    cap: z.optional(control),
    watch: opening,
    wants: wantedSchema,
    maxM3: m3,
    aboutM3: z.optional(m3),
    /** Free chlorine mixed into what comes in, mg/L. */
    chlorineMgL: z.optional(mgL),
    label,
  }),
  /** Fill a tank with water. */
  z.strictObject({ type: z.literal("fill"), cell, volumeM3: m3, label }),
  /** Put free chlorine into a tank: so much of the bottle. */
  z.strictObject({
    type: z.literal("dose"),
    cell,
    chlorineMg: z.number().min(0).max(1e8),
    bottleM3: m3,
    label,
  }),
  /** Let air in by an opening that its hose is on, until only mist comes where it is watched. */
  z.strictObject({
    type: z.literal("blow"),
    opening,
    watch: opening,
    /** Above the air around, as set at the regulator, Pa. */
    pa: z.number().min(5_000).max(420_000),
    label,
  }),
  /** Suck out a vessel that has no drain, by a hose through its joint. */
  z.strictObject({ type: z.literal("suck"), cell, label }),
  z.strictObject({ type: z.literal("pour"), cell, volumeM3: m3, label }),
  /** Undo a joint; with a jug the hose of the jug goes on the part's side. */
  z.strictObject({ type: z.literal("disconnect"), run, end, jug: z.boolean(), label }),
  z.strictObject({ type: z.literal("reconnect"), run, end, label }),
  /** Let what was dosed stand: no sooner than so long, no later than so long. */
  z.strictObject({
    type: z.literal("stand"),
    seconds: z.number().min(0).max(1e7),
    latestS: z.number().min(0).max(1e7),
    label,
  }),
  z.strictObject({ type: z.literal("wait"), seconds: z.number().min(0).max(1e7), label }),
]);

export type Action = Readonly<z.infer<typeof actionSchema>>;

const ASK_KINDS = [
  "strength",
  "recovered",
  "temperature",
  "pressure",
  "antifreeze-in",
  "antifreeze-left",
  "chlorine",
  "flow",
] as const;

/** Begins the key of what is asked a second time, when too little was caught the first. */
export const CAUGHT_AGAIN = "recovered-again:";

/** What the technician is asked to measure at a step. */
const askSchema = z.strictObject({
  key: z.string().min(1).max(200),
  kind: z.enum(ASK_KINDS),
  label,
  /** Cell id the reading speaks of, where it speaks of one. */
  cell: z.optional(cell),
  /** Required before the step may be signed. */
  required: z.boolean(),
  /** Largest value that lets the step be signed, SI. */
  atMost: z.number().optional(),
  /** Least value that lets the step be signed, SI. */
  atLeast: z.number().optional(),
  /** What the engine expects, SI. */
  expected: z.number().optional(),
});

export type AskKind = (typeof ASK_KINDS)[number];
export type Ask = Readonly<z.infer<typeof askSchema>>;

const text = z.string().max(2000);

const STAGE_NAMES = STAGES.map((s) => s.stage);

export const stepSchema = z.strictObject({
  id: stepIdSchema,
  stage: z.enum(STAGE_NAMES),
  title: text,
  actions: z.array(actionSchema).max(2000).readonly(),
  where: text,
  why: text,
  cautions: z.array(text).max(50).readonly(),
  /** A result that can be checked, in words; volumes are written as {m3:0.0087} and set in the reader's units when shown. */
  expect: text,
  asks: z.array(askSchema).max(100).readonly(),
  /** Steps that must be signed first. */
  needs: z.array(stepIdSchema).max(500).readonly(),
  /** Parts to light on the map. */
  parts: z.array(part).max(1000).readonly(),
  /** Product drawn or poured, m3. */
  antifreezeM3: m3,
  /** Hands-on and waiting time, minutes. */
  minutes: z.number().min(0).max(1e6),
  /** Not to be signed sooner than so long after another step. */
  after: z.optional(
    z.strictObject({ step: stepIdSchema, seconds: z.number().min(0).max(1e7), words: text }),
  ),
  /** Why it is on the sheet although left out, or one of its rows, nothing that is worked out would differ: good practice. */
  practice: z.optional(text),
});

export type Step = Readonly<z.infer<typeof stepSchema>>;

/** A row to tick: an action that needs a hand. */
export interface Row {
  readonly key: string;
  readonly action: Action;
}

/** The rows of a step, each with a key that stays the same while the step does. */
export const rowsOf = (step: Step): Row[] =>
  step.actions.flatMap((action, i) =>
    action.type === "drain" ? [] : [{ key: `${i}:${action.type}`, action }],
  );
