import { problemSchema, proposalAnswerSchema, waitingSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { answerProposal, listWaiting } from "./waiting.ts";

/** What waits for somebody else's countersign. */
export const countersignPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/waiting",
    {
      schema: {
        tags: ["house"],
        summary: "Records, merges and changes of rules that wait for a countersign",
        response: { 200: waitingSchema },
      },
    },
    async (request) => listWaiting(request.scope),
  );

  app.post(
    "/waiting/:proposalId",
    {
      schema: {
        tags: ["house"],
        summary: "Countersign what somebody else asked for, or take it back",
        params: z.strictObject({ proposalId: z.uuid("not a proposal's id") }),
        body: proposalAnswerSchema,
        response: {
          200: waitingSchema,
          403: problemSchema,
          404: problemSchema,
          409: problemSchema,
        },
      },
    },
    async (request) =>
      answerProposal(
        request.scope,
        request.me.person,
        request.params.proposalId,
        request.body.answer,
      ),
  );
};
