import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { setTimeout as sleep } from "node:timers/promises";
import pg from "pg";
import * as schema from "./schema/index.ts";

export type Db = NodePgDatabase<typeof schema>;
/** The database within a transaction. */
export type Tx = Parameters<Parameters<Db["transaction"]>[0]>[0];

export interface Database {
  readonly db: Db;
  readonly close: () => Promise<void>;
}

const POOL = 10;
// Who waits longer than this for a row that another request holds is told to come again, so that a few cannot take the whole pool.
const LOCK_MS = 4_000;
// A lost client must not hold its rows, and no single statement of ours takes this long.
const STATEMENT_MS = 60_000;
const IDLE_IN_TRANSACTION_MS = 60_000;
export const CONNECT_MS = 5_000;

/** Opens a pool on a PostgreSQL database. */
export const openDatabase = (url: string): Database => {
  const pool = new pg.Pool({
    connectionString: url,
    max: POOL,
    connectionTimeoutMillis: CONNECT_MS,
    lock_timeout: LOCK_MS,
    statement_timeout: STATEMENT_MS,
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
  });
  // A connection that the server closes, idle or in the middle of a transaction, must not end the process: whoever was using it gets the
  // failure as an answer, and the next query opens another.
  pool.on("error", () => undefined);
  pool.on("connect", (client) => client.on("error", () => undefined));
  return { db: drizzle(pool, { schema, casing: "snake_case" }), close: () => pool.end() };
};

/** A database that is only starting, or is not there yet. */
const NOT_YET: ReadonlySet<string> = new Set(["ECONNREFUSED", "ECONNRESET", "57P03"]);

const codeOf = (error: unknown): string => (error as { code?: string }).code ?? "";

/** Waits until a database answers, up to a bound; any other failure than not being up yet is thrown at once. */
export const waitForDatabase = async (url: string, withinMs: number): Promise<void> => {
  const until = Date.now() + withinMs;
  for (;;) {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: CONNECT_MS });
    client.on("error", () => undefined);
    try {
      await client.connect();
      await client.end();
      return;
    } catch (error) {
      await client.end().catch(() => undefined);
      if (!NOT_YET.has(codeOf(error)) || Date.now() >= until) throw error;
      await sleep(300);
    }
  }
};
