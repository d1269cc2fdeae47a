import { ROLES } from "@uppershed/core/inspection";
import { sql } from "drizzle-orm";
import {
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, id, oneOf, workshop } from "./columns.ts";

export const people = pgTable(
  "people",
  {
    id: id(),
    workshopId: workshop(),
    signInName: text().notNull().unique(),
    name: text().notNull(),
    role: text().$type<(typeof ROLES)[number]>().notNull(),
    passwordHash: text().notNull(),
    /** Second factor: the secret of their authenticator, in base 32, and since when it is asked for; one not yet proved is not asked for. */
    totpSecret: text(),
    totpSince: at(),
    /** The newest code that was used, by its time step: none is good twice. */
    totpStep: integer(),
    /** SHA-256 of the recovery codes that are left, each good once. */
    recovery: jsonb().$type<string[]>().notNull().default([]),
    /** Since when they are not here any more: kept in the records, and not let in. */
    leftAt: at(),
  },
  (t) => [
    unique("people_in_workshop").on(t.workshopId, t.id),
    check("people_role", sql`${t.role} in ${oneOf(ROLES)}`),
  ],
);

export const sessions = pgTable(
  "sessions",
  {
    /** SHA-256 of the cookie's token; the token itself is kept nowhere. */
    tokenHash: text().primaryKey(),
    /** By which it is told apart in a list. */
    id: uuid().notNull().unique().defaultRandom(),
    workshopId: workshop(),
    personId: uuid().notNull(),
    expiresAt: at().notNull(),
    openedAt: at().notNull().defaultNow(),
    /** What the device calls itself. */
    device: text().notNull().default(""),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }).onDelete("cascade"),
    index("sessions_expiry").on(t.expiresAt),
  ],
);

/** A link by which somebody joins the workshop, or comes to a new password: used once, and ended by its day. */
export const invites = pgTable(
  "invites",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    /** SHA-256 of the link's token; the token itself is kept nowhere. */
    tokenHash: text().notNull().unique(),
    name: text().notNull(),
    role: text().$type<(typeof ROLES)[number]>().notNull(),
    /** Whose password it renews; null where it lets somebody new in. */
    personId: uuid(),
    madeBy: uuid().notNull(),
    madeAt: at().notNull().defaultNow(),
    expiresAt: at().notNull(),
    usedAt: at(),
    withdrawnAt: at(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.madeBy],
      foreignColumns: [people.workshopId, people.id],
    }).onDelete("cascade"),
    index("invites_of_workshop").on(t.workshopId, t.madeAt),
    check("invites_role", sql`${t.role} in ${oneOf(ROLES)}`),
  ],
);
