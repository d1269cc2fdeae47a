import { moment, revisionNumber } from "@uppershed/core/inspection";
import {
  habitsSchema,
  limitSchema,
  refitBodySchema,
  TAKEN_OUT,
  WORK_STATES,
} from "@uppershed/core/refit";
import { z } from "zod";
import { unitId } from "./ids.ts";

/** Refits of a unit: maps that are not in force yet, and what was said and done about them. */

const said = { at: z.string(), by: z.string() };

const answerSchema = z.object({
  at: z.string(),
  who: z.string(),
  answer: z.enum(["do-it", "later", "no"]),
});
const offerSchema = z.object({
  ...said,
  id: z.uuid(),
  visitId: z.string(),
  lines: z.array(z.string()).readonly(),
  cost: z.number().optional(),
  answer: answerSchema.optional(),
});

/** What an owner is offered by the link to a report: the words and both maps as they were. */
export const ownerOffersSchema = z.object({
  offers: z.array(
    offerSchema.extend({ name: z.string(), today: z.unknown(), proposed: z.unknown() }),
  ),
});
export const ownerAnswerSchema = z.strictObject({
  id: z.uuid(),
  answer: z.enum(["do-it", "later", "no"]),
  who: z.string().trim().min(1, "say who answers").max(120),
});
export type OwnerOffers = z.infer<typeof ownerOffersSchema>;
export type OwnerOfferAnswer = z.infer<typeof ownerAnswerSchema>;

const refitLineSchema = z.object({
  id: z.uuid(),
  unitId,
  name: z.string(),
  at: z.iso.datetime(),
  changedAt: z.iso.datetime(),
  withdrawnAt: z.iso.datetime().nullable(),
  /** Panels and walls that may not be closed yet, with the parts and pipes behind them. */
  heldOpen: z.array(z.object({ what: z.string(), at: z.array(z.string()).readonly() })).readonly(),
});
export const refitListSchema = z.object({ refits: z.array(refitLineSchema) });

export const refitSchema = refitLineSchema.extend({
  unitName: z.string(),
  /** How the unit's map stands now. */
  mapRevision: z.number().int(),
  /** The proposal as it was last drawn, and the unit's map that it was drawn from. */
  document: z.unknown(),
  base: z.unknown(),
  refit: z.object({
    name: z.string(),
    from: z.enum(["map", "finding", "family", "sister"]),
    findingId: z.string().optional(),
    basedOn: z.number().int(),
    madeAt: z.string(),
    madeBy: z.string(),
    habits: habitsSchema.optional(),
    limits: z.array(limitSchema).readonly().optional(),
    cost: z.number().optional(),
    hour: z.number().optional(),
    work: z.record(
      z.string(),
      z.object({ ...said, state: z.enum(WORK_STATES), testId: z.string().optional() }),
    ),
    bedded: z
      .array(
        z.object({
          ...said,
          of: z.array(z.string()).readonly(),
          product: z.string(),
          until: z.string(),
          temperatureC: z.number(),
        }),
      )
      .readonly(),
    holdPoints: z
      .array(z.object({ what: z.string(), at: z.array(z.string()).readonly() }))
      .readonly(),
    takenOut: z.record(z.string(), z.enum(TAKEN_OUT)),
    offers: z.array(offerSchema).readonly(),
    adopted: z
      .array(
        z.object({
          ...said,
          pieces: z.array(z.string()).readonly(),
          of: z.array(z.string()).readonly(),
          revision: z.number().int(),
        }),
      )
      .readonly(),
    proved: z.record(
      z.string(),
      z.object({
        ...said,
        ok: z.boolean(),
        flowM3S: z.number().optional(),
        forecastM3S: z.number().optional(),
      }),
    ),
    notes: z.array(z.object({ ...said, text: z.string() })).readonly(),
    withdrawn: z.object({ ...said, why: z.string() }).optional(),
  }),
  /** Entries that are kept and have no effect, each with its reason. */
  withoutEffect: z.array(z.object({ id: z.uuid(), type: z.string(), problem: z.string() })),
});

/** An entry of a refit: the first one makes it. What is installed is said by itself. */
export const newRefitEntrySchema = z.strictObject({
  /** Made on the device: sent twice, it is kept once. */
  id: z.uuid(),
  at: moment,
  body: refitBodySchema,
});

export const adoptSchema = z.strictObject({
  id: z.uuid(),
  at: moment,
  pieces: z.array(z.string().min(1).max(200)).min(1, "choose what is installed").max(600),
  /** The unit's map as it was looked at. */
  basedOn: revisionNumber,
});

const priceLineSchema = z.object({
  key: z.string(),
  label: z.string(),
  price: z.number().nullable(),
  rollM: z.number().nullable(),
  restsM: z.array(z.number()).readonly(),
});
export const priceListSchema = z.object({ lines: z.array(priceLineSchema) });
export const newPricesSchema = z.strictObject({ text: z.string().max(2_000_000) });

const pieceSchema = z.object({ id: z.string(), name: z.string(), lengthM: z.number() });
/** What a refit takes, laid out and priced. */
export const refitKitSchema = z.object({
  pipes: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      colour: z.string(),
      lengthM: z.number(),
      plan: z.object({
        laid: z.array(
          z.object({
            lengthM: z.number(),
            isRest: z.boolean(),
            leftM: z.number(),
            pieces: z.array(pieceSchema),
          }),
        ),
        bought: z.number(),
        atLeast: z.number(),
        tooLong: z.array(pieceSchema),
      }),
    }),
  ),
  lines: z.array(
    z.object({
      key: z.string(),
      label: z.string(),
      count: z.number(),
      unit: z.enum(["piece", "roll"]),
      why: z.string(),
      each: z.number().nullable(),
      sum: z.number().nullable(),
    }),
  ),
  sum: z.number(),
  missing: z.array(z.string()),
  tools: z.array(z.string()),
  out: z.array(z.object({ id: z.string(), label: z.string() })),
  openEnds: z.array(z.string()),
  clashes: z.array(z.string()),
});

export type RefitLine = z.infer<typeof refitLineSchema>;
export type RefitOnFile = z.infer<typeof refitSchema>;
export type NewRefitEntry = z.input<typeof newRefitEntrySchema>;
export type Adoption = z.input<typeof adoptSchema>;
export type PriceList = z.infer<typeof priceListSchema>;
export type RefitKitOnFile = z.infer<typeof refitKitSchema>;
