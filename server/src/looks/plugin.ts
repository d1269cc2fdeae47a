import { lookListSchema, newLooksSchema, type PointLook, problemSchema } from "@uppershed/contract";
import { and, eq, inArray, sql } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { notFound } from "../errors.ts";
import { looks, people, units } from "../schema.ts";
import type { Scope } from "../scope.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const MOST_READ = 20_000;

type LookRow = typeof looks.$inferSelect;

const told = async (scope: Scope, shown: readonly LookRow[]): Promise<PointLook[]> => {
  if (shown.length === 0) return [];
  const writers = await scope.find(people, inArray(people.id, [...new Set(shown.map((l) => l.personId))]));
  return shown.map((l) => ({
    id: l.id,
    key: l.key,
    partId: l.partId,
    point: l.point,
    mark: l.mark,
    note: l.note,
    readings: l.readings,
    at: l.at.toISOString(),
    by: writers.find((p) => p.id === l.personId)?.name ?? "",
  }));
};

/** The newest look at each point of a unit, or every look at one of them. */
const newestLooks = async (scope: Scope, unitId: string, key?: string): Promise<PointLook[]> => {
  const where = key === undefined ? eq(looks.unitId, unitId) : and(eq(looks.unitId, unitId), eq(looks.key, key));
  const rows = await scope.find(looks, where, { order: sql`${looks.at} desc, ${looks.id}`, limit: MOST_READ });
  if (key !== undefined) return told(scope, rows);
  const newest = new Map<string, LookRow>();
  for (const row of rows) if (!newest.has(row.key)) newest.set(row.key, row);
  return told(scope, [...newest.values()]);
};

const unitOf = async (scope: Scope, unitId: string): Promise<void> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
};

/** Looks at the points of a unit's walk-round: only ever added. */
export const looksPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/looks",
    {
      schema: {
        tags: ["looks"],
        summary: "The newest look at each point of a unit's walk-round; of one point, every look at it, newest first",
        params: byUnit,
        querystring: z.strictObject({ key: z.string().min(1).max(240).optional() }),
        response: { 200: lookListSchema, 404: problemSchema },
      },
    },
    async (request) => {
      await unitOf(request.scope, request.params.unitId);
      return { looks: await newestLooks(request.scope, request.params.unitId, request.query.key) };
    },
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
    async (request, reply) => {
      const { unitId } = request.params;
      await unitOf(request.scope, unitId);
      await request.scope.together(async (scope) => {
        const sent = [...new Map(request.body.looks.map((l) => [l.id, l])).values()];
        const known = await scope.find(
          looks,
          inArray(
            looks.id,
            sent.map((l) => l.id),
          ),
        );
        const fresh = sent.filter((l) => !known.some((k) => k.id === l.id));
        await scope.add(
          looks,
          fresh.map((l) => ({ ...l, at: new Date(l.at), unitId, personId: request.me.person.id })),
        );
      });
      return reply.code(201).send({ looks: await newestLooks(request.scope, unitId) });
    },
  );
};
