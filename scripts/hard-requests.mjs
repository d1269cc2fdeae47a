import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { npmPackages, postgresPrograms } from "./lib/deps.mjs";
import { freePort, openCluster } from "./lib/postgres.mjs";
import { ROOT, runToEnd } from "./lib/run.mjs";
import { orElseSay } from "./lib/say.mjs";

/** npm run hard:requests: the real server on a database of its own, and broken requests to it. */
await orElseSay(async () => {
  await npmPackages();
  const home = join(ROOT, ".shed");
  mkdirSync(home, { recursive: true });
  const folder = join(home, `hard-postgres-${process.pid}`);
  const cluster = await openCluster(await postgresPrograms(), folder, { throwAway: true });
  const port = await freePort();
  const env = {
    ...process.env,
    DATABASE_URL: cluster.url,
    PORT: String(port),
    DEMO_PASSWORD: "password of the hard times",
    SIGN_INS_PER_MINUTE: "1000000",
    REQUESTS_PER_MINUTE: "10000000",
    SERVER_URL: `http://127.0.0.1:${port}`,
  };
  const server = spawn("node", ["--import", "tsx", "server/src/main.ts"], { cwd: ROOT, env, stdio: ["ignore", "pipe", "inherit"] });
  const stop = () => {
    server.kill("SIGKILL");
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"])
    process.on(signal, () => {
      stop();
      process.exit(1);
    });
  let code = 1;
  try {
    await new Promise((resolve, reject) => {
      server.stdout.on("data", (chunk) => String(chunk).includes("listening on") && resolve());
      server.on("exit", () => reject(new Error("the server did not start")));
    });
    code = await runToEnd("node", ["--import", "tsx", "e2e/hard-times/requests.ts"], { cwd: ROOT, env });
  } finally {
    stop();
  }
  process.exit(code);
});
