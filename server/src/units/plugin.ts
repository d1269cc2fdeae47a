import {
  mergeSchema,
  newUnitSchema,
  problemSchema,
  unitChangeSchema,
  unitListSchema,
  unitRunsSchema,
  unitSchema,
  unitSearchSchema,
} from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { Refused } from "../errors.ts";
import { units } from "../schema/index.ts";
import { addUnit, changeUnit } from "./add.ts";
import { mergeUnits } from "./merge.ts";
import { findUnits, getUnit, listUnitRuns } from "./store.ts";

const byId = z.strictObject({ unitId: z.uuid("not a unit's id") });

export const unitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units",
    {
      schema: {
        tags: ["units"],
        summary: "The register of units, a page at a time, by words: name, owner, phone, plate, hull number, place, part",
        querystring: unitSearchSchema,
        response: { 200: unitListSchema },
      },
    },
    async (request) => findUnits(request.scope, request.query),
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

  app.patch(
    "/units/:unitId",
    {
      schema: {
        tags: ["units"],
        summary: "Change what is written of a unit beside its map",
        params: byId,
        body: unitChangeSchema,
        response: { 200: unitSchema, 404: problemSchema },
      },
    },
    async (request) => changeUnit(request.scope, request.params.unitId, request.body),
  );

  app.post(
    "/units/:unitId/merge",
    {
      schema: {
        tags: ["units"],
        summary: "Put a double together with this unit; nothing of it is lost",
        params: byId,
        body: mergeSchema,
        response: { 200: unitSchema, 404: problemSchema, 409: problemSchema, 422: problemSchema },
      },
    },
    async (request) => mergeUnits(request.scope, request.me.person.id, request.params.unitId, request.body.double),
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
      if (unit.state.kind === "in-work") throw new Refused("conflict", "A run is open on this unit. Close it first.");
      await request.scope.change(units, { inUseSince: new Date(), holdsToC: 0 }, eq(units.id, unit.id));
      return getUnit(request.scope, unit.id);
    },
  );
};
