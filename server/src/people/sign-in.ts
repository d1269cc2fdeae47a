import type { Me } from "@uppershed/contract";
import type { FastifyInstance, FastifyReply, FastifyRequest } from "fastify";
import { Refused } from "../errors.ts";
import { closeSession, openSession, SESSION_COOKIE, SESSION_SECONDS, whoIs } from "./sessions.ts";

export const cookieOf = (app: FastifyInstance) => ({
  httpOnly: true,
  sameSite: "strict" as const,
  path: "/",
  secure: app.settings.secureCookies,
});

/** Opens a session for somebody on the device that asks, and hands out its cookie. */
export const signIn = async (
  app: FastifyInstance,
  request: FastifyRequest,
  reply: FastifyReply,
  person: { id: string; workshopId: string },
): Promise<Me> => {
  // Whoever was signed in on this device before is not any more, even where signing out never reached the server.
  const before = request.cookies[SESSION_COOKIE];
  if (before) await closeSession(app.db, before);
  const token = await openSession(app.db, person, request.headers["user-agent"]);
  const me = await whoIs(app.db, token);
  if (!me) throw new Refused("unavailable", "The session could not be opened. Try again.");
  void reply.setCookie(SESSION_COOKIE, token, { ...cookieOf(app), maxAge: SESSION_SECONDS });
  return me;
};
