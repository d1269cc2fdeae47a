import {
  inUseSchema,
  mergeSchema,
  newUnitSchema,
  problemSchema,
  standingSchema,
  standingSearchSchema,
  unitChangeSchema,
  unitListSchema,
  tookElsewhereSchema,
  unitRunsSchema,
  unitSchema,
  unitSearchSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { addUnit, changeUnit } from "./add.ts";
import { refuseHalfWay } from "../refits/half-way.ts";
import { putInUse, tellStanding } from "../standing/in-use.ts";
import { waitToMerge } from "../house/merging.ts";
import { mergeUnits } from "./merge.ts";
import { findUnits, getUnit, listUnitRuns, tookElsewhere } from "../register/units.ts";

const byId = z.strictObject({ unitId: z.uuid("not a unit's id") });

export const unitsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units",
    {
      schema: {
        tags: ["units"],
        summary:
          "The register of units, a page at a time, by words: name, owner, phone, plate, hull number, place, part",
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
    async (request, reply) =>
      reply.code(201).send(await addUnit(request.scope, request.me.person.id, request.body)),
  );

  app.get(
    "/units/:unitId",
    {
      schema: {
        tags: ["units"],
        summary: "One unit",
        params: byId,
        response: { 200: unitSchema, 404: problemSchema },
      },
    },
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
    async (request) => {
      const { scope, me, params, body } = request;
      const [kept, gone] = [await getUnit(scope, params.unitId), await getUnit(scope, body.double)];
      await waitToMerge(scope, me.person, {
        kind: "merge-unit",
        keptId: kept.id,
        doubleId: gone.id,
        what: `Put ${gone.name} together with ${kept.name}, which stays`,
      });
      return mergeUnits(scope, me.person.id, params.unitId, body.double);
    },
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

  app.get(
    "/units/:unitId/took",
    {
      schema: {
        tags: ["units"],
        summary: "What the workshop's other units took of antifreeze, beside what was worked out",
        params: byId,
        response: { 200: tookElsewhereSchema, 404: problemSchema },
      },
    },
    async (request) => ({ others: await tookElsewhere(request.scope, request.params.unitId) }),
  );

  app.post(
    "/units/:unitId/in-use",
    {
      schema: {
        tags: ["units"],
        summary:
          "The unit has been filled again: its last record no longer says what it holds; sent twice, it is once",
        params: byId,
        body: inUseSchema,
        response: { 200: unitSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) => {
      await refuseHalfWay(request.scope, request.params.unitId);
      return putInUse(request.scope, request.me.person.id, request.params.unitId, request.body);
    },
  );

  app.get(
    "/units/:unitId/standing",
    {
      schema: {
        tags: ["units"],
        summary:
          "How the unit stands, with what its picture needs: what every cell of today's map is known to hold",
        params: byId,
        querystring: standingSearchSchema,
        response: { 200: standingSchema, 404: problemSchema },
      },
    },
    async (request) => tellStanding(request.scope, request.params.unitId, request.query.asOf),
  );
};
