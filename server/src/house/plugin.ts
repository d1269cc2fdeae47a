import {
  kitChangeSchema,
  kitListSchema,
  newKitItemSchema,
  newPlaceSchema,
  newRulesSchema,
  placeChangeSchema,
  placeListSchema,
  problemSchema,
  rulesChangedSchema,
  rulesSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { addKit, changeKit, listKit } from "./kit.ts";
import { addPlace, changePlace, listPlaces } from "./places.ts";
import { changeRules, listRules } from "./rules.ts";

const refusals = { 400: problemSchema, 404: problemSchema, 409: problemSchema };

/** House rules, places, and what the workshop owns. */
export const housePlugin: FastifyPluginAsyncZod = async (app) => {
  const tags = ["house"];

  app.get(
    "/rules",
    {
      schema: {
        tags,
        summary: "The house rules in force, and those before",
        response: { 200: rulesSchema },
      },
    },
    async (request) => listRules(request.scope),
  );

  app.post(
    "/rules",
    {
      schema: {
        tags,
        summary: "Change the house rules: a new revision, or one that waits for a countersign",
        body: newRulesSchema,
        response: { 200: rulesChangedSchema, ...refusals },
      },
    },
    async (request) => changeRules(request.scope, request.me.person, request.body),
  );

  app.get(
    "/places",
    { schema: { tags, summary: "Where units stand", response: { 200: placeListSchema } } },
    async (request) => ({ places: await listPlaces(request.scope) }),
  );

  app.post(
    "/places",
    {
      schema: {
        tags,
        summary: "Add a place",
        body: newPlaceSchema,
        response: { 200: placeListSchema, ...refusals },
      },
    },
    async (request) => ({ places: await addPlace(request.scope, request.body) }),
  );

  app.patch(
    "/places/:placeId",
    {
      schema: {
        tags,
        summary: "Change a place, or give it up",
        params: z.strictObject({ placeId: z.uuid("not a place's id") }),
        body: placeChangeSchema,
        response: { 200: placeListSchema, ...refusals },
      },
    },
    async (request) => ({
      places: await changePlace(request.scope, request.params.placeId, request.body),
    }),
  );

  app.get(
    "/kit",
    {
      schema: {
        tags,
        summary: "Products, bottles, instruments and tools of the workshop",
        response: { 200: kitListSchema },
      },
    },
    async (request) => ({ kit: await listKit(request.scope) }),
  );

  app.post(
    "/kit",
    {
      schema: {
        tags,
        summary: "Add a thing to the kit",
        body: newKitItemSchema,
        response: { 200: kitListSchema, ...refusals },
      },
    },
    async (request) => ({ kit: await addKit(request.scope, request.body) }),
  );

  app.patch(
    "/kit/:kitId",
    {
      schema: {
        tags,
        summary: "Change a thing in the kit, or give it up",
        params: z.strictObject({ kitId: z.uuid("not a thing's id") }),
        body: kitChangeSchema,
        response: { 200: kitListSchema, ...refusals },
      },
    },
    async (request) => ({
      kit: await changeKit(request.scope, request.params.kitId, request.body),
    }),
  );
};
