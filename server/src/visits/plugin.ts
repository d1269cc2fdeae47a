import {
  newSnapshotSchema,
  newVisitSchema,
  problemSchema,
  snapshotListSchema,
  visitChangeSchema,
  visitListSchema,
  visitSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { getVisit, listSnapshots, listVisits, snapshotsOfUnit } from "../calendar/read.ts";
import { addSnapshot, bookVisit, changeVisit } from "./write.ts";

const byId = z.strictObject({ visitId: z.uuid("not a visit's id") });

/** Visits (work orders): the bench's days. */
export const visitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/visits",
    {
      schema: {
        tags: ["visits"],
        summary: "Visits that start between two moments, in working order",
        querystring: z.strictObject({
          from: z.iso.datetime(),
          to: z.iso.datetime(),
          unit: z.uuid().optional(),
          /** Also those from before that have not gone yet. */
          here: z.enum(["yes", "no"]).default("no"),
        }),
        response: { 200: visitListSchema, 404: problemSchema },
      },
    },
    async (request) => {
      const { from, to, unit, here } = request.query;
      return {
        visits: await listVisits(request.scope, {
          from: new Date(from),
          to: new Date(to),
          unit,
          here: here === "yes",
        }),
      };
    },
  );

  app.post(
    "/visits",
    {
      schema: {
        tags: ["visits"],
        summary: "Book a visit",
        body: newVisitSchema,
        response: { 201: visitSchema, 404: problemSchema },
      },
    },
    async (request, reply) => reply.code(201).send(await bookVisit(request.scope, request.body)),
  );

  app.get(
    "/visits/:visitId",
    {
      schema: {
        tags: ["visits"],
        summary: "One visit",
        params: byId,
        response: { 200: visitSchema, 404: problemSchema },
      },
    },
    async (request) => getVisit(request.scope, request.params.visitId),
  );

  app.patch(
    "/visits/:visitId",
    {
      schema: {
        tags: ["visits"],
        summary: "Change a visit: how far it is, what it waits for, when and what",
        params: byId,
        body: visitChangeSchema,
        response: { 200: visitSchema, 400: problemSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) =>
      changeVisit(
        request.scope,
        request.params.visitId,
        request.me.person.id,
        request.body,
        new Date(),
      ),
  );

  app.get(
    "/visits/:visitId/snapshots",
    {
      schema: {
        tags: ["visits"],
        summary: "How everything stood: as found, as left",
        params: byId,
        response: { 200: snapshotListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ snapshots: await listSnapshots(request.scope, request.params.visitId) }),
  );

  app.get(
    "/units/:unitId/snapshots",
    {
      schema: {
        tags: ["visits"],
        summary: "How a unit stood on its visits, as found and as left, newest first",
        params: z.strictObject({ unitId: z.uuid("not a unit's id") }),
        response: { 200: snapshotListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ snapshots: await snapshotsOfUnit(request.scope, request.params.unitId) }),
  );

  app.post(
    "/visits/:visitId/snapshots",
    {
      schema: {
        tags: ["visits"],
        summary: "Keep how everything stands; what is sent twice is kept once",
        params: byId,
        body: newSnapshotSchema,
        response: {
          201: snapshotListSchema,
          404: problemSchema,
          409: problemSchema,
          422: problemSchema,
        },
      },
    },
    async (request, reply) =>
      reply.code(201).send({
        snapshots: await addSnapshot(
          request.scope,
          request.me.person.id,
          request.params.visitId,
          request.body,
        ),
      }),
  );
};
