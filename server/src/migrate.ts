import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { fileURLToPath } from "node:url";
import pg from "pg";
import { CONNECT_MS, type Db } from "./db.ts";
import * as schema from "./schema/index.ts";
import { upgradeData } from "./upgrade/index.ts";

const MIGRATIONS = fileURLToPath(new URL("../drizzle", import.meta.url));

// Any number that nobody else takes: one server at a time brings a database up to date.
const UPGRADE_LOCK = 7_205_118;

/**
 * Brings the database to the newest form, tables and data; safe to do twice, and by two servers at once.
 * @param then what else one server at a time does before it serves
 */
export const migrateDatabase = async (
  url: string,
  then: () => Promise<void> = async () => undefined,
): Promise<void> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: CONNECT_MS });
  client.on("error", () => undefined);
  await client.connect();
  try {
    await client.query(`select pg_advisory_lock(${UPGRADE_LOCK})`);
    const db: Db = drizzle(client, { schema, casing: "snake_case" });
    await migrate(db, { migrationsFolder: MIGRATIONS });
    await upgradeData(db);
    await then();
  } finally {
    await client.end().catch(() => undefined);
  }
};
