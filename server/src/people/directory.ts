import type {
  Invite,
  InviteMade,
  JoinTold,
  Me,
  People,
  PersonChange,
  Role,
} from "@uppershed/contract";
import { mayDo } from "@uppershed/contract";
import { DAY_MS } from "@uppershed/core/quantity";
import { and, count, eq, gt, isNull, ne, or, sql } from "drizzle-orm";
import { createHash, randomBytes } from "node:crypto";
import type { Db } from "../db.ts";
import { idTaken, notFound, Refused } from "../errors.ts";
import { invites, people, sessions, workshops } from "../schema/index.ts";
import { type Scope, scopeFor } from "../scope.ts";
import { namesOf } from "./names.ts";
import { NO_SECOND_FACTOR } from "./second-factor.ts";
import { checkPassword, hashPassword } from "./passwords.ts";

/** Who belongs to a workshop, the links by which they join it, and what they do with their own passwords. */

type InviteRow = typeof invites.$inferSelect;

const hashOf = (token: string): string => createHash("sha256").update(token).digest("base64url");

const told = (row: InviteRow, by: string): Invite => ({
  id: row.id,
  name: row.name,
  role: row.role,
  personId: row.personId,
  by,
  expiresAt: row.expiresAt.toISOString(),
  usedAt: row.usedAt?.toISOString() ?? null,
  withdrawnAt: row.withdrawnAt?.toISOString() ?? null,
});

const INVITES_LISTED = 50;

export const listPeople = async (scope: Scope): Promise<People> => {
  const all = await scope.find(people, undefined, { order: sql`${people.name}` });
  const open = await scope.pick(
    sessions,
    { personId: sessions.personId },
    gt(sessions.expiresAt, new Date()),
  );
  const links = await scope.find(invites, undefined, {
    order: sql`${invites.madeAt} desc`,
    limit: INVITES_LISTED,
  });
  const names = new Map(all.map((p) => [p.id, p.name]));
  return {
    people: all.map((p) => ({
      id: p.id,
      name: p.name,
      signInName: p.signInName,
      role: p.role,
      leftAt: p.leftAt?.toISOString() ?? null,
      secondFactor: p.totpSince !== null,
      sessions: open.filter((s) => s.personId === p.id).length,
    })),
    invites: links.map((row) => told(row, names.get(row.madeBy) ?? "")),
  };
};

interface Invited {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly days: number;
  readonly personId?: string;
}

/** What an owner is, only an owner gives, changes or takes: where there is none yet, a lead may make the first. */
const refuseAboveOneself = (
  all: readonly (typeof people.$inferSelect)[],
  of: { readonly role: Role },
  me: Me["person"],
): void => {
  if (of.role !== "owner" || me.role === "owner") return;
  if (all.some((p) => p.role === "owner" && p.leftAt === null))
    throw new Refused(
      "not-allowed",
      "There is an owner here: only an owner may do that. Nothing was changed.",
    );
};

const makeLink = async (scope: Scope, me: Me["person"], asked: Invited): Promise<InviteMade> => {
  const [there] = await scope.find(invites, eq(invites.id, asked.id));
  // The token was told once and is kept nowhere: it cannot be told again.
  if (there) throw idTaken();
  const token = randomBytes(24).toString("base64url");
  await scope.add(invites, {
    id: asked.id,
    tokenHash: hashOf(token),
    name: asked.name,
    role: asked.role,
    personId: asked.personId ?? null,
    madeBy: me.id,
    expiresAt: new Date(Date.now() + asked.days * DAY_MS),
  });
  const [row] = await scope.find(invites, eq(invites.id, asked.id));
  if (!row) throw new Error("an invite was not kept");
  return { ...told(row, me.name), path: `/join/${token}` };
};

export const invite = async (
  scope: Scope,
  me: Me["person"],
  asked: Invited,
): Promise<InviteMade> => {
  refuseAboveOneself(await scope.find(people), asked, me);
  return makeLink(scope, me, asked);
};

const RESET_DAYS = 2;

/** A link by which somebody of the workshop comes to a new password; until it is used, the old one stays good. */
export const resetLink = async (
  scope: Scope,
  me: Me["person"],
  personId: string,
  id: string,
): Promise<InviteMade> => {
  const [person] = await scope.find(people, eq(people.id, personId));
  if (!person || person.leftAt) throw notFound("person");
  refuseAboveOneself(await scope.find(people), person, me);
  return makeLink(scope, me, {
    id,
    name: person.name,
    role: person.role,
    days: RESET_DAYS,
    personId,
  });
};

export const withdrawInvite = async (scope: Scope, id: string): Promise<Invite> => {
  const [row] = await scope.find(invites, eq(invites.id, id));
  if (!row) throw notFound("invitation");
  if (row.usedAt) throw new Refused("conflict", "It was used already. Nothing was changed.");
  if (!row.withdrawnAt)
    await scope.change(invites, { withdrawnAt: new Date() }, eq(invites.id, id));
  const [now] = await scope.find(invites, eq(invites.id, id));
  const names = await namesOf(scope, [row.madeBy]);
  return told(now ?? row, names.get(row.madeBy) ?? "");
};

/** Changes what somebody is, or lets them go. Somebody who can invite others always stays. */
export const changePerson = (
  scope: Scope,
  me: Me["person"],
  personId: string,
  change: PersonChange,
): Promise<People> =>
  scope.together(async (tx) => {
    await tx.alone();
    const all = await tx.find(people);
    const person = all.find((p) => p.id === personId);
    if (!person) throw notFound("person");
    refuseAboveOneself(all, person, me);
    if (change.role) refuseAboveOneself(all, { role: change.role }, me);
    const after = all.map((p) =>
      p.id === personId
        ? {
            role: change.role ?? p.role,
            isHere: change.left === undefined ? p.leftAt === null : !change.left,
          }
        : { role: p.role, isHere: p.leftAt === null },
    );
    if (!after.some((p) => p.isHere && mayDo(p.role, "people")))
      throw new Refused(
        "conflict",
        "Nobody would be left who can invite others. Make somebody else lead first. Nothing was changed.",
      );
    await tx.change(
      people,
      {
        ...(change.role ? { role: change.role } : {}),
        ...(change.left === undefined
          ? {}
          : { leftAt: change.left ? (person.leftAt ?? new Date()) : null }),
      },
      eq(people.id, personId),
    );
    if (change.left) await tx.remove(sessions, eq(sessions.personId, personId));
    // Whoever may not invite any more leaves no door open, and nobody comes back by a link of before.
    const now = all.findIndex((p) => p.id === personId);
    const may = after[now]?.isHere === true && mayDo(after[now].role, "people");
    const theirs = or(
      ...(may ? [] : [eq(invites.madeBy, personId)]),
      ...(change.left ? [eq(invites.personId, personId)] : []),
    );
    if (theirs)
      await tx.change(
        invites,
        { withdrawnAt: new Date() },
        sql`${theirs} and ${invites.usedAt} is null and ${invites.withdrawnAt} is null`,
      );
    return listPeople(tx);
  });

const openInvite = async (db: Pick<Db, "select">, token: string): Promise<InviteRow> => {
  const [row] = await db
    .select()
    .from(invites)
    .where(eq(invites.tokenHash, hashOf(token)));
  if (!row || row.withdrawnAt || row.usedAt || row.expiresAt <= new Date())
    throw new Refused(
      "gone",
      "This link is not good any more: used, withdrawn or past its day. Ask for another.",
    );
  return row;
};

export const joinTold = async (db: Db, token: string): Promise<JoinTold> => {
  const row = await openInvite(db, token);
  const [workshop] = await db
    .select({ name: workshops.name })
    .from(workshops)
    .where(eq(workshops.id, row.workshopId));
  const [person] = row.personId
    ? await db.select().from(people).where(eq(people.id, row.personId))
    : [];
  return {
    workshop: workshop?.name ?? "",
    name: row.name,
    role: row.role,
    signInName: person?.signInName ?? null,
  };
};

export const signInNameTaken = (): Refused =>
  new Refused("conflict", "That sign-in name is taken. Choose another. Nothing was changed.");

/** Lets somebody in by their link, or gives them a new password; the link is used up by it. @returns the person */
export const join = async (
  db: Db,
  token: string,
  asked: { name?: string | undefined; signInName?: string | undefined; password: string },
): Promise<{ id: string; workshopId: string }> => {
  const passwordHash = await hashPassword(asked.password);
  return db.transaction(async (tx) => {
    const row = await openInvite(tx, token);
    // Of two at once, one uses it.
    const used = await tx
      .update(invites)
      .set({ usedAt: new Date() })
      .where(and(eq(invites.id, row.id), isNull(invites.usedAt)))
      .returning({ id: invites.id });
    if (used.length === 0)
      throw new Refused("gone", "This link was used a moment ago. Ask for another.");
    const { workshopId } = row;
    if (row.personId) {
      // Whoever has lost the telephone has lost the second factor too: by a lead's link both begin anew.
      await tx
        .update(people)
        .set({ passwordHash, ...NO_SECOND_FACTOR })
        .where(eq(people.id, row.personId));
      // Whoever has the old password is not let on.
      await tx.delete(sessions).where(eq(sessions.personId, row.personId));
      return { id: row.personId, workshopId };
    }
    if (!asked.signInName) throw new Refused("bad-request", "Choose a sign-in name.");
    const [taken] = await tx
      .select({ n: count() })
      .from(people)
      .where(eq(people.signInName, asked.signInName));
    if (taken && taken.n > 0) throw signInNameTaken();
    const [person] = await tx
      .insert(people)
      .values({
        workshopId,
        signInName: asked.signInName,
        name: asked.name ?? row.name,
        role: row.role,
        passwordHash,
      })
      .returning({ id: people.id });
    if (!person) throw new Error("a person was not kept");
    return { id: person.id, workshopId };
  });
};

/** One's own password; everywhere else one is signed out by it. */
export const changePassword = async (
  db: Db,
  me: Me,
  given: { now: string; next: string },
  sessionId: string,
): Promise<void> => {
  const scope = scopeFor(db, me.workshop.id);
  const [person] = await scope.find(people, eq(people.id, me.person.id));
  if (!(await checkPassword(person?.passwordHash, given.now)))
    throw new Refused("wrong-sign-in", "That is not the password of now. Nothing was changed.");
  await scope.change(
    people,
    { passwordHash: await hashPassword(given.next) },
    eq(people.id, me.person.id),
  );
  const others = and(eq(sessions.personId, me.person.id), ne(sessions.id, sessionId));
  if (others) await scope.remove(sessions, others);
};
