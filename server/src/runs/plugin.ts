import {
  clockListSchema,
  newRunSchema,
  problemSchema,
  runNewsSchema,
  runNewsSearchSchema,
  runSchema,
  sendEventsSchema,
  sentEventsSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { endPlanWorkers } from "../run-log/old-form.ts";
import { beginRun, getRun, openClocks, runNews } from "./store.ts";
import { takeEvents } from "./take.ts";

// A plan of a large map with all its steps, and what is said after each of them.
const EVENTS_LIMIT_BYTES = 8 * 1024 * 1024;
// Less than this is the time that sending takes.
const CLOCK_DIFFERS_S = 90;

/** How far a device's clock is ahead, s; nothing where it does not say, or tells the time. */
const clockAhead = (sentAt: string | undefined, now: Date): number | null => {
  if (sentAt === undefined) return null;
  const aheadS = Math.round((Date.parse(sentAt) - now.getTime()) / 1000);
  return Math.abs(aheadS) < CLOCK_DIFFERS_S ? null : aheadS;
};

/** An event that was refused, or the request as a whole. */
const refusedSchema = z.union([sentEventsSchema, problemSchema]);

const byId = z.strictObject({ runId: z.uuid("not a run's id") });

/** Procedure runs and their append-only events. */
export const runsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.addHook("onClose", endPlanWorkers);

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
    async (request, reply) =>
      reply.code(201).send(await beginRun(request.scope, request.me.person, request.body)),
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

  app.get(
    "/clocks",
    {
      schema: {
        tags: ["runs"],
        summary: "The clocks of every open run, for whatever screen is open",
        response: { 200: clockListSchema },
      },
    },
    async (request) => ({ clocks: await openClocks(request.scope) }),
  );

  app.get(
    "/runs/:runId/news",
    {
      schema: {
        tags: ["runs"],
        summary: "What was added to a run since, asked often by whoever has it open",
        params: byId,
        querystring: runNewsSearchSchema,
        response: { 200: runNewsSchema, 404: problemSchema },
      },
    },
    async (request) => runNews(request.scope, request.params.runId, request.query.after),
  );

  app.post(
    "/runs/:runId/events",
    {
      bodyLimit: EVENTS_LIMIT_BYTES,
      schema: {
        tags: ["runs"],
        summary: "Add events to a run; the same event twice is one",
        description:
          "Events are taken in order, each judged on its own: one that cannot be is refused with its reason (status 409, or 422 for a reading that cannot be) and changes nothing; the others are kept.",
        params: byId,
        body: sendEventsSchema,
        response: {
          200: sentEventsSchema,
          404: problemSchema,
          409: refusedSchema,
          413: problemSchema,
          422: refusedSchema,
        },
      },
    },
    async (request, reply) => {
      const { events, form, sentAt } = request.body;
      const { person, workshop } = request.me;
      const sent = await takeEvents(
        request.scope,
        person,
        workshop.units,
        request.params.runId,
        events,
        {
          form,
          clockAheadS: clockAhead(sentAt, new Date()),
        },
      );
      const refused = sent.outcomes.find((o) => o.outcome === "refused");
      return reply
        .code(
          !refused
            ? 200
            : refused.code === "reading-impossible" ||
                refused.code === "too-hot" ||
                refused.code === "pressure"
              ? 422
              : 409,
        )
        .send(sent);
    },
  );
};
