import { pgTable, text } from "drizzle-orm/pg-core";
import { at } from "./columns.ts";

/** What has been done to the data beside the migrations in SQL; each step once. */
export const dataMigrations = pgTable("data_migrations", {
  name: text().primaryKey(),
  at: at().notNull().defaultNow(),
});
