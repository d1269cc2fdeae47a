import { READING_DIMENSIONS } from "@uppershed/core";
import { z } from "zod";


export const readingSchema = z.object({
  id: z.uuid(),
  partId: z.string().nullable(),
  key: z.string(),
  label: z.string(),
  dimension: z.string(),
  /** SI. */
  value: z.number(),
  typed: z.string(),
  method: z.string(),
  at: z.iso.datetime(),
  by: z.string(),
});

export const readingListSchema = z.object({ readings: z.array(readingSchema), more: z.boolean() });

export const newReadingSchema = z.strictObject({
  id: z.uuid(),
  partId: z.string().min(1).max(60).nullable().default(null),
  key: z.string().min(1).max(240),
  label: z.string().min(1).max(240),
  dimension: z.enum(READING_DIMENSIONS),
  value: z.number().min(-1e6).max(1e12),
  typed: z.string().max(60).default(""),
  method: z.string().trim().max(60).default(""),
  at: z.iso.datetime(),
  visitId: z.uuid().nullable().default(null),
});

export const newReadingsSchema = z.strictObject({ readings: z.array(newReadingSchema).min(1, "nothing was read").max(100) });

export type Reading = z.infer<typeof readingSchema>;
export type NewReading = z.input<typeof newReadingSchema>;
