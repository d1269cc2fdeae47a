import { HANDED_OVER } from "@uppershed/core/inspection";
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
import { at, oneOf, workshop } from "./columns.ts";
import { customers } from "./customers.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";
import { visits } from "./visits.ts";

/** Reports as they were handed over: whole, with the words of the day. Only ever added; a later one is a new edition. */
export const reportEditions = pgTable(
  "report_editions",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    /** From one, within its visit. */
    number: integer().notNull(),
    /** Whose the unit was. */
    customerId: uuid().notNull(),
    personId: uuid().notNull(),
    at: at().notNull().defaultNow(),
    /** How it was handed over. */
    how: text().$type<(typeof HANDED_OVER)[number]>().notNull(),
    /** SHA-256 of what it says, so that the same is not handed over as another. */
    digest: text().notNull(),
    data: jsonb().notNull(),
  },
  (t) => [
    unique("report_editions_in_workshop").on(t.workshopId, t.id),
    unique("report_editions_in_order").on(t.visitId, t.number),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.customerId],
      foreignColumns: [customers.workshopId, customers.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("report_editions_how", sql`${t.how} in ${oneOf(HANDED_OVER)}`),
  ],
);

/** Read-only links for owners: signed with the workshop's key, good until they expire or are withdrawn. */
export const ownerLinks = pgTable(
  "owner_links",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    personId: uuid().notNull(),
    /** The edition that it shows, and nothing else. */
    editionId: uuid(),
    at: at().notNull().defaultNow(),
    expiresAt: at().notNull(),
    withdrawnAt: at(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.visitId],
      foreignColumns: [visits.workshopId, visits.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    foreignKey({
      columns: [t.workshopId, t.editionId],
      foreignColumns: [reportEditions.workshopId, reportEditions.id],
    }),
    index("owner_links_by_visit").on(t.workshopId, t.visitId),
  ],
);
