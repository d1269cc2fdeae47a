import { newRunEventSchema, runSetupSchema } from "@uppershed/core";
import { z } from "zod";
import { roleSchema } from "./people.ts";

export const runSummarySchema = z.object({
  phase: z.enum(["as-found", "steps", "as-left", "sign-off", "closed"]),
  stepTitle: z.string().nullable(),
  stepsDone: z.number().int(),
  stepsInAll: z.number().int(),
  holdsToC: z.number().nullable(),
  weakestPart: z.string().nullable(),
  /** Parts that are not known yet and on which the verdict rests. */
  cannotTell: z.array(z.string()).readonly().default([]),
  waterInLinesM3: z.number(),
  antifreezeUsedM3: z.number(),
  clocks: z.array(z.object({ label: z.string(), endsAt: z.iso.datetime() })),
});

export const newRunSchema = z.strictObject({
  /** Made on the device: the same run started twice is one. */
  id: z.uuid(),
  unitId: z.uuid(),
  visitId: z.uuid().nullable(),
  mapRevision: z.number().int().min(1),
  setup: runSetupSchema,
});

export const keptRunEventSchema = newRunEventSchema.extend({
  by: z.object({ id: z.uuid(), name: z.string(), role: roleSchema }),
});

export const runSchema = z.object({
  id: z.uuid(),
  unitId: z.uuid(),
  unitName: z.string(),
  craft: z.string(),
  mapRevision: z.number().int(),
  map: z.unknown(),
  setup: runSetupSchema,
  startedAt: z.iso.datetime(),
  startedBy: z.string(),
  closedAt: z.iso.datetime().nullable(),
  summary: runSummarySchema,
  events: z.array(keptRunEventSchema),
});

export const sendEventsSchema = z.strictObject({
  events: z.array(newRunEventSchema).min(1).max(500),
});

export const eventOutcomeSchema = z.object({
  id: z.uuid(),
  outcome: z.enum(["kept", "already kept", "refused"]),
  code: z.string().optional(),
  problem: z.string().optional(),
});

export const sentEventsSchema = z.object({
  outcomes: z.array(eventOutcomeSchema),
  summary: runSummarySchema,
});

export type ProcedureRun = z.infer<typeof runSchema>;
export type NewProcedureRun = z.infer<typeof newRunSchema>;
export type SentEvents = z.infer<typeof sentEventsSchema>;
export type EventOutcome = z.infer<typeof eventOutcomeSchema>;
