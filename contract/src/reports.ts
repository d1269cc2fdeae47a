import { HANDED_OVER, moment, oneOfList, SPRING_MARKS } from "@uppershed/core/inspection";
import { UNIT_SYSTEMS } from "@uppershed/core/quantity";
import { z } from "zod";
import { editionId, findingId, visitId } from "./ids.ts";
import { findingSchema } from "./findings.ts";
import { lookSchema } from "./looks.ts";
import { pictureSchema } from "./pictures.ts";
import { unitStateSchema } from "./units.ts";
import { snapshotSchema } from "./visits.ts";

/** The spring look at other systems, newest mark of each item. */
const springLookSchema = z.object({
  item: z.string(),
  mark: z.enum(SPRING_MARKS),
  note: z.string(),
  at: z.iso.datetime(),
  by: z.string(),
});
export const springListSchema = z.object({ looks: z.array(springLookSchema) });
export const newSpringLookSchema = z.strictObject({
  id: z.uuid(),
  item: z.string().min(1).max(40),
  mark: oneOfList(SPRING_MARKS),
  note: z.string().trim().max(300).default(""),
  at: moment,
  visitId: visitId.nullable().default(null),
});

const ownerLinkSchema = z.object({
  id: z.uuid(),
  visitId,
  /** Which edition of the report it shows. */
  edition: z.number().int().nullable(),
  /** Whose it is. */
  owner: z.string(),
  at: z.iso.datetime(),
  by: z.string(),
  expiresAt: z.iso.datetime(),
  withdrawnAt: z.iso.datetime().nullable(),
  /** The path of the owner's page; none once it is withdrawn or over. */
  path: z.string().nullable(),
});
export const ownerLinkListSchema = z.object({ links: z.array(ownerLinkSchema) });
export const newOwnerLinkSchema = z.strictObject({
  id: z.uuid(),
  editionId,
  days: z.number().int().min(1).max(400).default(60),
});

const ids = z.array(findingId).readonly();
const reportKeptSchema = z.object({
  places: z
    .array(
      z.object({
        place: z.string(),
        lines: z
          .array(
            z.object({ name: z.string(), point: z.string(), mark: z.string(), note: z.string() }),
          )
          .readonly(),
      }),
    )
    .readonly(),
  good: z.number().int(),
  seen: z.number().int(),
  inAll: z.number().int(),
  open: ids,
  declined: ids,
  mended: ids,
  accepted: ids,
  notReached: z
    .array(z.object({ name: z.string(), point: z.string(), why: z.string() }))
    .readonly(),
  notLooked: z
    .array(z.object({ name: z.string(), points: z.array(z.string()).readonly() }))
    .readonly(),
  lit: z.array(z.string()).readonly(),
});

/** Everything a report says: the same for the screen, for paper and for the owner. */
export const reportDataSchema = z.object({
  workshop: z.object({
    name: z.string(),
    place: z.string(),
    units: z.enum(UNIT_SYSTEMS),
  }),
  unit: z.object({
    name: z.string(),
    craft: z.string(),
    plate: z.string(),
    owner: z.string(),
    /** How it stood. */
    state: unitStateSchema,
  }),
  visit: z.object({
    id: visitId,
    startsAt: z.iso.datetime(),
    arrivedAt: z.iso.datetime().nullable(),
    goneAt: z.iso.datetime().nullable(),
    asked: z.string(),
    ownerSaid: z.string(),
  }),
  /** Nothing that came to be known after this moment stands in it. */
  asOf: z.iso.datetime(),
  mapRevision: z.number().int(),
  map: z.unknown(),
  looks: z.array(lookSchema),
  findings: z.array(findingSchema),
  /** What it comes to, in the words of the day; findings by id. */
  report: reportKeptSchema,
  /** The winterizing of this visit, in the words of its day. */
  winterizing: z
    .object({
      at: z.iso.datetime(),
      holdsToC: z.number().nullable(),
      sections: z.array(z.object({ title: z.string(), lines: z.array(z.string()).readonly() })),
    })
    .nullable()
    .default(null),
  /** De-winterizing and sanitizing of this visit, in the words of their day. */
  waterWork: z
    .array(
      z.object({
        job: z.enum(["spring", "sanitize"]),
        at: z.iso.datetime(),
        sections: z.array(z.object({ title: z.string(), lines: z.array(z.string()).readonly() })),
      }),
    )
    .default([]),
  /** How the water of this unit is used, where it goes back in use. */
  handover: z
    .array(z.object({ title: z.string(), lines: z.array(z.string()).readonly() }))
    .default([]),
  /** Pressure tests of this visit, in the words of its day. */
  tests: z.array(z.object({ at: z.iso.datetime(), lines: z.array(z.string()) })).default([]),
  snapshots: z.array(snapshotSchema),
  pictures: z.array(pictureSchema),
  /** Which edition this is and of which moment; nothing while it has not been handed over. */
  edition: z.object({ id: editionId, number: z.number().int(), at: z.iso.datetime() }).nullable(),
  /** When the owner's link ends, where this was asked for by one. */
  expiresAt: z.iso.datetime().nullable(),
});

/** A report as it was handed over, without what it says. */
export const editionLineSchema = z.object({
  id: editionId,
  number: z.number().int(),
  at: z.iso.datetime(),
  by: z.string(),
  how: z.enum(HANDED_OVER),
});
export const editionListSchema = z.object({ editions: z.array(editionLineSchema) });
export const newEditionSchema = z.strictObject({ id: editionId, how: z.enum(HANDED_OVER) });

export type EditionLine = z.infer<typeof editionLineSchema>;
export type NewEdition = z.infer<typeof newEditionSchema>;
export type SpringLook = z.infer<typeof springLookSchema>;
export type NewSpringLook = z.input<typeof newSpringLookSchema>;
export type OwnerLink = z.infer<typeof ownerLinkSchema>;
export type ReportData = z.infer<typeof reportDataSchema>;
