import type { SetUp } from "@uppershed/contract";
import { count, eq, sql } from "drizzle-orm";
import { randomBytes, timingSafeEqual } from "node:crypto";
import type { Db } from "../db.ts";
import { DEMO_PEOPLE, loadDemo } from "../demo/load.ts";
import { Refused } from "../errors.ts";
import { digestOf } from "../people/codes.ts";
import { signInNameTaken } from "../people/directory.ts";
import { hashPassword } from "../people/passwords.ts";
import { dataMigrations, people, workshops } from "../schema/index.ts";

/** The first start: with an empty database somebody who has the printed code makes the workshop, once. */

const isCode = (given: string, code: string | undefined): boolean =>
  code !== undefined && timingSafeEqual(digestOf(given), digestOf(code));

export const isSetUpNeeded = async (db: Pick<Db, "select">): Promise<boolean> =>
  ((await db.select({ n: count() }).from(workshops))[0]?.n ?? 0) === 0;

export const thereIsOne = (): Refused =>
  new Refused(
    "conflict",
    "There is a workshop on this server already. Sign in, or ask its lead for a link.",
  );

// Any number that nobody else takes: two who set up at once do it one after another.
const SET_UP_LOCK = 7_205_119;

/** Makes a workshop and its first lead. @returns the lead */
export const addWorkshop = async (
  db: Db,
  asked: Omit<Extract<SetUp, { workshop: unknown }>, "code">,
  { onlyFirst = false } = {},
): Promise<{ id: string; workshopId: string }> => {
  const passwordHash = await hashPassword(asked.lead.password);
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${SET_UP_LOCK})`);
    if (onlyFirst && !(await isSetUpNeeded(tx))) throw thereIsOne();
    const [taken] = await tx
      .select({ id: people.id })
      .from(people)
      .where(eq(people.signInName, asked.lead.signInName));
    if (taken) throw signInNameTaken();
    const [workshop] = await tx
      .insert(workshops)
      .values(asked.workshop)
      .returning({ id: workshops.id });
    if (!workshop) throw new Error("a workshop was not kept");
    const [lead] = await tx
      .insert(people)
      .values({
        workshopId: workshop.id,
        name: asked.lead.name,
        signInName: asked.lead.signInName,
        role: "lead",
        passwordHash,
      })
      .returning({ id: people.id });
    if (!lead) throw new Error("a lead was not kept");
    return { id: lead.id, workshopId: workshop.id };
  });
};

export const refuseWrongCode = (given: string, code: string | undefined): void => {
  if (!isCode(given, code))
    throw new Refused(
      "not-allowed",
      "That is not the code that was printed where the server was started. Nothing was made.",
    );
};

/** Loads the demo where there is nothing yet. @returns by which names one signs in, and the password */
export const setUpDemo = async (db: Db): Promise<{ signInNames: string[]; password: string }> => {
  if (!(await isSetUpNeeded(db))) throw thereIsOne();
  const password = `${randomBytes(3).toString("hex")}-${randomBytes(3).toString("hex")}`;
  await loadDemo(db, password, new Date());
  return { signInNames: DEMO_PEOPLE.map((p) => p.signInName), password };
};

// What is only ever added goes first, while it can be seen that it is a demo's.
const ADDED_ONLY = [
  "run_events",
  "finding_entries",
  "refit_entries",
  "pressure_test_entries",
  "snapshots",
  "looks",
  "readings",
  "unit_history",
  "report_editions",
  "rule_revisions",
] as const;

/** Takes a demo away whole: its units, records, people and their sessions. Real work is never taken away so. */
export const takeDemoAway = (db: Db, workshopId: string): Promise<void> =>
  db.transaction(async (tx) => {
    const [workshop] = await tx
      .select({ isDemo: workshops.isDemo })
      .from(workshops)
      .where(eq(workshops.id, workshopId))
      .for("update");
    if (!workshop?.isDemo)
      throw new Refused("not-allowed", "Only the demo can be taken away. Nothing was changed.");
    // Links to an edition go before it.
    await tx.execute(sql`delete from owner_links where workshop_id = ${workshopId}`);
    for (const table of ADDED_ONLY)
      await tx.execute(sql`delete from ${sql.identifier(table)} where workshop_id = ${workshopId}`);
    await tx.delete(workshops).where(eq(workshops.id, workshopId));
    // It does not come back by itself with the next start.
    await tx.insert(dataMigrations).values({ name: DEMO_TAKEN_AWAY }).onConflictDoNothing();
  });

const DEMO_TAKEN_AWAY = "demo-taken-away";

/** Whether the demo is loaded by itself: into an empty database from which it was not taken away. */
export const isDemoWanted = async (db: Db): Promise<boolean> => {
  const [gone] = await db
    .select()
    .from(dataMigrations)
    .where(eq(dataMigrations.name, DEMO_TAKEN_AWAY));
  return !gone && (await isSetUpNeeded(db));
};

export const isDemoThere = async (db: Db): Promise<boolean> =>
  (await db.select({ id: workshops.id }).from(workshops).where(eq(workshops.isDemo, true)).limit(1))
    .length > 0;
