import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { npmPackages, postgresPrograms } from "./lib/deps.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { ROOT, runToEnd } from "./lib/run.mjs";
import { orElseSay } from "./lib/say.mjs";

/** npm run bench:server: a database of its own, thrown away afterwards, with a large seeded workshop in it. */
await orElseSay(async () => {
  await npmPackages();
  const home = join(ROOT, ".shed");
  mkdirSync(home, { recursive: true });
  const cluster = await openCluster(
    await postgresPrograms(),
    join(home, `bench-postgres-${process.pid}`),
    { throwAway: true },
  );
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"])
    process.on(signal, () => {
      cluster.stop();
      process.exit(1);
    });
  let code = 1;
  try {
    code = await runToEnd("node", ["--import", "tsx", "server/bench/load.ts"], {
      cwd: ROOT,
      env: { ...process.env, DATABASE_URL: cluster.url },
    });
  } finally {
    cluster.stop();
  }
  process.exit(code);
});
