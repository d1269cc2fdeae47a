import { customType, timestamp, uuid } from "drizzle-orm/pg-core";
import { workshops } from "./workshops.ts";

/**
 * Columns that many tables have. Every row carries its workshop, and every reference names it too, so that the database itself refuses
 * a row of one workshop that points into another.
 */

export const id = () => uuid().primaryKey().defaultRandom();
export const at = () => timestamp({ withTimezone: true, mode: "date" });
/** Bytes as they are. */
export const bytes = customType<{ data: Buffer; default: false }>({ dataType: () => "bytea" });
export const workshop = () =>
  uuid()
    .notNull()
    .references(() => workshops.id, { onDelete: "cascade" });

export { oneOf } from "./one-of.ts";
