import { LOOK_MARKS, moment, oneOfList } from "@uppershed/core/inspection";
import { z } from "zod";
import { visitId } from "./ids.ts";

const newLookSchema = z.strictObject({
  /** Made on the device, so that what is sent twice is kept once. */
  id: z.uuid(),
  /** The point's key on the walk-round. */
  key: z.string().min(1).max(240),
  partId: z.string().max(120).nullable(),
  /** Which point it is, whatever it is called; a device of before leaves it out and keys by the words. */
  pointId: z.string().min(1).max(240).optional(),
  /** The point in words, as it was shown. */
  point: z.string().min(1).max(400),
  mark: oneOfList(LOOK_MARKS),
  note: z.string().trim().max(1000).default(""),
  /** Figures taken there, SI. */
  readings: z.array(z.number().min(-1000).max(1e9)).max(6).default([]),
  /** When it was looked at, by the device. */
  at: moment,
  visitId: visitId.nullable().default(null),
});

export const newLooksSchema = z.strictObject({
  looks: z.array(newLookSchema).min(1, "nothing was looked at").max(200),
});

export const lookSchema = z.object({
  id: z.uuid(),
  key: z.string(),
  partId: z.string().nullable(),
  pointId: z.string(),
  point: z.string(),
  mark: z.enum(LOOK_MARKS),
  note: z.string(),
  readings: z.array(z.number()),
  at: z.iso.datetime(),
  by: z.string(),
  visitId: visitId.nullable(),
});

/** The newest look at each point. */
export const lookListSchema = z.object({ looks: z.array(lookSchema) });

export type PointLook = z.infer<typeof lookSchema>;
export type NewLook = z.input<typeof newLookSchema>;
