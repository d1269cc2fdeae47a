import { partLifeSchema, unitFields } from "@uppershed/core/formats";
import { moment, revisionNumber, UNIT_STATES } from "@uppershed/core/inspection";
import { JOB_NAMES, runBeginsSchema, saidSchema } from "@uppershed/core/procedure";
import { z } from "zod";
import { customerId, placeId, runId, unitId } from "./ids.ts";
import { runSummarySchema } from "./runs.ts";

/** What a unit is known to be in: in use, or as a record left it. */
export const unitStateSchema = z.object({
  /** What its last signed sheet was for, where that was no winterizing. */
  job: z.enum(JOB_NAMES).optional(),
  /** "in-use": full of water, assumed. "as-left": from a closed record. "in-work": a run is open. */
  kind: z.enum(UNIT_STATES),
  holdsToC: z.number().nullable(),
  weakestPart: z.string().nullable(),
  cannotTell: z.array(z.string()).readonly(),
  at: z.iso.datetime().nullable(),
  runId: runId.nullable(),
  /** What came after the record, in words: "map changed since: ice-maker line, not known to hold". */
  since: z.array(z.string()).readonly(),
});

export const unitSchema = z.object({
  id: unitId,
  name: z.string(),
  craft: z.string(),
  customerId,
  owner: z.string(),
  phone: z.string(),
  /** Number plate. */
  plate: z.string(),
  /** Hull or chassis number. */
  hull: z.string(),
  berth: z.string(),
  /** Of the workshop's places, with the cold it has to bear there. */
  place: z.object({ placeId, name: z.string(), winterLowC: z.number() }).nullable(),
  /** How one gets at its water parts. */
  accessNote: z.string(),
  mapRevision: z.number().int(),
  /** The unit whose map this one was copied from, and the revision up to which its changes have been brought over. */
  siblingOf: z.object({ unitId, name: z.string(), revision: z.number().int() }).nullable(),
  state: unitStateSchema,
  /** Findings that stand on its sheets, and whether one of them is unsafe. */
  openFindings: z.number().int(),
  unsafe: z.boolean(),
});

export const unitSearchSchema = z.strictObject({
  /** Words that must all occur: name, craft, plate, hull number, place, owner, phone, parts. */
  find: z.string().trim().max(100).optional(),
  /** "cold": those that bear least come first. */
  sort: z.enum(["name", "cold"]).default("name"),
  only: z.enum(["all", "findings", "unsafe", "here"]).default("all"),
  /** Units of one customer. */
  customer: customerId.optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
  skip: z.coerce.number().int().min(0).max(100_000).default(0),
});

export const unitListSchema = z.object({
  units: z.array(unitSchema),
  /** How many fit in all; counted up to a bound. */
  found: z.number().int(),
  /** Whether there are more than were counted. */
  atLeast: z.boolean(),
});

/** A change of a unit; what it does not name stays. */
export const unitChangeSchema = z
  .strictObject({ ...unitFields, customerId, placeId: placeId.nullable() })
  .partial();

export const mapRevisionSchema = z.object({
  unitId,
  revision: z.number().int(),
  at: z.iso.datetime(),
  by: z.string(),
  why: z.string(),
  /** A water map document; read with core's readWaterMap. */
  document: z.unknown(),
});

export const newMapRevisionSchema = z.strictObject({
  /** The revision it was made from; another one in the meantime is a conflict. */
  basedOn: z.number().int().min(0).max(1_000_000),
  why: z.string().trim().min(1, "say why the map changes").max(300),
  document: z.unknown(),
  /** What the register is to keep of parts from now on, by part id or "part id/item". */
  lives: z.record(z.string().max(120), partLifeSchema).optional(),
  /** Changes of the sibling have been brought over up to this revision of it. */
  siblingRevision: revisionNumber.optional(),
});

export const newUnitSchema = z.strictObject({
  /** Made on the device: the same unit sent twice is one. */
  id: unitId,
  name: z.string().trim().min(1, "give the unit a name").max(80),
  craft: z.string().trim().min(1, "say what it is").max(60),
  owner: z.string().trim().min(1, "say whose it is").max(80),
  phone: z.string().trim().max(40).default(""),
  /** Instead of owner and phone, where the customer is known already. */
  customerId: customerId.optional(),
  plate: z.string().trim().max(40).default(""),
  hull: z.string().trim().max(40).default(""),
  berth: z.string().trim().max(80).default(""),
  placeId: placeId.nullable().default(null),
  why: z.string().trim().min(1).max(300).default("Drawn at intake"),
  document: z.unknown(),
  /** The unit whose map was copied. */
  siblingOf: unitId.optional(),
});

/** A revision without its document. */
const revisionLineSchema = mapRevisionSchema
  .omit({ document: true })
  .extend({ parts: z.number().int() });
export const revisionListSchema = z.object({ revisions: z.array(revisionLineSchema) });

const unitRunSchema = z.object({
  id: runId,
  startedAt: z.iso.datetime(),
  closedAt: z.iso.datetime().nullable(),
  startedBy: z.string(),
  mapRevision: z.number().int(),
  method: z.string(),
  summary: runSummarySchema,
});

export const unitRunsSchema = z.object({ runs: z.array(unitRunSchema) });

/** What others of the workshop took of antifreeze, beside what was worked out for them. */
export const tookElsewhereSchema = z.object({
  others: z.array(
    z.object({
      method: z.string(),
      sameKind: z.boolean(),
      workedM3: z.number(),
      usedM3: z.number(),
    }),
  ),
});

/** The unit has been filled again. */
export const inUseSchema = z.strictObject({
  /** Made on the device. */
  id: z.uuid(),
  at: moment,
});

/** At which moment it stood so; now, where none is given. */
export const standingSearchSchema = z.strictObject({ asOf: moment.optional() });

/** How a unit stands on today's map. */
export const standingSchema = z.object({
  kind: z.enum(["in-use", "as-left"]),
  at: z.iso.datetime().nullable(),
  runId: runId.nullable(),
  /** When its valves were last written down as left. */
  leftAt: z.iso.datetime().nullable(),
  mapRevision: z.number().int(),
  /** What each cell is known to hold; nothing of a unit in use. */
  contents: saidSchema.shape.contents.nullable(),
  measured: saidSchema.shape.measured,
  lineup: z.record(z.string(), z.string()),
  apart: saidSchema.shape.apart,
  holdsToC: z.number().nullable(),
  weakest: z.string().nullable(),
  owners: saidSchema.shape.owners,
  doubts: saidSchema.shape.doubts,
  since: z.array(
    z.object({
      at: z.iso.datetime(),
      what: z.string(),
      names: z.array(z.string()),
      why: z.string(),
    }),
  ),
  /** Parts and pipes of which nothing is known. */
  notKnown: z.array(z.string()),
  /** What a run begun now would begin from. */
  begins: runBeginsSchema.nullable(),
  /** Controls, and ends as "run:end", that its last winterizing left otherwise than in use: thought of first when something is wrong. */
  turnedLast: z.array(z.string()).default([]),
});

export type InUse = z.infer<typeof inUseSchema>;
export type UnitStandingTold = z.infer<typeof standingSchema>;
export type UnitSearch = z.input<typeof unitSearchSchema>;
export type UnitList = z.infer<typeof unitListSchema>;
export type UnitChange = z.input<typeof unitChangeSchema>;
export type Unit = z.infer<typeof unitSchema>;
export type UnitState = z.infer<typeof unitStateSchema>;
export type UnitRun = z.infer<typeof unitRunSchema>;
export type TookElsewhere = z.infer<typeof tookElsewhereSchema>;
export type NewUnit = z.input<typeof newUnitSchema>;
export type NewMapRevision = z.input<typeof newMapRevisionSchema>;
export type RevisionLine = z.infer<typeof revisionLineSchema>;
export type MapRevision = z.infer<typeof mapRevisionSchema>;
