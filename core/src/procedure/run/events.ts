import { z } from "zod";
import { stepIdSchema } from "../step.ts";
import { METHOD_NAMES } from "../method.ts";
import { JOB_NAMES, waterSettingsSchema } from "../job.ts";
import { keptPlanSchema } from "./kept-plan.ts";
import { saidSchema } from "./said.ts";

/**
 * What happens in a run, one entry each, only ever added: what was done, and what was planned. A correction is an entry that names the
 * one it corrects. The schemas hold at every boundary: screen, server, database.
 */

const stepId = stepIdSchema;
const text = z.string().trim().min(1, "say something here").max(2000);
const lineup = z.record(z.string().max(130), z.string().max(40));
const typed = z.string().trim().min(1).max(60);

const readingFields = {
  stepId,
  ask: z.string().min(1).max(200),
  /** SI: m3, °C, or glycol by volume from 0 to 1. */
  si: z.number(),
  /** As it was typed, with its unit. */
  typed,
};

export const runEventBodySchema = z.discriminatedUnion("type", [
  z.strictObject({ type: z.literal("as-found"), lineup, note: z.string().max(2000).optional() }),
  z.strictObject({
    type: z.literal("planned"),
    /** The entry after which it was planned: the lineup as found, a step that could not be done, a reading that was too weak. */
    because: z.uuid(),
    planner: z.string().min(1).max(20),
    plan: keptPlanSchema,
  }),
  z.strictObject({
    type: z.literal("row-ticked"),
    stepId,
    row: z.string().min(1).max(80),
    done: z.boolean(),
  }),
  z.strictObject({
    type: z.literal("reading"),
    ...readingFields,
    /** With which instrument, by its name in the kit. */
    instrument: z.optional(z.string().max(80)),
  }),
  z.strictObject({ type: z.literal("step-signed"), stepId }),
  /** A later step is done now: it comes to the front, the others keep their order. */
  z.strictObject({ type: z.literal("step-brought"), stepId }),
  z.strictObject({
    type: z.literal("step-cannot"),
    stepId,
    parts: z.array(z.string().min(1).max(60)).min(1, "name at least one part").max(200),
    reason: text,
  }),
  z.strictObject({ type: z.literal("note"), stepId: z.optional(stepId), text }),
  z.strictObject({
    type: z.literal("noticed"),
    stepId: z.optional(stepId),
    part: z.string().max(60).optional(),
    severity: z.enum(["unsafe", "will-fail", "wears", "note"]),
    text,
  }),
  z.strictObject({
    type: z.literal("corrected"),
    event: z.uuid(),
    reason: text,
    si: z.number(),
    typed,
  }),
  z.strictObject({
    type: z.literal("as-left"),
    lineup,
    /** Ends and openings left undone on purpose, each with what hangs on it. */
    tagged: z.array(z.strictObject({ id: z.string().min(1).max(140), tag: text })).max(100),
    note: z.string().max(2000).optional(),
  }),
  z.strictObject({
    type: z.literal("closed"),
    name: z.string().trim().min(1, "sign with a name").max(80),
  }),
  z.strictObject({
    type: z.literal("countersigned"),
    name: z.string().trim().min(1, "sign with a name").max(80),
  }),
]);

export type RunEventBody = z.infer<typeof runEventBodySchema>;

/** What a person enters; the plan is entered by the application. */
export type AskedBody = Exclude<RunEventBody, { type: "planned" }>;

/** An event as a device makes it. */
export const newRunEventSchema = z.strictObject({
  /** Made on the device: the same event sent twice is one. */
  id: z.uuid(),
  /** The device's own count in this run. */
  seq: z.number().int().min(1).max(1_000_000),
  /** The device's clock. */
  at: z.iso.datetime(),
  body: runEventBodySchema,
  /** What the engine said of the unit with it. */
  said: z.optional(saidSchema),
});

export type NewRunEvent = z.infer<typeof newRunEventSchema>;

/** An event with who did it, under the name and role of that day. */
export interface RunEvent extends NewRunEvent {
  readonly by: { readonly id: string; readonly name: string; readonly role: string };
}

/** An entry that is kept and cannot be read by this version: nothing is done with it, and the record says so. */
export interface UnreadEntry {
  readonly id: string;
  readonly at: string;
  readonly type: string;
  readonly by: RunEvent["by"];
  readonly problem: string;
}

const heldSchema = saidSchema.shape.contents;

/** What was known of the unit when the run was begun: how it was left last, and when that was. */
export const runBeginsSchema = z.strictObject({
  from: z.enum(["as-left", "record"]),
  at: z.iso.datetime(),
  /** Record that left it so. */
  runId: z.uuid().nullable(),
  lineup: z.record(z.string().max(130), z.string().max(40)),
  apart: saidSchema.shape.apart,
  /** What it held then, where a record says so and nothing has been filled since. */
  contents: z.nullable(heldSchema),
  measured: saidSchema.shape.measured,
});

export type RunBegins = z.infer<typeof runBeginsSchema>;

/** By which house rules a run was planned: those of its day, and where it departs from them, by whom and why. Kept with it and printed. */
const rulesUsedSchema = z.strictObject({
  /** Of the workshop's rules; 0 as they were shipped. */
  revision: z.number().int().min(0).max(1_000_000),
  values: z.record(z.string().max(60), z.union([z.string().max(60), z.number()])),
  /** Whose winter low it is: that of the unit's place, or the workshop's. */
  winterLow: z.strictObject({ from: z.string().max(80), celsius: z.number().min(-50).max(0) }),
  departures: z
    .array(
      z.strictObject({
        /** What is departed from: a rule's key, or "winterLow". */
        key: z.string().min(1).max(60),
        name: z.string().trim().min(1).max(80),
        reason: z.string().trim().min(1, "say why").max(300),
      }),
    )
    .max(20),
});

export type RulesUsed = z.infer<typeof rulesUsedSchema>;

/** How a run was asked for; stored with it. */
export const runSetupSchema = z.strictObject({
  /** What it is for; winterizing where it does not say. */
  job: z.optional(z.enum(JOB_NAMES)),
  /** Of a spring or a sanitizing. */
  water: z.optional(waterSettingsSchema),
  method: z.enum(METHOD_NAMES),
  winterLowC: z
    .number()
    .min(-50, "no antifreeze table reaches below −50 °C")
    .max(0, "the winter low is at or below freezing"),
  marginC: z.number().min(0).max(20),
  basis: z.enum(["by-part", "burst", "no-ice"]),
  product: z.strictObject({
    name: z.string().trim().min(1).max(80),
    lot: z.string().trim().max(60).optional(),
    strength: z.number().min(0.05, "at least 5 %").max(0.6, "the tables end at 60 %"),
    jugM3: z.number().min(0.0005).max(0.25),
  }),
  trapDoseM3: z.number().min(0.0001).max(0.005),
  house: z.optional(
    z.strictObject({
      openAtC: z.number().min(20).max(50),
      recoveredMin: z.number().min(0.5).max(1),
      strengthEverywhere: z.boolean(),
      reserve: z.number().min(0).max(1),
      leastStrength: z.optional(z.number().min(0).max(0.6)),
      wasteGates: z.optional(z.enum(["shut-dosed", "open"])),
      air: z.optional(
        z.strictObject({
          pa: z.number().min(50_000).max(345_000),
          ceilingPa: z.number().min(50_000).max(345_000),
          rounds: z.number().int().min(1).max(5),
          heater: z.optional(z.enum(["bypassed", "receiver"])),
          compressorM3: z.optional(z.number().min(0).max(1)),
        }),
      ),
    }),
  ),
  rules: z.optional(rulesUsedSchema),
});

export type RunSetup = z.infer<typeof runSetupSchema>;
