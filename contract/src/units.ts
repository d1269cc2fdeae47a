import { partLifeSchema } from "@uppershed/core";
import { z } from "zod";
import { runSummarySchema } from "./runs.ts";

/** What a unit is known to be in: in use, or as a record left it. */
export const unitStateSchema = z.object({
  /** "in use": full of water, assumed. "as left": from a closed record. "in work": a run is open. */
  kind: z.enum(["in use", "as left", "in work"]),
  holdsToC: z.number().nullable(),
  weakestPart: z.string().nullable(),
  cannotTell: z.array(z.string()).readonly(),
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
  /** The unit whose map this one was copied from, and the revision up to which its changes have been brought over. */
  siblingOf: z.object({ unitId: z.uuid(), name: z.string(), revision: z.number().int() }).nullable(),
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
  /** What the register is to keep of parts from now on, by part id or "part id/item". */
  lives: z.record(z.string().max(120), partLifeSchema).optional(),
  /** Changes of the sibling have been brought over up to this revision of it. */
  siblingRevision: z.number().int().min(1).optional(),
});

export const newUnitSchema = z.strictObject({
  name: z.string().trim().min(1, "give the unit a name").max(80),
  craft: z.string().trim().min(1, "say what it is").max(60),
  owner: z.string().trim().min(1, "say whose it is").max(80),
  phone: z.string().trim().max(40).default(""),
  mark: z.string().trim().max(40).default(""),
  berth: z.string().trim().max(80).default(""),
  why: z.string().trim().min(1).max(300).default("Drawn at intake"),
  document: z.unknown(),
  /** The unit whose map was copied. */
  siblingOf: z.uuid().optional(),
});

/** A revision without its document. */
export const revisionLineSchema = mapRevisionSchema.omit({ document: true }).extend({ parts: z.number().int() });
export const revisionListSchema = z.object({ revisions: z.array(revisionLineSchema) });

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
export type NewUnit = z.input<typeof newUnitSchema>;
export type NewMapRevision = z.input<typeof newMapRevisionSchema>;
export type RevisionLine = z.infer<typeof revisionLineSchema>;
export type MapRevision = z.infer<typeof mapRevisionSchema>;
