import { AS_HEADER, meSchema, problemSchema, signInSchema } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { Refused } from "../errors.ts";
import { people } from "../schema/index.ts";
import { checkPassword } from "./passwords.ts";
import { closeSession, openSession, SESSION_COOKIE, SESSION_SECONDS, whoIs } from "./sessions.ts";

/** Sign-in, sign-out, who am I. */
export const peoplePlugin: FastifyPluginAsyncZod = async (app) => {
  const cookie = {
    httpOnly: true,
    sameSite: "strict" as const,
    path: "/",
    secure: app.settings.secureCookies,
  };

  app.post(
    "/sign-in",
    {
      config: {
        open: true,
        rateLimit: { max: app.settings.signInsPerMinute, timeWindow: "1 minute" },
      },
      schema: {
        tags: ["people"],
        summary: "Sign in",
        body: signInSchema,
        response: { 200: meSchema, 401: problemSchema },
      },
    },
    async (request, reply) => {
      const { name, password } = request.body;
      const [person] = await app.db
        .select()
        .from(people)
        .where(eq(people.signInName, name.toLowerCase()));
      if (!(await checkPassword(person?.passwordHash, password)) || !person)
        throw new Refused(
          "wrong-sign-in",
          "Name and password do not go together. Nobody was signed in.",
        );
      // Whoever was signed in on this device before is not any more, even where signing out never reached the server.
      const before = request.cookies[SESSION_COOKIE];
      if (before) await closeSession(app.db, before);
      const token = await openSession(app.db, person);
      const me = await whoIs(app.db, token);
      if (!me) throw new Refused("unavailable", "The session could not be opened. Try again.");
      return reply
        .setCookie(SESSION_COOKIE, token, { ...cookie, maxAge: SESSION_SECONDS })
        .send(me);
    },
  );

  app.post(
    "/sign-out",
    {
      config: { open: true },
      schema: {
        tags: ["people"],
        summary: "Sign out",
        response: { 200: z.object({ signedOut: z.boolean() }) },
      },
    },
    async (request, reply) => {
      const token = request.cookies[SESSION_COOKIE];
      const as = request.headers[AS_HEADER];
      // A page of somebody who was here before ends nobody else's session.
      if (token && as !== undefined && (await whoIs(app.db, token))?.person.id !== as)
        return reply.send({ signedOut: true });
      if (token) await closeSession(app.db, token);
      // What the browser has kept of answers goes with whoever asked for them.
      return reply
        .clearCookie(SESSION_COOKIE, cookie)
        .header("clear-site-data", '"cache"')
        .send({ signedOut: true });
    },
  );

  app.get(
    "/me",
    {
      schema: {
        tags: ["people"],
        summary: "Who is signed in, and the workshop's settings",
        response: { 200: meSchema, 401: problemSchema },
      },
    },
    async (request) => request.me,
  );
};
