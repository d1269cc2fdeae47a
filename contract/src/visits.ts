import {
  moment,
  oneOfList,
  revisionNumber,
  SNAPSHOT_KINDS,
  VISIT_STATES,
  WAITS,
} from "@uppershed/core/inspection";
import { turnSaidSchema } from "@uppershed/core/procedure";
import { z } from "zod";
import { runId, unitId, visitId } from "./ids.ts";
import { runSummarySchema } from "./runs.ts";

const jobs = z.array(z.string().min(1).max(40)).max(12);

export const visitSchema = z.object({
  id: visitId,
  unitId,
  unitName: z.string(),
  craft: z.string(),
  startsAt: z.iso.datetime(),
  minutes: z.number().int(),
  bay: z.string(),
  asked: z.string(),
  ownerSaid: z.string(),
  jobs: z.array(z.string()),
  state: z.enum(VISIT_STATES),
  waitingFor: z.enum([...WAITS, ""]),
  waitingUntil: z.iso.datetime().nullable(),
  arrivedAt: z.iso.datetime().nullable(),
  goneAt: z.iso.datetime().nullable(),
  /** The winterizing on it, done or half done, does not hold the winter low, or nobody can tell: it is not handed over before somebody accepts that. */
  short: z.object({ holdsToC: z.number().nullable(), winterLowC: z.number() }).nullable(),
  accepted: z.object({ who: z.string(), why: z.string() }).nullable(),
  /** Open findings of the unit that are unsafe. */
  unsafe: z.number().int(),
  run: z.object({ id: runId, summary: runSummarySchema }).nullable(),
});

export const visitListSchema = z.object({ visits: z.array(visitSchema) });

const lineup = z.record(z.string().max(120), z.string().max(40));

/** How everything stood or stands. */
export const snapshotSchema = z.object({
  id: z.uuid(),
  kind: z.enum(SNAPSHOT_KINDS),
  mapRevision: z.number().int(),
  /** How every control stood. */
  lineup,
  /** What stood otherwise than in use, in the words of the day. */
  turns: z.array(turnSaidSchema).readonly(),
  note: z.string(),
  at: z.iso.datetime(),
  by: z.string(),
});

export const newSnapshotSchema = z.strictObject({
  /** Made on the device. */
  id: z.uuid(),
  kind: oneOfList(SNAPSHOT_KINDS),
  mapRevision: revisionNumber,
  /** Controls that it does not name stood as in use on that revision. */
  lineup,
  note: z.string().trim().max(1000).default(""),
  at: moment,
});

export const snapshotListSchema = z.object({ snapshots: z.array(snapshotSchema) });

const fields = {
  startsAt: moment,
  minutes: z.number().int().min(5).max(10_080),
  bay: z.string().trim().max(40),
  asked: z.string().trim().min(1, "say what is asked for").max(300),
  ownerSaid: z.string().trim().max(1000),
  jobs,
};

export const newVisitSchema = z.strictObject({
  /** Made on the device: the same visit sent twice is one. */
  id: visitId,
  unitId,
  ...fields,
  bay: fields.bay.default(""),
  ownerSaid: fields.ownerSaid.default(""),
  jobs: jobs.default([]),
});

export const visitChangeSchema = z
  .strictObject({
    ...fields,
    state: oneOfList(VISIT_STATES),
    waitingFor: oneOfList(WAITS),
    waitingUntil: moment.nullable(),
    accepted: z.strictObject({
      who: z.string().trim().min(1, "say who accepts it").max(120),
      why: z.string().trim().min(1, "say why").max(300),
    }),
  })
  .partial()
  .refine((c) => c.waitingFor === undefined || c.state === "waiting", {
    message: "only a visit that waits waits for something",
  });

export type Visit = z.infer<typeof visitSchema>;
export type NewVisit = z.input<typeof newVisitSchema>;
export type VisitChange = z.input<typeof visitChangeSchema>;
export type Snapshot = z.infer<typeof snapshotSchema>;
export type NewSnapshot = z.input<typeof newSnapshotSchema>;
