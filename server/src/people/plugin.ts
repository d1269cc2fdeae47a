import {
  AS_HEADER,
  inviteMadeSchema,
  inviteSchema,
  joinSchema,
  joinToldSchema,
  meSchema,
  newInviteSchema,
  newPasswordSchema,
  passwordChangedSchema,
  peopleSchema,
  personChangeSchema,
  problemSchema,
  recoveryCodesSchema,
  secondFactorBeginSchema,
  secondFactorBegunSchema,
  secondFactorEndSchema,
  secondFactorProveSchema,
  secondFactorSchema,
  sessionEndedSchema,
  sessionsSchema,
  signInSchema,
} from "@uppershed/contract";
import { and, eq, gt, sql } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { setTimeout as sleep } from "node:timers/promises";
import { z } from "zod";
import { notFound, Refused } from "../errors.ts";
import { people, sessions } from "../schema/index.ts";
import {
  changePassword,
  changePerson,
  invite,
  join,
  joinTold,
  listPeople,
  resetLink,
  withdrawInvite,
} from "./directory.ts";
import { checkPassword } from "./passwords.ts";
import {
  beginSecondFactor,
  endSecondFactor,
  proveSecondFactor,
  secondFactorOf,
  spendCode,
} from "./second-factor.ts";
import { closeSession, SESSION_COOKIE, whoIs } from "./sessions.ts";
import { cookieOf, signIn } from "./sign-in.ts";
import { Slowed } from "./slowed.ts";

/** Sign-in, sign-out, who am I. */
const signingPlugin: FastifyPluginAsyncZod = async (app) => {
  const slowed = new Slowed();
  const tries = { max: app.settings.signInsPerMinute, timeWindow: "1 minute" };

  app.post(
    "/sign-in",
    {
      config: { open: true, rateLimit: tries },
      schema: {
        tags: ["people"],
        summary: "Sign in",
        body: signInSchema,
        response: { 200: meSchema, 401: problemSchema },
      },
    },
    async (request, reply) => {
      const { password } = request.body;
      const name = request.body.name.toLowerCase();
      const waitMs = slowed.waitMs(name, Date.now());
      if (waitMs > 0) await sleep(waitMs);
      const [person] = await app.db.select().from(people).where(eq(people.signInName, name));
      if (!(await checkPassword(person?.passwordHash, password)) || !person || person.leftAt) {
        slowed.failed(name, Date.now());
        throw new Refused(
          "wrong-sign-in",
          "Name and password do not go together. Nobody was signed in.",
        );
      }
      // The password alone opens nothing: what comes next is slowed as another try of it.
      if (person.totpSince) {
        const { code = "" } = request.body;
        if (code === "")
          throw new Refused(
            "code-needed",
            "Type the six figures of your authenticator, or one of your recovery codes.",
          );
        if (!(await spendCode(app.db, person, code))) {
          slowed.failed(name, Date.now());
          throw new Refused(
            "wrong-sign-in",
            "That code is not good: used already, or of another moment. Nobody was signed in.",
          );
        }
      }
      slowed.succeeded(name);
      return reply.send(await signIn(app, request, reply, person));
    },
  );

  app.get(
    "/join/:token",
    {
      config: { open: true, rateLimit: tries },
      schema: {
        tags: ["people"],
        summary: "What an invitation is for",
        params: z.strictObject({ token: z.string().min(1).max(100) }),
        response: { 200: joinToldSchema, 410: problemSchema },
      },
    },
    async (request) => joinTold(app.db, request.params.token),
  );

  app.post(
    "/join/:token",
    {
      config: { open: true, rateLimit: tries },
      schema: {
        tags: ["people"],
        summary: "Join a workshop by an invitation, or come to a new password by it",
        params: z.strictObject({ token: z.string().min(1).max(100) }),
        body: joinSchema,
        response: { 201: meSchema, 409: problemSchema, 410: problemSchema },
      },
    },
    async (request, reply) => {
      const person = await join(app.db, request.params.token, request.body);
      return reply.code(201).send(await signIn(app, request, reply, person));
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
        .clearCookie(SESSION_COOKIE, cookieOf(app))
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

const byPerson = z.strictObject({ personId: z.uuid("not a person's id") });

/** Who belongs to the workshop, and the links by which they join it. */
const directoryPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/people",
    {
      schema: {
        tags: ["people"],
        summary: "Who belongs to the workshop, and the invitations",
        response: { 200: peopleSchema },
      },
    },
    async (request) => listPeople(request.scope),
  );

  app.post(
    "/people/invites",
    {
      schema: {
        tags: ["people"],
        summary: "Make a link by which somebody joins; it is told once",
        body: newInviteSchema,
        response: { 201: inviteMadeSchema, 409: problemSchema },
      },
    },
    async (request, reply) =>
      reply.code(201).send(await invite(request.scope, request.me.person, request.body)),
  );

  app.post(
    "/people/invites/:inviteId/withdraw",
    {
      schema: {
        tags: ["people"],
        summary: "Withdraw an invitation that was not used yet",
        params: z.strictObject({ inviteId: z.uuid("not an invitation's id") }),
        response: { 200: inviteSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) => withdrawInvite(request.scope, request.params.inviteId),
  );

  app.patch(
    "/people/:personId",
    {
      schema: {
        tags: ["people"],
        summary: "Change somebody's role, let them go, or take them back",
        params: byPerson,
        body: personChangeSchema,
        response: { 200: peopleSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request) =>
      changePerson(request.scope, request.me.person, request.params.personId, request.body),
  );

  app.post(
    "/people/:personId/reset",
    {
      schema: {
        tags: ["people"],
        summary: "Make a link by which somebody comes to a new password; it is told once",
        params: byPerson,
        body: z.strictObject({ id: z.uuid() }),
        response: { 201: inviteMadeSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await resetLink(
            request.scope,
            request.me.person,
            request.params.personId,
            request.body.id,
          ),
        ),
  );
};

/** One's own password and sessions. */
const ownPlugin: FastifyPluginAsyncZod = async (app) => {
  app.post(
    "/me/password",
    {
      config: { rateLimit: { max: app.settings.signInsPerMinute, timeWindow: "1 minute" } },
      schema: {
        tags: ["people"],
        summary: "Change one's own password; everywhere else one is signed out by it",
        body: newPasswordSchema,
        response: { 200: passwordChangedSchema, 401: problemSchema },
      },
    },
    async (request) => {
      await changePassword(app.db, request.me, request.body, request.me.sessionId);
      return { changed: true };
    },
  );

  app.get(
    "/me/sessions",
    {
      schema: {
        tags: ["people"],
        summary: "Where one is signed in",
        response: { 200: sessionsSchema },
      },
    },
    async (request) => {
      const rows = await request.scope.find(
        sessions,
        and(eq(sessions.personId, request.me.person.id), gt(sessions.expiresAt, new Date())),
        { order: sql`${sessions.openedAt} desc` },
      );
      return {
        sessions: rows.map((s) => ({
          id: s.id,
          openedAt: s.openedAt.toISOString(),
          expiresAt: s.expiresAt.toISOString(),
          device: s.device,
          here: s.id === request.me.sessionId,
        })),
      };
    },
  );

  app.post(
    "/me/sessions/:sessionId/end",
    {
      schema: {
        tags: ["people"],
        summary: "End one of one's own sessions",
        params: z.strictObject({ sessionId: z.uuid("not a session's id") }),
        response: { 200: sessionEndedSchema, 404: problemSchema },
      },
    },
    async (request) => {
      const own = and(
        eq(sessions.id, request.params.sessionId),
        eq(sessions.personId, request.me.person.id),
      );
      if (!own || !(await request.scope.first(sessions, own))) throw notFound("session");
      await request.scope.remove(sessions, own);
      return { ended: true };
    },
  );
};

/** One's own second factor. */
const secondFactorPlugin: FastifyPluginAsyncZod = async (app) => {
  const slow = {
    rateLimit: { max: app.settings.signInsPerMinute, timeWindow: "1 minute" },
  };
  const refusals = { 401: problemSchema, 409: problemSchema };

  app.get(
    "/me/second-factor",
    {
      schema: {
        tags: ["people"],
        summary: "Whether a second factor is asked of oneself",
        response: { 200: secondFactorSchema },
      },
    },
    async (request) => secondFactorOf(request.scope, request.me),
  );

  app.post(
    "/me/second-factor",
    {
      config: slow,
      schema: {
        tags: ["people"],
        summary: "Begin with an authenticator; the secret is told once",
        body: secondFactorBeginSchema,
        response: { 200: secondFactorBegunSchema, ...refusals },
      },
    },
    async (request) => beginSecondFactor(app.db, request.me, request.body.password),
  );

  app.post(
    "/me/second-factor/prove",
    {
      config: slow,
      schema: {
        tags: ["people"],
        summary: "Prove it with its code; from then on it is asked for",
        body: secondFactorProveSchema,
        response: { 200: recoveryCodesSchema, ...refusals },
      },
    },
    async (request) => ({
      recovery: await proveSecondFactor(app.db, request.me, request.body.code),
    }),
  );

  app.post(
    "/me/second-factor/end",
    {
      config: slow,
      schema: {
        tags: ["people"],
        summary: "Take it off",
        body: secondFactorEndSchema,
        response: { 200: secondFactorSchema, ...refusals },
      },
    },
    async (request) => {
      await endSecondFactor(app.db, request.me, request.body);
      return secondFactorOf(request.scope, request.me);
    },
  );
};

export const peoplePlugin: FastifyPluginAsyncZod = async (app) => {
  await app.register(signingPlugin);
  await app.register(directoryPlugin);
  await app.register(ownPlugin);
  await app.register(secondFactorPlugin);
};
