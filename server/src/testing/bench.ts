import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { standardSetup } from "@uppershed/core/procedure";
import type { FastifyInstance, InjectOptions, LightMyRequestResponse } from "fastify";
import { randomUUID } from "node:crypto";
import pg from "pg";
import { buildApp, type Settings } from "../app.ts";
import { type Database, openDatabase } from "../db.ts";
import { DailyBackups } from "../keeping/daily.ts";
import { hashPassword } from "../people/passwords.ts";
import { customers, mapRevisions, people, units, workshops } from "../schema/index.ts";
import { scopeFor } from "../scope.ts";
import { TEMPLATE } from "./global-setup.ts";

/** How a run is asked for in the tests. */
export const SETUP = standardSetup();

export const PASSWORD = "correct horse battery";

export interface TestWorkshop {
  readonly id: string;
  readonly unitId: string;
  /** A request as one of its people. */
  readonly as: (
    role: "owner" | "lead" | "technician" | "apprentice" | "desk",
  ) => Promise<(options: InjectOptions) => Promise<LightMyRequestResponse>>;
  readonly signIn: (role: string) => string;
}

export interface TestServer {
  readonly app: FastifyInstance;
  readonly database: Database;
  readonly url: string;
  readonly workshop: (name: string) => Promise<TestWorkshop>;
  readonly close: () => Promise<void>;
}

/** A server on a database of its own, copied from the template. */
export const openTestServer = async (
  settings: Partial<
    Pick<Settings, "signInsPerMinute" | "requestsPerMinute" | "webRoot" | "setUpCode">
  > & { readonly backupsIn?: string } = {},
): Promise<TestServer> => {
  const admin = new pg.Client({ connectionString: process.env["TEST_DATABASE_URL"] });
  await admin.connect();
  const name = `shed_${randomUUID().replaceAll("-", "")}`;
  await admin.query(`create database ${name} template ${TEMPLATE}`);
  const url = new URL(process.env["TEST_DATABASE_URL"] ?? "");
  url.pathname = `/${name}`;
  const database = openDatabase(url.href);
  const app = await buildApp(database.db, {
    secureCookies: false,
    signInsPerMinute: 1000,
    requestsPerMinute: 100_000,
    log: false,
    ...settings,
    ...(settings.backupsIn === undefined
      ? {}
      : { backups: new DailyBackups(url.href, settings.backupsIn) }),
  });
  const passwordHash = await hashPassword(PASSWORD);

  const workshop = async (label: string): Promise<TestWorkshop> => {
    const id = randomUUID();
    const [unitId, customerId, personId] = [randomUUID(), randomUUID(), randomUUID()];
    const signIn = (role: string): string => `${role}@${label}`;
    await database.db
      .insert(workshops)
      .values({ id, name: label, place: "", units: "metric", winterLowC: -18 });
    const scope = scopeFor(database.db, id);
    await scope.add(people, [
      { id: personId, signInName: signIn("lead"), name: "L. Ead", role: "lead", passwordHash },
      { signInName: signIn("technician"), name: "T. Ech", role: "technician", passwordHash },
      { signInName: signIn("apprentice"), name: "A. Prentice", role: "apprentice", passwordHash },
      { signInName: signIn("owner"), name: "O. Wner", role: "owner", passwordHash },
      { signInName: signIn("desk"), name: "D. Esk", role: "desk", passwordHash },
    ]);
    await scope.add(customers, { id: customerId, name: "Owner" });
    await scope.add(units, {
      id: unitId,
      customerId,
      name: `Boat of ${label}`,
      craft: "canal cruiser",
      mapRevision: 1,
    });
    await scope.add(mapRevisions, {
      unitId,
      revision: 1,
      document: EXAMPLE_MAPS[2],
      personId,
      why: "drawn",
    });
    const as: TestWorkshop["as"] = async (role) => {
      const reply = await app.inject({
        method: "POST",
        url: "/api/sign-in",
        payload: { name: signIn(role), password: PASSWORD },
      });
      const cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
      return (options) => app.inject({ ...options, cookies });
    };
    return { id, unitId, as, signIn };
  };

  const close = async (): Promise<void> => {
    await app.close();
    await database.close();
    const { rows } = await admin.query<{ name: string }>(
      "select datname as name from pg_database where datname like $1",
      [`${name}%`],
    );
    for (const row of rows) await admin.query(`drop database ${row.name} with (force)`);
    await admin.end();
  };
  return { app, database, url: url.href, workshop, close };
};
