import { MERGED } from "@uppershed/core/inspection";
import { sql } from "drizzle-orm";
import { check, foreignKey, index, jsonb, pgTable, text, unique, uuid } from "drizzle-orm/pg-core";
import { at, id, oneOf, workshop } from "./columns.ts";
import { people } from "./people.ts";

export const customers = pgTable(
  "customers",
  {
    id: id(),
    workshopId: workshop(),
    name: text().notNull(),
    phone: text().notNull().default(""),
    email: text().notNull().default(""),
    address: text().notNull().default(""),
    note: text().notNull().default(""),
    /** Everything by which the customer is found, in small letters. */
    search: text().notNull().default(""),
    /** The customer that this one turned out to be; it is kept, and found by its own words. */
    mergedInto: uuid(),
  },
  (t) => [
    unique("customers_in_workshop").on(t.workshopId, t.id),
    foreignKey({ columns: [t.workshopId, t.mergedInto], foreignColumns: [t.workshopId, t.id] }),
    check("customers_not_own_double", sql`${t.mergedInto} is null or ${t.mergedInto} <> ${t.id}`),
    index("customers_by_name").on(t.workshopId, t.name),
    index("customers_by_words").using("gin", t.search.op("gin_trgm_ops")),
  ],
);

/** Doubles that were put together: who, when, which, and what was moved. */
export const merges = pgTable(
  "merges",
  {
    id: id(),
    workshopId: workshop(),
    what: text().$type<(typeof MERGED)[number]>().notNull(),
    keptId: uuid().notNull(),
    goneId: uuid().notNull(),
    personId: uuid().notNull(),
    /** Units that changed their owner with it, so that it can be undone by hand. */
    moved: jsonb().$type<string[]>().notNull(),
    at: at().notNull().defaultNow(),
  },
  (t) => [
    foreignKey({
      columns: [t.workshopId, t.personId],
      foreignColumns: [people.workshopId, people.id],
    }),
    check("merges_what", sql`${t.what} in ${oneOf(MERGED)}`),
  ],
);
