import { z } from "zod";
import { runSummarySchema } from "./runs.ts";

/** What a unit is known to be in: in use, or as a record left it. */
export const unitStateSchema = z.object({
  /** "in use": full of water, assumed. "as left": from a closed record. "in work": a run is open. */
  kind: z.enum(["in use", "as left", "in work"]),
  holdsToC: z.number().nullable(),
  weakestPart: z.string().nullable(),
  at: z.iso.datetime().nullable(),
  runId: z.uuid().nullable(),
});

export const unitSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  craft: z.string(),
  owner: z.string(),
  phone: z.string(),
  /** Number plate or hull number. */
  mark: z.string(),
  berth: z.string(),
  mapRevision: z.number().int(),
  state: unitStateSchema,
});

export const unitListSchema = z.object({ units: z.array(unitSchema) });

export const mapRevisionSchema = z.object({
  unitId: z.uuid(),
  revision: z.number().int(),
  at: z.iso.datetime(),
  by: z.string(),
  why: z.string(),
  /** A water map document; read with core's readWaterMap. */
  document: z.unknown(),
});

export const newMapRevisionSchema = z.strictObject({
  /** The revision it was made from; another one in the meantime is a conflict. */
  basedOn: z.number().int().min(0),
  why: z.string().trim().min(1, "say why the map changes").max(300),
  document: z.unknown(),
});

export const unitRunSchema = z.object({
  id: z.uuid(),
  startedAt: z.iso.datetime(),
  closedAt: z.iso.datetime().nullable(),
  startedBy: z.string(),
  mapRevision: z.number().int(),
  summary: runSummarySchema,
});

export const unitRunsSchema = z.object({ runs: z.array(unitRunSchema) });

export type Unit = z.infer<typeof unitSchema>;
export type UnitState = z.infer<typeof unitStateSchema>;
export type UnitRun = z.infer<typeof unitRunSchema>;
export type MapRevision = z.infer<typeof mapRevisionSchema>;
