import { keepingSchema, problemSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { Refused } from "../errors.ts";

/** Backups, for whoever answers for the workshop. */
export const keepingPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/keeping",
    {
      schema: {
        tags: ["workshop"],
        summary: "Which backups there are",
        response: { 200: keepingSchema },
      },
    },
    async () =>
      (await app.settings.backups?.list()) ?? { folder: null, backups: [], problem: null },
  );

  app.post(
    "/keeping/now",
    {
      schema: {
        tags: ["workshop"],
        summary: "Make a backup now",
        response: { 200: keepingSchema, 409: problemSchema },
      },
    },
    async () => {
      const { backups } = app.settings;
      if (!backups)
        throw new Refused("conflict", "This server was started without a folder for backups.");
      return backups.now(new Date());
    },
  );
};
