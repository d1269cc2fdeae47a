import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import type { FastifyInstance } from "fastify";
import pg from "pg";
import { buildApp } from "../app.ts";
import { type Database, openDatabase } from "../db.ts";
import { migrateDatabase } from "../migrate.ts";

/** Databases as earlier releases wrote them, opened by this one. Made by scripts/release-fixture/make.mjs and never changed. */

export interface ReleaseServer {
  readonly app: FastifyInstance;
  readonly database: Database;
  readonly url: string;
  readonly close: () => Promise<void>;
}

const file = (name: string): string =>
  readFileSync(fileURLToPath(new URL(`./releases/${name}`, import.meta.url)), "utf8");

/** What a release said of everything in its database. */
export const saidBy = (release: string): unknown => JSON.parse(file(`${release}.json`));

/** A release's database as it was left, in a database of its own. */
export const layRelease = async (
  release: string,
  before: (client: pg.Client) => Promise<void> = async () => undefined,
): Promise<{ url: string; drop: () => Promise<void> }> => {
  const admin = new pg.Client({ connectionString: process.env["TEST_DATABASE_URL"] });
  await admin.connect();
  const name = `release_${randomUUID().replaceAll("-", "")}`;
  await admin.query(`create database ${name}`);
  const url = new URL(process.env["TEST_DATABASE_URL"] ?? "");
  url.pathname = `/${name}`;
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  await client.query(file(`${release}.sql`));
  await client.query("set search_path to public");
  await before(client);
  await client.end();
  const drop = async (): Promise<void> => {
    const { rows } = await admin.query<{ name: string }>(
      "select datname as name from pg_database where datname like $1",
      [`${name}%`],
    );
    for (const row of rows) await admin.query(`drop database ${row.name} with (force)`);
    await admin.end();
  };
  return { url: url.href, drop };
};

/** Restores a release's database, lets something be done to it, and starts this version on it. */
export const openRelease = async (
  release: string,
  before: (client: pg.Client) => Promise<void> = async () => undefined,
): Promise<ReleaseServer> => {
  const { url, drop } = await layRelease(release, before);
  await migrateDatabase(url);
  // A start after a start must not stumble over what the first one did.
  await migrateDatabase(url);
  const database = openDatabase(url);
  const app = await buildApp(database.db, {
    secureCookies: false,
    signInsPerMinute: 1000,
    requestsPerMinute: 1e5,
    log: false,
  });
  const close = async (): Promise<void> => {
    await app.close();
    await database.close();
    await drop();
  };
  return { app, database, url, close };
};
