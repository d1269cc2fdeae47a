import {
  meSchema,
  problemSchema,
  setUpDoneSchema,
  setUpNeededSchema,
  setUpSchema,
  takenAwaySchema,
  workshopChangeSchema,
} from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { signIn } from "../people/sign-in.ts";
import { workshops } from "../schema/index.ts";
import { newCode } from "../people/codes.ts";
import {
  addWorkshop,
  isSetUpNeeded,
  refuseWrongCode,
  setUpDemo,
  thereIsOne,
  takeDemoAway,
} from "./set-up.ts";

/** The first start, and the workshop's own facts. */
export const setUpPlugin: FastifyPluginAsyncZod = async (app) => {
  const tries = { max: app.settings.signInsPerMinute, timeWindow: "1 minute" };

  app.get(
    "/set-up",
    {
      config: { open: true },
      schema: {
        tags: ["workshop"],
        summary: "Whether a workshop is to be set up first",
        response: { 200: setUpNeededSchema },
      },
    },
    async () => ({ needed: await isSetUpNeeded(app.db) }),
  );

  app.post(
    "/set-up",
    {
      config: { open: true, rateLimit: tries },
      schema: {
        tags: ["workshop"],
        summary:
          "Make the first workshop with its lead, or load the demo; with the code that was printed",
        body: setUpSchema,
        response: {
          201: setUpDoneSchema,
          403: problemSchema,
          409: problemSchema,
        },
      },
    },
    async (request, reply) => {
      if (!(await isSetUpNeeded(app.db))) throw thereIsOne();
      refuseWrongCode(request.body.code, app.setUpCode.code);
      if ("demo" in request.body) {
        const loaded = await setUpDemo(app.db);
        app.setUpCode.code = undefined;
        return reply.code(201).send(loaded);
      }
      const { workshop, lead } = request.body;
      const person = await addWorkshop(app.db, { workshop, lead }, { onlyFirst: true });
      app.setUpCode.code = undefined;
      return reply.code(201).send(await signIn(app, request, reply, person));
    },
  );

  app.patch(
    "/workshop",
    {
      schema: {
        tags: ["workshop"],
        summary: "Change the workshop's own facts: name, place, units of measure, winter low",
        body: workshopChangeSchema,
        response: { 200: meSchema },
      },
    },
    async (request) => {
      const { id } = request.me.workshop;
      const change = Object.fromEntries(
        Object.entries(request.body).filter(([, value]) => value !== undefined),
      );
      if (Object.keys(change).length > 0)
        await app.db.update(workshops).set(change).where(eq(workshops.id, id));
      return { ...request.me, workshop: { ...request.me.workshop, ...change } };
    },
  );

  app.post(
    "/workshop/take-away",
    {
      schema: {
        tags: ["workshop"],
        summary: "Take the demo away, whole; answers with the code for setting up one's own",
        response: { 200: takenAwaySchema, 403: problemSchema },
      },
    },
    async (request) => {
      await takeDemoAway(app.db, request.me.workshop.id);
      if (!(await isSetUpNeeded(app.db))) return { code: null };
      app.setUpCode.code = newCode();
      return { code: app.setUpCode.code };
    },
  );
};
