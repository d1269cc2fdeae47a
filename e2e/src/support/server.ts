import { type ChildProcess, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtemp, readdir, rm } from "node:fs/promises";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import pg from "pg";

/** The real server on a database of its own, started and killed as an operating system would. */

const ROOT = fileURLToPath(new URL("../../..", import.meta.url));
export const PASSWORD = "demo password of the tests";

export interface Server {
  readonly url: string;
  /** Ends the server at once, as a crash would. */
  readonly crash: () => Promise<void>;
  readonly start: () => Promise<void>;
  readonly close: () => Promise<void>;
}

const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.on("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() =>
        address && typeof address === "object"
          ? resolve(address.port)
          : reject(new Error("no port")),
      );
    });
  });

const answers = async (url: string): Promise<boolean> => {
  try {
    return (await fetch(`${url}/api/health`)).ok;
  } catch {
    return false;
  }
};

/** Looks again and again until a thing is so; the only waiting here, and bounded. */
const until = async (so: () => Promise<boolean>, what: string): Promise<void> => {
  const end = Date.now() + 120_000;
  while (!(await so())) {
    if (Date.now() > end) throw new Error(`${what} did not happen within 120 s`);
    await new Promise((again) => setTimeout(again, 50));
  }
};

const TEMPLATE = "shed_e2e_template";

const today = (): string => new Date().toISOString().slice(0, 10);
// The workers inherit it from whoever made the template first.
const MADE_ON = "SHED_E2E_TEMPLATE_MADE_ON";

/** Loads the demo, which is laid out round the day it is loaded on, into a database of its own, from which those of the tests are copied. */
export const makeTemplate = async (): Promise<void> => {
  process.env[MADE_ON] = today();
  const admin = await connect();
  await admin.query(`drop database if exists ${TEMPLATE} with (force)`);
  await admin.query(`create database ${TEMPLATE}`);
  await admin.end();
  const server = await serverOn(TEMPLATE);
  await server.stop("SIGTERM");
};

const connect = async (): Promise<pg.Client> => {
  const base = process.env["TEST_DATABASE_URL"];
  if (!base) throw new Error('The browser tests need PostgreSQL: run "npm test".');
  const admin = new pg.Client({ connectionString: base });
  await admin.connect();
  return admin;
};

/** One server for the tests of a worker; each test begins on a fresh copy of the demo. */
export const openServer = async (): Promise<Server & { readonly fresh: () => Promise<void> }> => {
  const admin = await connect();
  const name = `shed_e2e_${randomUUID().replaceAll("-", "")}`;
  const copy = async (): Promise<void> => {
    await admin.query(`drop database if exists ${name} with (force)`);
    await admin.query(`create database ${name} template ${TEMPLATE}`);
  };
  await copy();
  const server = await serverOn(name);
  return {
    url: server.url,
    start: server.start,
    crash: () => server.stop("SIGKILL"),
    fresh: async () => {
      // Tests that run over midnight begin on the demo of their own day.
      if (process.env[MADE_ON] !== today()) await makeTemplate();
      await copy();
      // A test that ended badly may have left it down; its connections to the old database are gone in any case.
      if (!(await answers(server.url))) {
        await server.stop("SIGKILL");
        await server.start();
      }
    },
    close: async () => {
      await server.stop("SIGTERM");
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
};

/** A server on an empty database, as it is first started, with the code that it printed. */
export const openEmptyServer = async (): Promise<Server & { readonly code: string }> => {
  const admin = await connect();
  const name = `shed_e2e_${randomUUID().replaceAll("-", "")}`;
  await admin.query(`create database ${name}`);
  const server = await serverOn(name, "");
  return {
    url: server.url,
    code: server.code(),
    start: server.start,
    crash: () => server.stop("SIGKILL"),
    close: async () => {
      await server.stop("SIGTERM");
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
};

/** Several servers begun at the same moment on one empty database. */
export const openTogether = async (
  many: number,
): Promise<{ readonly urls: readonly string[]; readonly close: () => Promise<void> }> => {
  const admin = await connect();
  const name = `shed_e2e_${randomUUID().replaceAll("-", "")}`;
  await admin.query(`create database ${name}`);
  const servers = await Promise.all(Array.from({ length: many }, () => serverOn(name)));
  return {
    urls: servers.map((s) => s.url),
    close: async () => {
      await Promise.all(servers.map((s) => s.stop("SIGTERM")));
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
};

/** A server of the demo that keeps backups in a folder of its own, whose database can be wiped, and on which commands are run. */
export const openKeptServer = async (): Promise<
  Server & {
    readonly wipe: () => Promise<void>;
    /** The newest backup, as a file. */
    readonly newest: () => Promise<string>;
    readonly shed: (...args: string[]) => Promise<string>;
  }
> => {
  const admin = await connect();
  const name = `shed_e2e_${randomUUID().replaceAll("-", "")}`;
  const folder = await mkdtemp(join(tmpdir(), "shed-e2e-"));
  await admin.query(`create database ${name} template ${TEMPLATE}`);
  const server = await serverOn(name, PASSWORD, { BACKUPS: folder });
  const database = new URL(process.env["TEST_DATABASE_URL"] ?? "");
  database.pathname = `/${name}`;
  return {
    url: server.url,
    start: server.start,
    crash: () => server.stop("SIGKILL"),
    wipe: async () => {
      const client = new pg.Client({ connectionString: database.href });
      await client.connect();
      await client.query("truncate workshops cascade");
      await client.end();
    },
    newest: async () => join(folder, (await readdir(folder)).toSorted().at(-1) ?? ""),
    shed: async (...args) => {
      const child = spawn("node", ["--import", "tsx", "server/src/admin/shed.ts", ...args], {
        cwd: ROOT,
        stdio: ["ignore", "pipe", "inherit"],
        env: { ...process.env, DATABASE_URL: database.href },
      });
      let said = "";
      child.stdout.on("data", (chunk) => (said += String(chunk)));
      await new Promise((resolve) => child.once("exit", resolve));
      return said;
    },
    close: async () => {
      await server.stop("SIGTERM");
      const { rows } = await admin.query<{ name: string }>(
        "select datname as name from pg_database where datname like $1",
        [`${name}%`],
      );
      for (const row of rows) await admin.query(`drop database ${row.name} with (force)`);
      await admin.end();
      await rm(folder, { recursive: true });
    },
  };
};

const serverOn = async (
  name: string,
  demoPassword: string = PASSWORD,
  more: Readonly<Record<string, string>> = {},
) => {
  const base = process.env["TEST_DATABASE_URL"] ?? "";
  const database = new URL(base);
  database.pathname = `/${name}`;
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  let child: ChildProcess | undefined;
  let printed = "";
  const start = async (): Promise<void> => {
    child = spawn("node", ["--import", "tsx", "server/src/main.ts"], {
      cwd: ROOT,
      stdio: ["ignore", "pipe", "inherit"],
      env: {
        ...process.env,
        DATABASE_URL: database.href,
        PORT: String(port),
        DEMO_PASSWORD: demoPassword,
        SIGN_INS_PER_MINUTE: "1000",
        REQUESTS_PER_MINUTE: "100000",
        ...more,
      },
    });
    child.stdout?.on("data", (chunk) => (printed += String(chunk)));
    await until(() => answers(url), "the server's start");
  };
  const end = async (signal: NodeJS.Signals): Promise<void> => {
    const ending = child;
    if (!ending || ending.exitCode !== null || ending.signalCode !== null) return;
    const gone = new Promise((resolve) => ending.once("exit", resolve));
    ending.kill(signal);
    await gone;
  };
  await start();
  const code = (): string => /Set-up code: (\S+)/u.exec(printed)?.[1] ?? "";
  return { url, start, stop: end, code };
};
