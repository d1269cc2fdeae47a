import { SPRING_MARKS } from "@uppershed/core";
import { z } from "zod";
import { findingSchema } from "./findings.ts";
import { lookSchema } from "./looks.ts";
import { pictureSchema } from "./pictures.ts";
import { snapshotSchema } from "./visits.ts";

/** The spring look at other systems, newest mark of each item. */
export const springLookSchema = z.object({
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
  mark: z.enum(SPRING_MARKS),
  note: z.string().trim().max(300).default(""),
  at: z.iso.datetime(),
  visitId: z.uuid().nullable().default(null),
});

export const ownerLinkSchema = z.object({
  id: z.uuid(),
  visitId: z.uuid(),
  at: z.iso.datetime(),
  by: z.string(),
  expiresAt: z.iso.datetime(),
  withdrawnAt: z.iso.datetime().nullable(),
  /** The path of the owner's page; none once it is withdrawn or over. */
  path: z.string().nullable(),
});
export const ownerLinkListSchema = z.object({ links: z.array(ownerLinkSchema) });
export const newOwnerLinkSchema = z.strictObject({ days: z.number().int().min(1).max(400).default(60) });

/** Everything a report is made from: the same for the screen, for paper and for the owner. Made with core's buildReport. */
export const reportDataSchema = z.object({
  workshop: z.object({ name: z.string(), place: z.string(), units: z.enum(["us", "metric", "imperial"]) }),
  unit: z.object({
    name: z.string(),
    craft: z.string(),
    mark: z.string(),
    owner: z.string(),
    holdsToC: z.number().nullable(),
    stateKind: z.string(),
    stateAt: z.iso.datetime().nullable(),
    weakestPart: z.string().nullable(),
  }),
  visit: z.object({
    id: z.uuid(),
    startsAt: z.iso.datetime(),
    arrivedAt: z.iso.datetime().nullable(),
    goneAt: z.iso.datetime().nullable(),
    asked: z.string(),
    ownerSaid: z.string(),
  }),
  mapRevision: z.number().int(),
  map: z.unknown(),
  looks: z.array(lookSchema),
  findings: z.array(findingSchema),
  snapshots: z.array(snapshotSchema),
  pictures: z.array(pictureSchema),
  /** When the owner's link ends, where this was asked for by one. */
  expiresAt: z.iso.datetime().nullable(),
});

export type SpringLook = z.infer<typeof springLookSchema>;
export type NewSpringLook = z.input<typeof newSpringLookSchema>;
export type OwnerLink = z.infer<typeof ownerLinkSchema>;
export type ReportData = z.infer<typeof reportDataSchema>;
