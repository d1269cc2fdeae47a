import {
  changeLifeSchema,
  partListSchema,
  partSearchSchema,
  problemSchema,
  registeredPartSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { changeLife, findParts } from "./store.ts";

const byPart = z.strictObject({
  unitId: z.uuid("not a unit's id"),
  partId: z.string().min(1).max(60),
});
const whichItem = z.strictObject({ item: z.string().max(40).default("") });

export const partsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/parts",
    {
      schema: {
        tags: ["parts"],
        summary: "Parts of all units, by words, kind, age, condition or due date",
        querystring: partSearchSchema,
        response: { 200: partListSchema, 400: problemSchema },
      },
    },
    async (request) => findParts(request.scope, request.query),
  );

  app.patch(
    "/units/:unitId/parts/:partId",
    {
      schema: {
        tags: ["parts"],
        summary: "Change what the register keeps of a part, or of a piece of it",
        params: byPart,
        querystring: whichItem,
        body: changeLifeSchema,
        response: { 200: registeredPartSchema, 400: problemSchema, 404: problemSchema },
      },
    },
    async (request) =>
      changeLife(
        request.scope,
        request.me.person.id,
        request.params.unitId,
        request.params.partId,
        request.query.item,
        request.body,
      ),
  );
};
