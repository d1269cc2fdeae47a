import { foreignKey, index, pgTable, primaryKey, uuid } from "drizzle-orm/pg-core";
import { at, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";
import { visits } from "./visits.ts";

/** Read-only links for owners: signed with the workshop's key, good until they expire or are withdrawn. */
export const ownerLinks = pgTable(
  "owner_links",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    visitId: uuid().notNull(),
    personId: uuid().notNull(),
    at: at().notNull().defaultNow(),
    expiresAt: at().notNull(),
    withdrawnAt: at(),
  },
  (t) => [
    foreignKey({ columns: [t.workshopId, t.unitId], foreignColumns: [units.workshopId, units.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.visitId], foreignColumns: [visits.workshopId, visits.id] }).onDelete("cascade"),
    foreignKey({ columns: [t.workshopId, t.personId], foreignColumns: [people.workshopId, people.id] }),
    index("owner_links_by_visit").on(t.workshopId, t.visitId),
  ],
);
