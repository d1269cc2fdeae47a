import { lookListSchema, newLooksSchema, problemSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { addLooks, newestLooks } from "./store.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });

/** Looks at the points of a unit's walk-round: only ever added. */
export const looksPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/looks",
    {
      schema: {
        tags: ["looks"],
        summary:
          "The newest look at each point of a unit's walk-round; of one point, every look at it, newest first",
        params: byUnit,
        querystring: z.strictObject({ key: z.string().min(1).max(240).optional() }),
        response: { 200: lookListSchema, 404: problemSchema },
      },
    },
    async (request) => ({
      looks: await newestLooks(request.scope, request.params.unitId, request.query.key),
    }),
  );

  app.post(
    "/units/:unitId/looks",
    {
      schema: {
        tags: ["looks"],
        summary: "Keep what was found at points of the walk-round; what is sent twice is kept once",
        params: byUnit,
        body: newLooksSchema,
        response: { 201: lookListSchema, 404: problemSchema },
      },
    },
    async (request, reply) =>
      reply.code(201).send({
        looks: await addLooks(
          request.scope,
          request.me.person.id,
          request.params.unitId,
          request.body.looks,
        ),
      }),
  );
};
