import { newVisitSchema, problemSchema, type Visit, visitChangeSchema, visitListSchema, visitSchema } from "@uppershed/contract";
import { and, eq, gte, inArray, lt, sql } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { randomUUID } from "node:crypto";
import { z } from "zod";
import { notFound } from "../errors.ts";
import { runs, units, visits } from "../schema.ts";
import type { Scope } from "../scope.ts";

type VisitRow = typeof visits.$inferSelect;

const complete = async (scope: Scope, rows: VisitRow[]): Promise<Visit[]> => {
  if (rows.length === 0) return [];
  const found = await scope.find(
    units,
    inArray(
      units.id,
      rows.map((v) => v.unitId),
    ),
  );
  const done = await scope.find(
    runs,
    inArray(
      runs.visitId,
      rows.map((v) => v.id),
    ),
    { order: sql`${runs.startedAt}` },
  );
  return rows.map((visit) => {
    const unit = found.find((u) => u.id === visit.unitId);
    const run = done.findLast((r) => r.visitId === visit.id);
    return {
      id: visit.id,
      unitId: visit.unitId,
      unitName: unit?.name ?? "",
      craft: unit?.craft ?? "",
      startsAt: visit.startsAt.toISOString(),
      minutes: visit.minutes,
      bay: visit.bay,
      asked: visit.asked,
      ownerSaid: visit.ownerSaid,
      state: visit.state,
      run: run ? { id: run.id, summary: { ...run.summary, clocks: [...run.summary.clocks] } } : null,
    };
  });
};

const getVisit = async (scope: Scope, id: string): Promise<Visit> => {
  const [visit] = await complete(scope, await scope.find(visits, eq(visits.id, id)));
  if (!visit) throw notFound("visit");
  return visit;
};

/** Visits (work orders): the bench's days. */
export const visitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/visits",
    {
      schema: {
        tags: ["visits"],
        summary: "Visits that start between two moments, in working order",
        querystring: z.strictObject({ from: z.iso.datetime(), to: z.iso.datetime(), unit: z.uuid().optional() }),
        response: { 200: visitListSchema },
      },
    },
    async (request) => {
      const { from, to, unit } = request.query;
      const where = and(
        gte(visits.startsAt, new Date(from)),
        lt(visits.startsAt, new Date(to)),
        unit ? eq(visits.unitId, unit) : undefined,
      );
      return { visits: await complete(request.scope, await request.scope.find(visits, where, { order: sql`${visits.startsAt}` })) };
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
    async (request, reply) => {
      const unit = await request.scope.first(units, eq(units.id, request.body.unitId));
      if (!unit) throw notFound("unit");
      const id = randomUUID();
      await request.scope.add(visits, { ...request.body, id, startsAt: new Date(request.body.startsAt), state: "booked" });
      return reply.code(201).send(await getVisit(request.scope, id));
    },
  );

  app.patch(
    "/visits/:visitId",
    {
      schema: {
        tags: ["visits"],
        summary: "Change how far a visit is",
        params: z.strictObject({ visitId: z.uuid("not a visit's id") }),
        body: visitChangeSchema,
        response: { 200: visitSchema, 404: problemSchema },
      },
    },
    async (request) => {
      await getVisit(request.scope, request.params.visitId);
      await request.scope.change(visits, { state: request.body.state }, eq(visits.id, request.params.visitId));
      return getVisit(request.scope, request.params.visitId);
    },
  );
};
