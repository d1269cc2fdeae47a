import type { RefitBody } from "@uppershed/core/refit";
import {
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  real,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import { at, workshop } from "./columns.ts";
import { people } from "./people.ts";
import { units } from "./units.ts";

/** Refits: a row for each map that is not in force yet, with how it stood when it was last added to. */
export const refits = pgTable(
  "refits",
  {
    /** Made on the device. */
    id: uuid().primaryKey(),
    workshopId: workshop(),
    unitId: uuid().notNull(),
    name: text().notNull(),
    /** Of the unit's map that the newest drawing of it was made from. */
    basedOn: integer().notNull(),
    at: at().notNull(),
    changedAt: at().notNull(),
    withdrawnAt: at(),
  },
  (t) => [
    unique("refits_in_workshop").on(t.workshopId, t.id),
    foreignKey({
      columns: [t.workshopId, t.unitId],
      foreignColumns: [units.workshopId, units.id],
    }).onDelete("cascade"),
    index("refits_by_unit").on(t.workshopId, t.unitId, t.at),
  ],
);

/** Append-only, like a run's events. */
export const refitEntries = pgTable(
  "refit_entries",
  {
    id: uuid().primaryKey(),
    workshopId: workshop(),
    refitId: uuid().notNull(),
    /** None where the owner answered by their link. */
    personId: uuid(),
    /** Under which name it was said. */
    byName: text().notNull().default(""),
    position: integer().notNull(),
    body: jsonb().$type<RefitBody>().notNull(),
    at: at().notNull(),
    receivedAt: at().notNull().defaultNow(),
  },
  (t) => [
    unique("refit_entries_in_order").on(t.refitId, t.position),
    foreignKey({
      columns: [t.workshopId, t.refitId],
      foreignColumns: [refits.workshopId, refits.id],
    }).onDelete("cascade"),
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
  ],
);

/** The workshop's own list: what each thing of a refit costs, how long a roll is, which rest pieces lie in the stores. */
export const priceLines = pgTable(
  "price_lines",
  {
    workshopId: workshop(),
    key: text().notNull(),
    label: text().notNull().default(""),
    price: real(),
    rollM: real(),
    restsM: jsonb().$type<number[]>().notNull().default([]),
  },
  (t) => [primaryKey({ columns: [t.workshopId, t.key] })],
);
