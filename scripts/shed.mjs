import { spawnSync } from "node:child_process";
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { buildCli } from "./lib/build.mjs";
import { npmPackages, postgresPrograms } from "./lib/deps.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { ROOT } from "./lib/run.mjs";
import { orElseSay } from "./lib/say.mjs";

/**
 * npm run --silent shed -- …: the command line, built when something has changed. Paths are taken from where the caller stands. What is of
 * workshops and people goes to the database: the one in DATABASE_URL, or the private one, started for it where it does not run.
 */
const HOME = process.env.SHED_HOME ?? join(ROOT, ".shed");

const ON_DATABASE = new Set(["workshop", "person", "backup", "check-backup", "restore"]);

const onDatabase = async (args) => {
  let url = process.env.DATABASE_URL;
  let stop = () => undefined;
  if (!url) {
    mkdirSync(HOME, { recursive: true });
    const folder = join(HOME, "postgres");
    const cluster = await openCluster(await postgresPrograms(), folder);
    // One that runs for somebody else goes on.
    if (!cluster.ranBefore) stop = cluster.stop;
    ({ url } = cluster);
  }
  try {
    const { status } = spawnSync(
      "node",
      ["--import", "tsx", join(ROOT, "server/src/admin/shed.ts"), ...args],
      {
        cwd: ROOT,
        env: {
          ...process.env,
          DATABASE_URL: url,
          CALLED_FROM: process.env.CALLED_FROM ?? process.env.INIT_CWD ?? process.cwd(),
        },
        stdio: "inherit",
      },
    );
    process.exitCode = status ?? 1;
  } finally {
    stop();
  }
};

await orElseSay(async () => {
  const args = process.argv.slice(2);
  await npmPackages({ quiet: true });
  if (ON_DATABASE.has(args[0])) return onDatabase(args);
  await buildCli();
  process.env.CALLED_FROM ??= process.env.INIT_CWD ?? process.cwd();
  await import(pathToFileURL(join(ROOT, "cli", "dist", "shed.js")).href);
});
