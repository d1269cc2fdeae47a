import { HOLD_VERDICTS, testBodySchema } from "@uppershed/core/hold";
import { moment, revisionNumber } from "@uppershed/core/inspection";
import { z } from "zod";
import { unitId, visitId } from "./ids.ts";

/** Pressure tests on a unit: each is its entries, which are only ever added. */

const entrySchema = z.object({
  id: z.uuid(),
  at: z.iso.datetime(),
  by: z.string(),
  body: testBodySchema,
});

export const testSchema = z.object({
  id: z.uuid(),
  unitId,
  unitName: z.string(),
  visitId: visitId.nullable(),
  mapRevision: z.number().int(),
  title: z.string(),
  outcome: z.enum([...HOLD_VERDICTS, "running"]),
  at: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
  /** What may not be closed before it has passed. */
  holdPoints: z.array(z.string()),
  /** The parts that lie behind it. */
  holdAt: z.array(z.string()),
  /** The test that it repeats. */
  retestOf: z.uuid().nullable(),
  /** When something of what it tested was opened again, or drawn otherwise, after it had ended. */
  openedSince: z.iso.datetime().nullable(),
  entries: z.array(entrySchema),
  /** Entries that are kept and have no effect, each with its reason. */
  withoutEffect: z.array(z.object({ id: z.uuid(), type: z.string(), problem: z.string() })),
});

/** A test in a list: without its entries. */
const testLineSchema = testSchema.omit({ entries: true, withoutEffect: true });
export const testListSchema = z.object({ tests: z.array(testLineSchema) });

/** An entry of a test: the first one begins it. */
export const newTestEntrySchema = z.strictObject({
  /** Made on the device: sent twice, it is kept once. */
  id: z.uuid(),
  at: moment,
  body: testBodySchema,
  visitId: visitId.nullable().default(null),
  mapRevision: revisionNumber,
});

export type PressureTestOnFile = z.infer<typeof testSchema>;
export type TestLine = z.infer<typeof testLineSchema>;
export type NewTestEntry = z.input<typeof newTestEntrySchema>;
