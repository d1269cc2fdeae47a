import { KIT_KINDS, kitFactsSchema } from "@uppershed/core/kit";
import { moment } from "@uppershed/core/inspection";
import { ruleValuesSchema } from "@uppershed/core/rules";
import { z } from "zod";
import { placeId, runId, unitId } from "./ids.ts";

/** House rules, places, kit, and what waits for somebody's countersign. */

const ruleValues = z.record(z.string(), z.union([z.string(), z.number()]));

const ruleRevisionSchema = z.object({
  /** 0: as they were shipped. */
  revision: z.number().int(),
  values: ruleValues,
  by: z.string(),
  why: z.string(),
  at: moment.nullable(),
  /** Who countersigned it, where that was called for. */
  countersignedBy: z.string().nullable(),
});

export const rulesSchema = z.object({
  now: ruleRevisionSchema,
  /** The newest first, the one of now among them. */
  before: z.array(ruleRevisionSchema),
});

export const newRulesSchema = z.strictObject({
  /** Made on the device: the same change sent twice is one. */
  id: z.uuid(),
  /** The revision it was made from; another one in the meantime is a conflict. */
  basedOn: z.number().int().min(0).max(1_000_000),
  why: z.string().trim().min(1, "say why").max(300),
  values: ruleValuesSchema,
});

/** What became of a change: in force, or waiting for a countersign. */
export const rulesChangedSchema = rulesSchema.extend({ waits: z.boolean() });

export const PLACE_KINDS = ["yard", "bay", "mooring", "customers"] as const;
const dayOfYear = z
  .string()
  .regex(/^(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/u, "month and day: 10-14");

const placeFields = {
  name: z.string().trim().min(1, "give the place a name").max(80),
  kind: z.enum(PLACE_KINDS),
  winterLowC: z
    .number()
    .min(-50, "no antifreeze table reaches below −50 °C")
    .max(0, "the winter low is at or below freezing"),
  /** First and last frost of record, month and day. */
  firstFrost: dayOfYear.nullable(),
  lastFrost: dayOfYear.nullable(),
  /** Above the sea, m: for boiling and gauges. */
  heightM: z.number().min(-450).max(6000).nullable(),
  /** Where waste, antifreeze and chlorinated water may go. */
  wasteTo: z.string().trim().max(300),
  antifreezeTo: z.string().trim().max(300),
  chlorineTo: z.string().trim().max(300),
  /** Not used any more: it stays in the records. */
  givenUp: z.boolean(),
};

const placeSchema = z.object({ id: placeId, ...placeFields, units: z.number().int() });
export const placeListSchema = z.object({ places: z.array(placeSchema) });
export const newPlaceSchema = z.strictObject({
  id: placeId,
  ...placeFields,
  firstFrost: placeFields.firstFrost.default(null),
  lastFrost: placeFields.lastFrost.default(null),
  heightM: placeFields.heightM.default(null),
  wasteTo: placeFields.wasteTo.default(""),
  antifreezeTo: placeFields.antifreezeTo.default(""),
  chlorineTo: placeFields.chlorineTo.default(""),
  givenUp: placeFields.givenUp.default(false),
});
export const placeChangeSchema = z.strictObject(placeFields).partial();

export const newForecastSchema = z.strictObject({
  /** CSV: date, and "low C" or "low F". */
  text: z.string().min(1, "the file is empty").max(20_000),
});

const nightSchema = z.object({ day: z.string(), lowC: z.number() });
export const frostWatchSchema = z.object({
  /** Where units stand, each with the nights to come. */
  places: z.array(
    z.object({
      /** Null: the workshop itself, for units without a place. */
      placeId: placeId.nullable(),
      name: z.string(),
      /** Nobody has brought a forecast: it is made up. */
      simulated: z.boolean(),
      nights: z.array(nightSchema),
    }),
  ),
  /** Units that do not hold one of the nights, the one in the most danger first. */
  risks: z.array(
    z.object({
      unitId,
      unit: z.string(),
      place: z.string(),
      simulated: z.boolean(),
      holdsToC: z.number(),
      night: nightSchema,
      /** From nightfall until the first part is frozen through, h; null where nothing freezes through by itself. */
      hours: z.number().nullable(),
      part: z.string(),
      /** Minutes to make it safe, as its last winterizing took; null where none is known. */
      minutes: z.number().nullable(),
    }),
  ),
  /** How many more there are that were not looked at closely. */
  more: z.number().int(),
});

const kitFields = {
  name: z.string().trim().min(1, "give it a name").max(80),
  note: z.string().trim().max(300),
  givenUp: z.boolean(),
  /** How many are here: jugs, bottles, pieces. Null where nobody counts. */
  here: z.number().min(0).max(100_000).nullable(),
  /** With fewer than this it is to be bought. */
  least: z.number().min(0).max(100_000).nullable(),
};
const kitItemSchema = z.object({
  id: z.uuid(),
  ...kitFields,
  kind: z.enum(KIT_KINDS),
  facts: kitFactsSchema,
  /** What is to be said of it before it is used. */
  warnings: z.array(z.string()),
});
export const kitListSchema = z.object({ kit: z.array(kitItemSchema) });
export const newKitItemSchema = z.strictObject({
  id: z.uuid(),
  ...kitFields,
  note: kitFields.note.default(""),
  givenUp: kitFields.givenUp.default(false),
  here: kitFields.here.default(null),
  least: kitFields.least.default(null),
  facts: kitFactsSchema,
});
export const kitChangeSchema = z.strictObject({ ...kitFields, facts: kitFactsSchema }).partial();

/** What is asked for and waits until somebody else has countersigned it. */
export const PROPOSAL_KINDS = ["rules", "merge-unit", "merge-customer"] as const;
const proposalSchema = z.object({
  id: z.uuid(),
  kind: z.enum(PROPOSAL_KINDS),
  what: z.string(),
  by: z.string(),
  personId: z.uuid(),
  at: moment,
});
export const waitingSchema = z.object({
  proposals: z.array(proposalSchema),
  records: z.array(z.object({ runId, unitId, unit: z.string(), by: z.string(), closedAt: moment })),
});
export const proposalAnswerSchema = z.strictObject({ answer: z.enum(["countersign", "withdraw"]) });

export const eraseCustomerSchema = z.strictObject({
  /** Typed again, so that nobody is erased by a slip. */
  name: z.string().max(120),
});

export type Rules = z.infer<typeof rulesSchema>;
export type RulesChanged = z.infer<typeof rulesChangedSchema>;
export type RuleRevision = z.infer<typeof ruleRevisionSchema>;
export type NewRules = z.input<typeof newRulesSchema>;
export type Place = z.infer<typeof placeSchema>;
export type NewPlace = z.input<typeof newPlaceSchema>;
export type PlaceChange = z.infer<typeof placeChangeSchema>;
export type FrostWatch = z.infer<typeof frostWatchSchema>;
export type KitItem = z.infer<typeof kitItemSchema>;
export type NewKitItem = z.input<typeof newKitItemSchema>;
export type KitChange = z.input<typeof kitChangeSchema>;
export type Waiting = z.infer<typeof waitingSchema>;
export type Proposal = z.infer<typeof proposalSchema>;
export type ProposalKind = (typeof PROPOSAL_KINDS)[number];
