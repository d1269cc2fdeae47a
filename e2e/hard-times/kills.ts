import type { Me, Unit } from "@uppershed/contract";
import { standardSetup } from "@uppershed/core/procedure";
import { type ChildProcess, fork, spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import pg from "pg";
import { build } from "vite";
import { chance } from "./random.ts";
import type { Made } from "./device.ts";

/**
 * npm run hard:kills: seeded kills of the server and of its database in the middle of work, with devices that retry as the application does.
 * Says what was lost, doubled, out of order, or refused, and how often the server ended by itself.
 *   KILLS=300 SEED=1 DEVICES=4 npm run hard:kills
 */

const ROOT = fileURLToPath(new URL("../..", import.meta.url));
const KILLS = Number(process.env["KILLS"] ?? "300");
const SEED = Number(process.env["SEED"] ?? "1");
const DEVICES = Number(process.env["DEVICES"] ?? "4");
const HOME = join(ROOT, ".shed", `kills-${process.pid}`);
const PASSWORD = "password of the hard times";
const UNITS = ["Plover", "Burdock", "Teasel", "Sundew", "Wagtail", "Dipper"];

interface Cluster {
  readonly url: string;
  readonly data: string;
  readonly start: () => Promise<void>;
  readonly stop: () => void;
  readonly control: (args: readonly string[]) => boolean;
}
interface Helpers {
  readonly openCluster: (programs: string, folder: string) => Promise<Cluster>;
  readonly postgresPrograms: () => Promise<string>;
  readonly freePort: () => Promise<number>;
}
const helpers = async (): Promise<Helpers> => {
  const at = (file: string): string => join(ROOT, "scripts", "lib", file);
  return {
    ...((await import(at("postgres.mjs"))) as object),
    ...((await import(at("deps.mjs"))) as object),
  } as Helpers;
};

/** Looks again and again until a thing is so. */
const until = async (
  so: () => Promise<boolean> | boolean,
  what: string,
  seconds = 90,
): Promise<void> => {
  const end = Date.now() + seconds * 1000;
  while (!(await so())) {
    if (Date.now() > end) throw new Error(`${what} did not happen within ${seconds} s`);
    await sleep(50);
  }
};

class Server {
  child: ChildProcess | undefined;
  /** How often it ended without having been told to. */
  endedByItself = 0;
  #told = false;
  readonly #port: number;
  readonly #database: string;
  constructor(port: number, database: string) {
    this.#port = port;
    this.#database = database;
  }
  get url(): string {
    return `http://127.0.0.1:${this.#port}`;
  }
  async answers(): Promise<boolean> {
    return fetch(`${this.url}/api/health`)
      .then((r) => r.ok)
      .catch(() => false);
  }
  begin(): void {
    this.#told = false;
    const limits = { SIGN_INS_PER_MINUTE: "1000", REQUESTS_PER_MINUTE: "1000000" };
    const env = {
      ...process.env,
      ...limits,
      DATABASE_URL: this.#database,
      PORT: String(this.#port),
      DEMO_PASSWORD: PASSWORD,
    };
    const child = spawn("node", ["--import", "tsx", "server/src/main.ts"], {
      cwd: ROOT,
      env,
      stdio: ["ignore", "ignore", "pipe"],
    });
    this.child = child;
    let last = "";
    child.stderr?.on("data", (chunk) => (last = String(chunk).slice(-400)));
    child.on("exit", (code, signal) => {
      if (this.#told) return;
      this.endedByItself += 1;
      console.log(`the server ended by itself: ${code ?? signal} ${last}`);
      this.begin();
    });
  }
  async end(signal: NodeJS.Signals): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    this.#told = true;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill(signal);
    await gone;
  }
}

const deviceProgram = async (): Promise<string> => {
  const outDir = join(HOME, "device");
  await build({
    configFile: false,
    logLevel: "warn",
    root: ROOT,
    build: {
      ssr: join(ROOT, "e2e/hard-times/device.ts"),
      outDir,
      emptyOutDir: true,
      minify: false,
      rollupOptions: { output: { entryFileNames: "device.mjs" } },
    },
    ssr: { noExternal: true },
  });
  return join(outDir, "device.mjs");
};

const lib = await helpers();
mkdirSync(HOME, { recursive: true });
const program = await deviceProgram();
const cluster = await lib.openCluster(await lib.postgresPrograms(), join(HOME, "postgres"));
const server = new Server(await lib.freePort(), cluster.url);
const { below, pick, next } = chance(SEED);

/** One row of a table that says how it went. */
const kills: Record<string, number> = {};
const KINDS = {
  "server, at once": async () => {
    await server.end("SIGKILL");
    await sleep(below(600));
    server.begin();
  },
  "server, told to stop": async () => {
    await server.end("SIGTERM");
    server.begin();
  },
  "database, at once": async () => {
    const [postmaster] = readFileSync(join(cluster.data, "postmaster.pid"), "utf8").split("\n");
    process.kill(Number(postmaster), "SIGKILL");
    await sleep(below(800));
    await cluster.start();
  },
  "database, restarted": async () => {
    cluster.control(["-m", next() < 0.5 ? "fast" : "immediate", "-w", "restart"]);
  },
  "every connection": async () => {
    const admin = new pg.Client({ connectionString: cluster.url });
    admin.on("error", () => undefined);
    await admin.connect();
    await admin.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and datname = current_database()",
    );
    await admin.end();
  },
} as const;

const main = async (): Promise<boolean> => {
  server.begin();
  await until(() => server.answers(), "the server's start");
  const reply = await fetch(`${server.url}/api/sign-in`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ name: "odile", password: PASSWORD }),
  });
  const me = (await reply.json()) as Me;
  const cookie = reply.headers.get("set-cookie")?.split(";")[0] ?? "";
  const ask = async <T>(path: string, body?: object): Promise<T> => {
    const init = body && { method: "POST", body: JSON.stringify(body) };
    const answer = await fetch(`${server.url}/api${path}`, {
      ...init,
      headers: { cookie, "content-type": "application/json" },
    });
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return (await answer.json()) as T;
  };
  const { units } = await ask<{ units: Unit[] }>("/units?limit=200");
  const startRun = async (name: string): Promise<{ unitId: string; runId: string }> => {
    const unit = units.find((u) => u.name === name);
    if (!unit) throw new Error(`no ${name}`);
    const runId = randomUUID();
    await ask("/runs", {
      id: runId,
      unitId: unit.id,
      visitId: null,
      mapRevision: unit.mapRevision,
      setup: standardSetup(),
    });
    return { unitId: unit.id, runId };
  };
  const shared = await startRun("Turnstone");
  const devices: { child: ChildProcess; said: Promise<Said> }[] = [];
  for (let i = 0; i < DEVICES; i++) {
    const { unitId, runId } = await startRun(UNITS[i] ?? "Plover");
    const orders = {
      url: server.url,
      cookie,
      me,
      unitId,
      runId,
      sharedRunId: shared.runId,
      seed: SEED * 1000 + i,
    };
    const child = fork(program, {
      env: { ...process.env, ORDERS: JSON.stringify(orders) },
      execArgv: [],
    });
    const said = new Promise<Said>((resolve, reject) => {
      child.on("message", (message) => resolve(message as Said));
      child.on("exit", (code) => reject(new Error(`a device ended: ${code}`)));
    });
    devices.push({ child, said });
  }
  const began = Date.now();
  for (let i = 1; i <= KILLS; i++) {
    await sleep(200 + below(1800));
    const kind = pick(Object.keys(KINDS) as (keyof typeof KINDS)[]);
    kills[kind] = (kills[kind] ?? 0) + 1;
    await KINDS[kind]();
    // Sometimes the next blow falls before it stands again.
    if (next() < 0.7)
      await until(() => server.answers(), `after kill ${i} (${kind}) the server's answer`);
    if (i % 25 === 0) console.log(`${i} kills, ${Math.round((Date.now() - began) / 1000)} s`);
  }
  await until(() => server.answers(), "the server's last answer");
  for (const { child } of devices) child.send("stop");
  const all = await Promise.all(devices.map((d) => d.said));
  return judge(all);
};

interface Said {
  readonly made: readonly Made[];
  readonly refused: readonly { readonly what: string; readonly why: string }[];
  readonly waiting: number;
}

const TABLES = {
  "run-event": "run_events",
  note: "notes",
  looks: "looks",
  reading: "readings",
  finding: "finding_entries",
} as const;

/** Holds what the devices made against what the database has. */
const judge = async (all: readonly Said[]): Promise<boolean> => {
  const admin = new pg.Client({ connectionString: cluster.url });
  await admin.connect();
  const idsIn = async (table: string): Promise<Map<string, number>> => {
    const order = table === "run_events" ? "run_id, position" : "id";
    const { rows } = await admin.query<{ id: string }>(`select id from ${table} order by ${order}`);
    const count = new Map<string, number>();
    for (const { id } of rows) count.set(id, (count.get(id) ?? 0) + 1);
    return count;
  };
  let [lost, doubled, disordered, inAll] = [0, 0, 0, 0];
  for (const [kind, table] of Object.entries(TABLES)) {
    const kept = await idsIn(table);
    const places = new Map([...kept.keys()].map((id, i) => [id, i]));
    for (const { made } of all) {
      const mine = made.filter((m) => m.kind === kind);
      inAll += mine.length;
      for (const { id } of mine) {
        const times = kept.get(id) ?? 0;
        if (times === 0) lost += 1;
        if (times > 1) doubled += 1;
      }
      if (kind !== "run-event") continue;
      for (const runId of new Set(mine.map((m) => m.runId))) {
        const order = mine
          .flatMap((m) => (m.runId === runId ? [places.get(m.id) ?? -1] : []))
          .filter((p) => p >= 0);
        disordered += order.filter((p, i) => i > 0 && p < (order[i - 1] ?? 0)).length;
      }
    }
  }
  // What nobody made: a finding or a reading that a device did not send cannot be there under its unit since the run began.
  const { rows: astray } = await admin.query<{ n: number }>(
    "select count(*)::int as n from run_events e where not exists (select 1 from runs r where r.id = e.run_id)",
  );
  await admin.end();
  const refused = all.flatMap((s) => s.refused);
  const waiting = all.reduce((n, s) => n + s.waiting, 0);
  console.log(
    `\n${KILLS} kills (seed ${SEED}): ${Object.entries(kills)
      .map(([k, n]) => `${n} ${k}`)
      .join(", ")}`,
  );
  console.log(`${inAll} entries made on ${DEVICES} devices`);
  console.log(
    `${lost} lost, ${doubled} doubled, ${disordered} out of order, ${refused.length} refused, ${waiting} still waiting`,
  );
  console.log(
    `${server.endedByItself} times the server ended by itself; ${astray[0]?.n ?? 0} entries of no run`,
  );
  for (const r of refused.slice(0, 5)) console.log(`  refused: ${r.what}: ${r.why}`);
  return lost + doubled + disordered + refused.length + waiting + server.endedByItself === 0;
};

let good = false;
try {
  good = await main();
} finally {
  await server.end("SIGTERM");
  cluster.stop();
  rmSync(HOME, { recursive: true, force: true });
}
process.exit(good ? 0 : 1);
