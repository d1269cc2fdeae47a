import { newReadingsSchema, problemSchema, readingListSchema } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { notFound } from "../errors.ts";
import { units } from "../schema/index.ts";
import { visitOfUnit } from "../calendar/read.ts";
import { ofOldKey } from "./old-keys.ts";
import { keepReadings, listReadings } from "./store.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
/** Readings: measured values, followed over the years. */
export const readingsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/readings",
    {
      schema: {
        tags: ["readings"],
        summary: "The newest readings of a unit, or of one thing that is followed on it",
        params: byUnit,
        querystring: z.strictObject({ key: z.string().min(1).max(240).optional() }),
        response: { 200: readingListSchema, 404: problemSchema },
      },
    },
    async (request) => listReadings(request.scope, request.params.unitId, request.query.key),
  );

  app.post(
    "/units/:unitId/readings",
    {
      schema: {
        tags: ["readings"],
        summary: "Keep readings; what is sent twice is kept once",
        params: byUnit,
        body: newReadingsSchema,
        response: { 201: readingListSchema, 404: problemSchema },
      },
    },
    async (request, reply) => {
      const { unitId } = request.params;
      const sent = [...new Map(request.body.readings.map((r) => [r.id, r])).values()];
      await request.scope.together(async (tx) => {
        if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
        for (const visitId of new Set(sent.map((r) => r.visitId)))
          await visitOfUnit(tx, visitId, unitId);
        await keepReadings(
          tx,
          sent.map(({ key, ...r }) => ({
            ...r,
            ...(r.kind === undefined
              ? ofOldKey(key ?? "", r.partId ?? null)
              : { partId: r.partId, spot: r.spot, kind: r.kind }),
            at: new Date(r.at),
            unitId,
            personId: request.me.person.id,
          })),
        );
      });
      return reply.code(201).send(await listReadings(request.scope, unitId));
    },
  );
};
