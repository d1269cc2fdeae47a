import { moment, READING_DIMENSIONS } from "@uppershed/core/inspection";
import { z } from "zod";
import { visitId } from "./ids.ts";

const readingSchema = z.object({
  id: z.uuid(),
  partId: z.string().nullable(),
  /** Opening, cell or point of the part; empty for the part as such. */
  spot: z.string(),
  /** Kind of figure: "strength", "recovered", "still". */
  kind: z.string(),
  /** Part, spot and kind together: what is followed over the years. */
  key: z.string(),
  label: z.string(),
  dimension: z.string(),
  /** SI. */
  value: z.number(),
  typed: z.string(),
  method: z.string(),
  /** With which it was taken, where that is known. */
  instrument: z.string(),
  at: z.iso.datetime(),
  by: z.string(),
});

export const readingListSchema = z.object({ readings: z.array(readingSchema), more: z.boolean() });

const newReadingSchema = z
  .strictObject({
    id: z.uuid(),
    partId: z.string().min(1).max(60).nullable().default(null),
    spot: z.string().max(120).default(""),
    kind: z.string().min(1).max(60).optional(),
    /** Under which words a device of before follows it, in place of spot and kind. */
    key: z.string().min(1).max(240).optional(),
    label: z.string().min(1).max(240),
    dimension: z.enum(READING_DIMENSIONS),
    value: z.number().min(-1e6).max(1e12),
    typed: z.string().max(60).default(""),
    method: z.string().trim().max(60).default(""),
    instrument: z.string().trim().max(80).default(""),
    at: moment,
    visitId: visitId.nullable().default(null),
  })
  .refine((r) => r.kind !== undefined || r.key !== undefined, {
    message: "say what kind of figure it is",
    path: ["kind"],
  });

export const newReadingsSchema = z.strictObject({
  readings: z.array(newReadingSchema).min(1, "nothing was read").max(100),
});

export type Reading = z.infer<typeof readingSchema>;
export type NewReading = z.input<typeof newReadingSchema>;
