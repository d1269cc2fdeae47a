import {
  DATE_STYLES,
  type DateStyle,
  UNIT_SYSTEMS,
  type UnitSystem,
} from "@uppershed/core/quantity";
import { sql } from "drizzle-orm";
import { boolean, check, pgTable, real, text, uuid } from "drizzle-orm/pg-core";
import { oneOf } from "./one-of.ts";

export const workshops = pgTable(
  "workshops",
  {
    id: uuid().primaryKey().defaultRandom(),
    name: text().notNull(),
    place: text().notNull(),
    /** How it measures and writes numbers. */
    units: text().$type<UnitSystem>().notNull(),
    dates: text().$type<DateStyle>().notNull().default("day-month-year"),
    winterLowC: real().notNull(),
    /** Made up, to look at: never shared with real work, and taken away whole. */
    isDemo: boolean().notNull().default(false),
    /** With which links for owners are signed; made by the database, told to nobody. */
    linkKey: text()
      .notNull()
      .default(sql`replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')`),
  },
  (t) => [
    check("workshops_units", sql`${t.units} in ${oneOf(UNIT_SYSTEMS)}`),
    check("workshops_dates", sql`${t.dates} in ${oneOf(DATE_STYLES)}`),
  ],
);
