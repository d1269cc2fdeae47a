import { moment, revisionNumber } from "@uppershed/core/inspection";
import {
  JOB_NAMES,
  newRunEventSchema,
  runBeginsSchema,
  runSetupSchema,
} from "@uppershed/core/procedure";
import { z } from "zod";
import { personId, runId, unitId, visitId } from "./ids.ts";

export const runSummarySchema = z.object({
  /** What it is for, where that is no winterizing. */
  job: z.enum(JOB_NAMES).optional(),
  phase: z.enum(["as-found", "to-plan", "steps", "as-left", "sign-off", "closed"]),
  stepTitle: z.string().nullable(),
  stepsDone: z.number().int(),
  stepsInAll: z.number().int(),
  holdsToC: z.number().nullable(),
  weakestPart: z.string().nullable(),
  /** Parts that are not known yet and on which the verdict rests. */
  cannotTell: z.array(z.string()).readonly().default([]),
  waterInLinesM3: z.number(),
  antifreezeUsedM3: z.number(),
  /** As worked out, whatever was measured; null in what was summed up before that was kept. */
  workedOutM3: z.number().nullable().default(null),
  /** Brought less left, where both were measured. */
  measuredUseM3: z.number().nullable().default(null),
  /** Minutes at work; null in what was summed up before that was counted. */
  minutes: z.number().nullable().default(null),
  strength: z.number().nullable().default(null),
  /** Closed, and waiting for somebody else's countersign. */
  waits: z.boolean().default(false),
  clocks: z.array(z.object({ label: z.string(), endsAt: z.iso.datetime() })),
});

export const newRunSchema = z.strictObject({
  /** Made on the device: the same run started twice is one. */
  id: runId,
  unitId,
  visitId: visitId.nullable(),
  mapRevision: revisionNumber,
  setup: runSetupSchema,
});

const keptRunEventSchema = newRunEventSchema.extend({
  by: z.object({ id: personId, name: z.string(), role: z.string() }),
});

export const runSchema = z.object({
  id: runId,
  unitId,
  /** As it was called when the run began, and as it is called now. */
  unitName: z.string(),
  unitNameNow: z.string(),
  craft: z.string(),
  visitId: visitId.nullable(),
  mapRevision: z.number().int(),
  map: z.unknown(),
  setup: runSetupSchema,
  /** How the unit was known to stand when it began; nothing for a unit in use. */
  begins: runBeginsSchema.nullable(),
  startedAt: z.iso.datetime(),
  startedBy: z.string(),
  closedAt: z.iso.datetime().nullable(),
  /** Two were open on one unit once; this one was set aside. */
  setAsideAt: z.iso.datetime().nullable(),
  summary: runSummarySchema,
  events: z.array(keptRunEventSchema),
  /** Entries that this version cannot read; they are shown as such. */
  unread: z.array(
    z.object({
      id: z.uuid(),
      at: z.iso.datetime(),
      type: z.string(),
      by: z.object({ id: personId, name: z.string(), role: z.string() }),
      problem: z.string(),
    }),
  ),
  /** Of entries whose device had a wrong clock, by id: how many seconds it was ahead. */
  clocksAheadS: z.record(z.string(), z.number()),
});

/** Clocks of runs that are open, the one that ends first before the others. */
export const clockListSchema = z.object({
  clocks: z.array(
    z.object({ runId, unitName: z.string(), label: z.string(), endsAt: z.iso.datetime() }),
  ),
});

/** What others have added to a run since. */
export const runNewsSchema = z.object({
  /** How many entries the run has now. */
  count: z.number().int(),
  /** Those after the ones that are known; none where one of them cannot be read by this version: then the run is asked for again. */
  events: z.array(keptRunEventSchema),
});
export const runNewsSearchSchema = z.strictObject({
  /** How many entries are known. */
  after: z.coerce.number().int().min(0).max(100_000),
});

export const sendEventsSchema = z.strictObject({
  /** Which form they have: from 2 on a device sends its plans as entries. */
  form: z.number().int().min(1).max(100).default(1),
  /** The device's clock as it sends, so that a wrong one is noticed. */
  sentAt: moment.optional(),
  events: z.array(newRunEventSchema).min(1).max(500),
});

const eventOutcomeSchema = z.object({
  id: z.uuid(),
  outcome: z.enum(["kept", "already kept", "refused"]),
  code: z.string().optional(),
  problem: z.string().optional(),
});

export const sentEventsSchema = z.object({
  outcomes: z.array(eventOutcomeSchema),
  summary: runSummarySchema,
  /** How many entries the run has now, whoever made them. */
  count: z.number().int(),
});

export type ProcedureRun = z.infer<typeof runSchema>;
export type NewProcedureRun = z.infer<typeof newRunSchema>;
export type ClockList = z.infer<typeof clockListSchema>;
export type RunNews = z.infer<typeof runNewsSchema>;
export type SentEvents = z.infer<typeof sentEventsSchema>;
export type EventOutcome = z.infer<typeof eventOutcomeSchema>;
