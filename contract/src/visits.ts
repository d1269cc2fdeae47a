import { z } from "zod";
import { runSummarySchema } from "./runs.ts";

export const VISIT_STATES = ["booked", "arrived", "in work", "waiting", "ready", "gone"] as const;

export const visitSchema = z.object({
  id: z.uuid(),
  unitId: z.uuid(),
  unitName: z.string(),
  craft: z.string(),
  startsAt: z.iso.datetime(),
  minutes: z.number().int(),
  bay: z.string(),
  asked: z.string(),
  ownerSaid: z.string(),
  state: z.enum(VISIT_STATES),
  run: z.object({ id: z.uuid(), summary: runSummarySchema }).nullable(),
});

export const visitListSchema = z.object({ visits: z.array(visitSchema) });

export const newVisitSchema = z.strictObject({
  unitId: z.uuid(),
  startsAt: z.iso.datetime(),
  minutes: z.number().int().min(5).max(10_080),
  bay: z.string().trim().max(40).default(""),
  asked: z.string().trim().min(1, "say what is asked for").max(300),
  ownerSaid: z.string().trim().max(1000).default(""),
});

export const visitChangeSchema = z.strictObject({ state: z.enum(VISIT_STATES) });

export type Visit = z.infer<typeof visitSchema>;
export type NewVisit = z.input<typeof newVisitSchema>;
