import {
  mapRevisionSchema,
  newMapRevisionSchema,
  problemSchema,
  revisionListSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { getMap, listRevisions } from "../register/maps.ts";
import { saveMap } from "./save.ts";

const byId = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byRevision = byId.extend({ revision: z.coerce.number().int().min(1).max(1_000_000) });

export const mapsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/map",
    {
      schema: {
        tags: ["maps"],
        summary: "A unit's water map, newest revision",
        params: byId,
        response: { 200: mapRevisionSchema, 404: problemSchema },
      },
    },
    async (request) => getMap(request.scope, request.params.unitId),
  );

  app.get(
    "/units/:unitId/map/revisions",
    {
      schema: {
        tags: ["maps"],
        summary: "Every revision of a unit's map: who, when, why",
        params: byId,
        response: { 200: revisionListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ revisions: await listRevisions(request.scope, request.params.unitId) }),
  );

  app.get(
    "/units/:unitId/map/:revision",
    {
      schema: {
        tags: ["maps"],
        summary: "One revision of a unit's water map",
        params: byRevision,
        response: { 200: mapRevisionSchema, 404: problemSchema },
      },
    },
    async (request) => getMap(request.scope, request.params.unitId, request.params.revision),
  );

  app.post(
    "/units/:unitId/map",
    {
      schema: {
        tags: ["maps"],
        summary: "Save a water map as the unit's next revision",
        params: byId,
        body: newMapRevisionSchema,
        response: {
          201: mapRevisionSchema,
          404: problemSchema,
          409: problemSchema,
          422: problemSchema,
        },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await saveMap(request.scope, request.params.unitId, request.me.person.id, request.body),
        ),
  );
};
