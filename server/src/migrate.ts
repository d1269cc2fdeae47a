import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { mkdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import pg from "pg";
import { CONNECT_MS, type Db } from "./db.ts";
import { restoreBackup, writeBackup } from "./keeping/backup.ts";
import * as schema from "./schema/index.ts";
import { upgradeData } from "./upgrade/index.ts";

const MIGRATIONS = fileURLToPath(new URL("../drizzle", import.meta.url));

// Any number that nobody else takes: one server at a time brings a database up to date.
const UPGRADE_LOCK = 7_205_118;

/** Whether a database that holds something is of an earlier release. */
const isOlder = async (client: pg.Client): Promise<boolean> => {
  const { rows: there } = await client.query<{ made: string | null; kept: string | null }>(
    "select to_regclass('drizzle.__drizzle_migrations')::text as made, to_regclass('public.workshops')::text as kept",
  );
  if (!there[0]?.made || !there[0].kept) return false;
  const { rows } = await client.query<{ done: number; workshops: number }>(
    "select (select count(*) from drizzle.__drizzle_migrations)::int as done, (select count(*) from workshops)::int as workshops",
  );
  const journal = JSON.parse(await readFile(join(MIGRATIONS, "meta/_journal.json"), "utf8")) as {
    entries: unknown[];
  };
  return (rows[0]?.workshops ?? 0) > 0 && (rows[0]?.done ?? 0) < journal.entries.length;
};

/** What an upgrade came to that did not succeed: the database is as it was before, and where not, that is said. */
export class UpgradeFailed extends Error {}

/** Puts back what was there before an upgrade that failed. @throws UpgradeFailed, always */
const goBack = async (url: string, file: string, cause: unknown): Promise<never> => {
  const why = cause instanceof Error ? cause.message : "unknown";
  try {
    const { before } = await restoreBackup(url, file);
    throw new UpgradeFailed(
      `The upgrade of the database failed: ${why}. It is as it was before; what the upgrade had made of it is kept as the database ${before}. Start the release of before, and keep ${file}.`,
      { cause },
    );
  } catch (error) {
    if (error instanceof UpgradeFailed) throw error;
    throw new UpgradeFailed(
      `The upgrade of the database failed: ${why}. It could not be put back by itself: ${(error as Error).message}. What was there before is in ${file}: "shed restore ${file}" brings it back.`,
      { cause },
    );
  }
};

/**
 * Brings the database to the newest form, tables and data; safe to do twice, and by two servers at once. One of an earlier release is
 * backed up first where there is a folder for it, and goes back by itself where the upgrade fails.
 * @param then what else one server at a time does before it serves
 * @param folder where backups lie
 */
export const migrateDatabase = async (
  url: string,
  then: () => Promise<void> = async () => undefined,
  folder?: string,
): Promise<void> => {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: CONNECT_MS });
  client.on("error", () => undefined);
  await client.connect();
  try {
    await client.query(`select pg_advisory_lock(${UPGRADE_LOCK})`);
    let before: string | undefined;
    if (folder !== undefined && (await isOlder(client))) {
      const at = new Date().toISOString();
      const stamp = `${at.slice(0, 10)}-${at.slice(11, 19).replaceAll(":", "")}`;
      await mkdir(folder, { recursive: true, mode: 0o700 });
      before = join(folder, `before-upgrade-${stamp}.shed`);
      await writeBackup(url, before);
    }
    try {
      const db: Db = drizzle(client, { schema, casing: "snake_case" });
      await migrate(db, { migrationsFolder: MIGRATIONS });
      await upgradeData(db);
      await then();
    } catch (error) {
      if (before === undefined) throw error;
      await client.end().catch(() => undefined);
      await goBack(url, before, error);
    }
  } finally {
    await client.end().catch(() => undefined);
  }
};
