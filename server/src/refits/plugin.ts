import {
  adoptSchema,
  newPricesSchema,
  newRefitEntrySchema,
  ownerAnswerSchema,
  ownerOffersSchema,
  priceListSchema,
  problemSchema,
  type RefitKitOnFile,
  refitKitSchema,
  refitListSchema,
  refitSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { beside } from "../beside.ts";
import type { KitTask } from "./kit.worker.ts";
import { listPrices, takePrices } from "./prices.ts";
import { openLink } from "../reports/links.ts";
import {
  adoptPieces,
  answerOffer,
  offersOf,
  refitBy,
  refitMaps,
  refitsOfUnit,
  takeRefitEntry,
} from "./store.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byRefit = byUnit.extend({ refitId: z.uuid("not a refit's id") });

const byToken = z.strictObject({ token: z.string().min(1).max(200) });
const OWNER_LOOKS = { max: 120, timeWindow: "1 minute" };

const kits = beside<KitTask, RefitKitOnFile>(new URL("kit.worker.ts", import.meta.url));

const tags = ["refits"];

/** What an owner is offered, and answers, by the link to a report. */
const ownerOffers: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/owner/:token/offers",
    {
      config: { open: true, rateLimit: OWNER_LOOKS },
      schema: {
        tags,
        summary: "What an owner is offered by the link to a report",
        params: byToken,
        response: { 200: ownerOffersSchema, 410: problemSchema },
      },
    },
    async (request, reply) => {
      const { scope, link } = await openLink(app.db, request.params.token, new Date());
      const offers = await offersOf(scope, link.unitId, link.visitId);
      return reply.header("cache-control", "no-store").send({ offers });
    },
  );

  app.post(
    "/owner/:token/offers/:offerId",
    {
      config: { open: true, rateLimit: { ...OWNER_LOOKS, max: 20 } },
      schema: {
        tags,
        summary: "The owner's answer to an offer; sent twice, it is kept once",
        params: byToken.extend({ offerId: z.uuid("not an offer's id") }),
        body: ownerAnswerSchema,
        response: { 201: ownerOffersSchema, 404: problemSchema, 410: problemSchema },
      },
    },
    async (request, reply) => {
      const { scope, link } = await openLink(app.db, request.params.token, new Date());
      await answerOffer(scope, link.unitId, link.visitId, request.params.offerId, request.body);
      const offers = await offersOf(scope, link.unitId, link.visitId);
      return reply.code(201).header("cache-control", "no-store").send({ offers });
    },
  );
};

const workshopPrices: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/prices",
    {
      schema: {
        tags,
        summary: "The workshop's own prices, rolls and rest pieces",
        response: { 200: priceListSchema },
      },
    },
    async (request) => ({ lines: await listPrices(request.scope) }),
  );

  app.put(
    "/prices",
    {
      schema: {
        tags,
        summary: "A list of prices as CSV in the place of the one before; all of it or nothing",
        body: newPricesSchema,
        response: { 200: priceListSchema, 422: problemSchema },
      },
    },
    async (request) => takePrices(request.scope, request.body.text),
  );
};

/** Refits: maps that are not in force yet, judged, priced, installed piece by piece. */
export const refitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.addHook("onClose", kits.end);

  app.get(
    "/units/:unitId/refits",
    {
      schema: {
        tags,
        summary: "Refits of a unit, newest first",
        params: byUnit,
        response: { 200: refitListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ refits: await refitsOfUnit(request.scope, request.params.unitId) }),
  );

  app.get(
    "/units/:unitId/refits/:refitId",
    {
      schema: {
        tags,
        summary: "A refit: its drawing, and what was said and done about it",
        params: byRefit,
        response: { 200: refitSchema, 404: problemSchema },
      },
    },
    async (request) => refitBy(request.scope, request.params.unitId, request.params.refitId),
  );

  app.get(
    "/units/:unitId/refits/:refitId/kit",
    {
      schema: {
        tags,
        summary: "What a refit takes: pipe with its cut list, fittings, joints, prices, tools",
        params: byRefit,
        response: { 200: refitKitSchema, 404: problemSchema, 422: problemSchema },
      },
    },
    async (request) => {
      const { unitId, refitId } = request.params;
      const { today, proposed } = await refitMaps(request.scope, unitId, refitId);
      return kits.run({ today, proposed, prices: await listPrices(request.scope) });
    },
  );

  app.post(
    "/units/:unitId/refits/:refitId",
    {
      schema: {
        tags,
        summary:
          "Add an entry of a refit: made, drawn, work, hold point, offered, withdrawn; sent twice, it is kept once",
        params: byRefit,
        body: newRefitEntrySchema,
        response: { 201: refitSchema, 404: problemSchema, 409: problemSchema, 422: problemSchema },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await takeRefitEntry(
            request.scope,
            request.me.person,
            request.params.unitId,
            request.params.refitId,
            request.body,
          ),
        ),
  );

  app.post(
    "/units/:unitId/refits/:refitId/adopt",
    {
      schema: {
        tags,
        summary: "Pieces of a refit are installed: they stand in the unit's own map from now on",
        params: byRefit,
        body: adoptSchema,
        response: { 201: refitSchema, 404: problemSchema, 409: problemSchema, 422: problemSchema },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await adoptPieces(
            request.scope,
            request.me.person,
            request.params.unitId,
            request.params.refitId,
            request.body,
          ),
        ),
  );

  await app.register(ownerOffers);
  await app.register(workshopPrices);
};
