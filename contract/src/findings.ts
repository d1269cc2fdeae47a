import {
  ANSWERS,
  FINDING_STATES,
  findingBodySchema,
  moment,
  revisionNumber,
  SEVERITIES,
  TOUCHES,
} from "@uppershed/core/inspection";
import { z } from "zod";
import { findingId, unitId, visitId } from "./ids.ts";

const findingEntrySchema = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  by: z.string(),
  body: findingBodySchema,
});

export const findingSchema = z.object({
  id: findingId,
  unitId,
  unitName: z.string(),
  visitId: visitId.nullable(),
  mapRevision: z.number().int(),
  partId: z.string().nullable(),
  place: z.string(),
  /** What it would do harm to, by what its part is now; only in the list of findings. */
  touches: z.array(z.enum(TOUCHES)).optional(),
  what: z.string(),
  severity: z.enum(SEVERITIES),
  cause: z.string(),
  advice: z.string(),
  partsNeeded: z.string(),
  minutes: z.number().int().nullable(),
  state: z.enum(FINDING_STATES),
  foundAt: z.iso.datetime(),
  foundBy: z.string(),
  answer: z.object({ answer: z.enum(ANSWERS), who: z.string(), at: z.iso.datetime() }).optional(),
  mended: z
    .object({ how: z.string(), proof: z.string(), at: z.iso.datetime(), by: z.string() })
    .optional(),
  accepted: z.object({ why: z.string(), at: z.iso.datetime() }).optional(),
  /** Everything that was ever said of it, oldest first. */
  entries: z.array(findingEntrySchema),
  /** Entries that are kept and have no effect, each with its reason. */
  withoutEffect: z
    .array(
      z.object({
        id: z.uuid(),
        at: z.iso.datetime(),
        by: z.string(),
        type: z.string(),
        problem: z.string(),
      }),
    )
    .optional(),
});

export const findingListSchema = z.object({ findings: z.array(findingSchema), more: z.boolean() });

export const findingSearchSchema = z.strictObject({
  unit: unitId.optional(),
  find: z.string().trim().max(100).optional(),
  severity: z.enum(SEVERITIES).optional(),
  state: z.enum(["open", "all"]).default("all"),
});

/** An entry about a finding: the first one makes it. */
export const newFindingEntrySchema = z.strictObject({
  /** Of the entry, made on the device; of the first entry it is the finding's own. */
  id: z.uuid(),
  at: moment,
  body: findingBodySchema,
  visitId: visitId.nullable().default(null),
  mapRevision: revisionNumber,
});

export type FindingOnFile = z.infer<typeof findingSchema>;
export type NewFindingEntry = z.input<typeof newFindingEntrySchema>;
export type FindingSearch = z.input<typeof findingSearchSchema>;
