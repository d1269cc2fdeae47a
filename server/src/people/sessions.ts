import type { Me } from "@uppershed/contract";
import { eq, lt } from "drizzle-orm";
import { createHash, randomBytes } from "node:crypto";
import type { Db } from "../db.ts";
import { people, sessions, workshops } from "../schema/index.ts";

export const SESSION_COOKIE = "upper_shed_session";
/** A week: long enough for a job with days in between, short enough for a lost tablet. */
export const SESSION_SECONDS = 7 * 24 * 3600;

const MOST_DEVICE = 200;

const hashOf = (token: string): string => createHash("sha256").update(token).digest("base64url");

/** Opens a session and returns the token for its cookie. */
export const openSession = async (
  db: Db,
  person: { id: string; workshopId: string },
  device = "",
): Promise<string> => {
  const token = randomBytes(32).toString("base64url");
  await db.delete(sessions).where(lt(sessions.expiresAt, new Date()));
  await db.insert(sessions).values({
    tokenHash: hashOf(token),
    workshopId: person.workshopId,
    personId: person.id,
    expiresAt: new Date(Date.now() + SESSION_SECONDS * 1000),
    device: device.slice(0, MOST_DEVICE),
  });
  return token;
};

export const closeSession = async (db: Db, token: string): Promise<void> => {
  await db.delete(sessions).where(eq(sessions.tokenHash, hashOf(token)));
};

/** Who a token belongs to and by which session, or nobody. */
export const whoIs = async (
  db: Db,
  token: string,
): Promise<(Me & { readonly sessionId: string }) | undefined> => {
  const [row] = await db
    .select()
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .innerJoin(workshops, eq(workshops.id, sessions.workshopId))
    .where(eq(sessions.tokenHash, hashOf(token)));
  if (!row || row.people.leftAt || row.sessions.expiresAt.getTime() <= Date.now()) return undefined;
  const { id, name, role } = row.people;
  const { linkKey: _secret, ...workshop } = row.workshops;
  return { person: { id, name, role }, workshop, sessionId: row.sessions.id };
};
