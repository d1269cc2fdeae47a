import { keepingSchema, problemSchema, restoredSchema } from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { Refused } from "../errors.ts";
import { workshops } from "../schema/index.ts";
import { archiveOf } from "./archive.ts";
import { NotKept } from "./backup.ts";

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

  app.post(
    "/keeping/:name/restore",
    {
      schema: {
        tags: ["workshop"],
        summary: "Put a backup in the place of what is there; that stays beside it",
        params: z.strictObject({ name: z.string().max(60) }),
        response: { 200: restoredSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) => {
      const { backups } = app.settings;
      if (!backups)
        throw new Refused("conflict", "This server was started without a folder for backups.");
      // A backup is of the whole server: nobody puts another workshop back with their own.
      const all = await app.db.select({ id: workshops.id }).from(workshops);
      if (all.length !== 1)
        throw new Refused(
          "conflict",
          "Several workshops are on this server, and a backup is of all of them: whoever runs it restores with the command. Nothing was changed.",
        );
      try {
        return await backups.restore(request.params.name, new Date());
      } catch (error) {
        if (error instanceof NotKept)
          throw new Refused("conflict", `${error.message}. Nothing was changed.`);
        throw error;
      }
    },
  );

  app.get(
    "/keeping/archive.zip",
    {
      schema: {
        tags: ["workshop"],
        summary: "Everything that the workshop owns, in one archive of open formats",
      },
    },
    async (request, reply) =>
      reply
        .type("application/zip")
        .header("content-disposition", 'attachment; filename="upper-shed.zip"')
        .header("cache-control", "no-store")
        .send(archiveOf(request.scope)),
  );
};
