import { fileURLToPath } from "node:url";
import { buildApp } from "./app.ts";
import { registerWords } from "./customers/store.ts";
import { openDatabase, waitForDatabase } from "./db.ts";
import { DEMO_PEOPLE, loadDemo } from "./demo/load.ts";
import { writeBackup } from "./keeping/backup.ts";
import { DailyBackups } from "./keeping/daily.ts";
import { getMap } from "./register/maps.ts";
import { migrateDatabase, UpgradeFailed } from "./migrate.ts";
import { registerMissing } from "./parts/register.ts";
import { workshops } from "./schema/index.ts";
import { scopeFor } from "./scope.ts";
import { newCode } from "./people/codes.ts";
import { isDemoThere, isDemoWanted, isSetUpNeeded } from "./set-up/set-up.ts";

/** Settings from the environment; `npm start` sets them. */
const need = (name: string): string => {
  const value = process.env[name];
  if (value) return value;
  console.error(`${name} is not set. Start the application with "npm start".`);
  process.exit(2);
};

const port = Number(process.env["PORT"] ?? "4700");
const host = process.env["HOST"] ?? "127.0.0.1";
const url = need("DATABASE_URL");
const demoPassword = process.env["DEMO_PASSWORD"];
const database = openDatabase(url);

/** What a person can do about a database that does not come up; its own words may hold passwords and are not printed. */
const WORDS: Record<string, string> = {
  ECONNREFUSED: "nothing answers there",
  ENOTFOUND: "there is no such host",
  "28P01": "the password is wrong",
  "3D000": "there is no such database",
  "42501": "the user may not make tables there",
  "57P03": "it is still starting",
};

// A database that is only starting is waited for.
const WAIT_FOR_DATABASE_MS = Number(process.env["DATABASE_WAIT_S"] ?? "60") * 1000;

const backupFolder = process.env["BACKUPS"];

try {
  await waitForDatabase(url, WAIT_FOR_DATABASE_MS);
  await migrateDatabase(
    url,
    async () => {
      for (const { id } of await database.db.select({ id: workshops.id }).from(workshops)) {
        const scope = scopeFor(database.db, id);
        await registerMissing(scope, async (unitId) => (await getMap(scope, unitId)).document);
        await registerWords(scope);
      }
      if (demoPassword && (await isDemoWanted(database.db)))
        await loadDemo(database.db, demoPassword, new Date());
    },
    backupFolder,
  );
} catch (error) {
  if (error instanceof UpgradeFailed) {
    console.error(error.message);
    process.exit(1);
  }
  const cause = (error as { cause?: { code?: string } }).cause ?? (error as { code?: string });
  const { hostname, port: at, pathname } = new URL(url);
  const code = cause.code ?? "";
  console.error(
    `The database at ${hostname}:${at || "5432"}${pathname} cannot be used: ${WORDS[code] ?? `error ${code || "unknown"}`}. Check DATABASE_URL.`,
  );
  // What is not the database's own failing is ours, and worth its words.
  if (!code) console.error((error as Error).stack);
  process.exit(1);
}

const backups = backupFolder
  ? new DailyBackups(url, backupFolder, writeBackup, (at) => migrateDatabase(at))
  : undefined;
backups?.start();
const setUpCode = (await isSetUpNeeded(database.db)) ? newCode() : undefined;
const app = await buildApp(database.db, {
  secureCookies: process.env["SECURE_COOKIES"] === "1",
  signInsPerMinute: Number(process.env["SIGN_INS_PER_MINUTE"] ?? "20"),
  requestsPerMinute: Number(process.env["REQUESTS_PER_MINUTE"] ?? "1200"),
  setUpCode,
  backups,
  behindProxy: process.env["BEHIND_PROXY"] === "1",
  webRoot: fileURLToPath(new URL("../../web/dist", import.meta.url)),
  log: true,
});

const howToBegin = setUpCode
  ? [`Set-up code: ${setUpCode} (typed once, on the first screen)`]
  : demoPassword && (await isDemoThere(database.db))
    ? [
        `Demo sign-ins: ${DEMO_PEOPLE.map((p) => `${p.signInName} (${p.role})`).join(", ")}; password ${demoPassword}`,
      ]
    : [];

// Requests under way are finished; whoever needs longer than this is cut.
const STOP_WITHIN_MS = 10_000;

let stopping = false;
const stop = async (): Promise<void> => {
  if (stopping) return;
  stopping = true;
  const last = setTimeout(() => process.exit(0), STOP_WITHIN_MS);
  last.unref();
  backups?.stop();
  await app.close();
  await database.close();
  process.exit(0);
};
process.on("SIGINT", () => void stop());
process.on("SIGTERM", () => void stop());

try {
  await app.listen({ port, host });
  console.log([`listening on http://${host}:${port}`, ...howToBegin].join("\n"));
} catch (error) {
  const taken = (error as { code?: string }).code === "EADDRINUSE";
  console.error(
    taken
      ? `Port ${port} is taken. Set PORT to a free one, for example: PORT=4800 npm start`
      : `Could not listen on ${host}:${port}.`,
  );
  process.exit(1);
}
