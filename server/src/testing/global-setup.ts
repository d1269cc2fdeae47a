import pg from "pg";
import { openDatabase } from "../db.ts";
import { migrateDatabase } from "../migrate.ts";

export const TEMPLATE = "shed_template";

/** Makes one migrated template; each test file copies it. */
export default async (): Promise<void> => {
  const url = process.env["TEST_DATABASE_URL"];
  if (!url)
    throw new Error(
      'The server tests need PostgreSQL: run "npm test", which starts one, or set TEST_DATABASE_URL.',
    );
  const admin = new pg.Client({ connectionString: url });
  await admin.connect();
  await admin.query(`drop database if exists ${TEMPLATE}`);
  await admin.query(`create database ${TEMPLATE}`);
  await admin.end();
  const template = new URL(url);
  template.pathname = `/${TEMPLATE}`;
  const database = openDatabase(template.href);
  // Twice: a start after a start must not stumble over its own migrations.
  await migrateDatabase(template.href);
  await migrateDatabase(template.href);
  await database.close();
};
