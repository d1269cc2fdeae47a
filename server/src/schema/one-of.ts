import { type SQL, sql } from "drizzle-orm";

/** A list as the database takes it in a check: each list is stated once, in core. */
export const oneOf = (values: readonly string[]): SQL =>
  sql.raw(`(${values.map((v) => `'${v}'`).join(", ")})`);
