import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { fileURLToPath } from "node:url";
import pg from "pg";
import * as schema from "./schema/index.ts";

export type Db = NodePgDatabase<typeof schema>;

const MIGRATIONS = fileURLToPath(new URL("../drizzle", import.meta.url));

export interface Database {
  readonly db: Db;
  readonly close: () => Promise<void>;
}

/** Opens a pool on a PostgreSQL database. */
export const openDatabase = (url: string): Database => {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000 });
  // An idle connection that the server closes must not end the process; the next query opens another.
  pool.on("error", () => undefined);
  return { db: drizzle(pool, { schema, casing: "snake_case" }), close: () => pool.end() };
};

/** Brings the database to the newest form; safe to do twice. */
export const migrateDatabase = (db: Db): Promise<void> => migrate(db, { migrationsFolder: MIGRATIONS });
