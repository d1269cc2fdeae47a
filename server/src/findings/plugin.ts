import {
  findingListSchema,
  findingSchema,
  findingSearchSchema,
  newFindingEntrySchema,
  problemSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { findFindings, findingsOfUnit } from "./store.ts";
import { takeEntry } from "./take.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byFinding = byUnit.extend({ findingId: z.uuid("not a finding's id") });

/** Findings: faults found, and everything that is said of them until they are mended or accepted. */
export const findingsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/findings",
    {
      schema: {
        tags: ["findings"],
        summary: "Findings of all units, most urgent first, by words, severity and state",
        querystring: findingSearchSchema,
        response: { 200: findingListSchema, 404: problemSchema },
      },
    },
    async (request) => findFindings(request.scope, request.query),
  );

  app.get(
    "/units/:unitId/findings",
    {
      schema: {
        tags: ["findings"],
        summary: "Everything ever found on a unit, most urgent first",
        params: byUnit,
        response: { 200: findingListSchema, 404: problemSchema },
      },
    },
    async (request) => ({
      findings: await findingsOfUnit(request.scope, request.params.unitId),
      more: false,
    }),
  );

  app.post(
    "/units/:unitId/findings/:findingId",
    {
      schema: {
        tags: ["findings"],
        summary:
          "Add an entry about a finding: found, changed, answered, mended, accepted, open again; sent twice, it is kept once",
        params: byFinding,
        body: newFindingEntrySchema,
        response: {
          201: findingSchema,
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
          await takeEntry(
            request.scope,
            request.me.person,
            request.params.unitId,
            request.params.findingId,
            request.body,
          ),
        ),
  );
};
