import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { npmPackages, postgresPrograms } from "./deps.mjs";
import { freePort, openCluster } from "./postgres.mjs";
import { ROOT, runToEnd } from "./run.mjs";
import { orElseSay } from "./say.mjs";

/** Who asks is not held up: what is measured or tried is the server, not its limits. */
const WITHOUT_LIMITS = { SIGN_INS_PER_MINUTE: "1000000", REQUESTS_PER_MINUTE: "10000000" };

/**
 * The real server on a database of its own with the demo in it, thrown away afterwards, and a program that asks of it.
 * SERVER_URL and DEMO_PASSWORD say where and how.
 */
export const againstOwnServer = (program, prepare = async () => ({})) =>
  orElseSay(async () => {
    await npmPackages();
    const more = await prepare();
    const home = join(ROOT, ".shed");
    mkdirSync(home, { recursive: true });
    const folder = join(home, `own-postgres-${process.pid}`);
    const cluster = await openCluster(await postgresPrograms(), folder, { throwAway: true });
    const port = await freePort();
    const env = {
      ...process.env,
      ...WITHOUT_LIMITS,
      ...more,
      DATABASE_URL: cluster.url,
      PORT: String(port),
      DEMO_PASSWORD: "password of the hard times",
      SERVER_URL: `http://127.0.0.1:${port}`,
    };
    const server = spawn("node", ["--import", "tsx", "server/src/main.ts"], {
      cwd: ROOT,
      env,
      stdio: ["ignore", "pipe", "inherit"],
    });
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
      code = await runToEnd("node", ["--import", "tsx", program, ...process.argv.slice(2)], {
        cwd: ROOT,
        env,
      });
    } finally {
      stop();
    }
    process.exit(code);
  });
