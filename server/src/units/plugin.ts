import { newUnitSchema, problemSchema, unitListSchema, unitRunsSchema, unitSchema } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { Refused } from "../errors.ts";
import { units } from "../schema.ts";
import { addUnit } from "./add.ts";
import { getUnit, listUnitRuns, listUnits } from "./store.ts";

const byId = z.strictObject({ unitId: z.uuid("not a unit's id") });

export const unitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units",
    { schema: { tags: ["units"], summary: "Every unit of the workshop", response: { 200: unitListSchema } } },
    async (request) => ({
      units: await listUnits(request.scope),
    }),
  );

  app.post(
    "/units",
    {
      schema: {
        tags: ["units"],
        summary: "Take in a unit with the first revision of its map",
        body: newUnitSchema,
        response: { 201: unitSchema, 404: problemSchema, 422: problemSchema },
      },
    },
    async (request, reply) => reply.code(201).send(await addUnit(request.scope, request.me.person.id, request.body)),
  );

  app.get(
    "/units/:unitId",
    { schema: { tags: ["units"], summary: "One unit", params: byId, response: { 200: unitSchema, 404: problemSchema } } },
    async (request) => getUnit(request.scope, request.params.unitId),
  );

  app.get(
    "/units/:unitId/runs",
    {
      schema: {
        tags: ["units"],
        summary: "The runs done on a unit, newest first",
        params: byId,
        response: { 200: unitRunsSchema, 404: problemSchema },
      },
    },
    async (request) => ({ runs: await listUnitRuns(request.scope, request.params.unitId) }),
  );

  app.post(
    "/units/:unitId/in-use",
    {
      schema: {
        tags: ["units"],
        summary: "The unit has been filled again: its last record no longer says what it holds",
        params: byId,
        response: { 200: unitSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) => {
      const unit = await getUnit(request.scope, request.params.unitId);
      if (unit.state.kind === "in work") throw new Refused("conflict", "A run is open on this unit. Close it first.");
      await request.scope.change(units, { inUseSince: new Date() }, eq(units.id, unit.id));
      return getUnit(request.scope, unit.id);
    },
  );
};
