import { ROLES } from "@uppershed/core/inspection";
import { sql } from "drizzle-orm";
import { check, foreignKey, index, pgTable, text, unique, uuid } from "drizzle-orm/pg-core";
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
    workshopId: workshop(),
    personId: uuid().notNull(),
    expiresAt: at().notNull(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }).onDelete("cascade"),
    index("sessions_expiry").on(t.expiresAt),
  ],
);
