import { newRunSchema, problemSchema, runSchema, sendEventsSchema, sentEventsSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { beginRun, getRun, takeEvents } from "./store.ts";

/** An event that was refused, or the request as a whole. */
const refusedSchema = z.union([sentEventsSchema, problemSchema]);

const byId = z.strictObject({ runId: z.uuid("not a run's id") });

/** Procedure runs and their append-only events. */
export const runsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.post(
    "/runs",
    {
      schema: {
        tags: ["runs"],
        summary: "Start a run on a unit",
        body: newRunSchema,
        response: { 201: runSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request, reply) => reply.code(201).send(await beginRun(request.scope, request.me.person.id, request.body)),
  );

  app.get(
    "/runs/:runId",
    {
      schema: {
        tags: ["runs"],
        summary: "A run with its map, setup and events",
        params: byId,
        response: { 200: runSchema, 404: problemSchema },
      },
    },
    async (request) => getRun(request.scope, request.params.runId),
  );

  app.post(
    "/runs/:runId/events",
    {
      schema: {
        tags: ["runs"],
        summary: "Add events to a run; the same event twice is one",
        description:
          "Events are taken in order until one is refused (status 409, or 422 for a reading that cannot be); those before it are kept, it and those after it change nothing.",
        params: byId,
        body: sendEventsSchema,
        response: { 200: sentEventsSchema, 404: problemSchema, 409: refusedSchema, 422: refusedSchema },
      },
    },
    async (request, reply) => {
      const sent = await takeEvents(request.scope, request.me.person, request.me.workshop.units, request.params.runId, request.body.events);
      const refused = sent.outcomes.find((o) => o.outcome === "refused");
      return reply.code(!refused ? 200 : refused.code === "reading-impossible" || refused.code === "too-hot" ? 422 : 409).send(sent);
    },
  );
};
