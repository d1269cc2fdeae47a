import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { chromium, npmPackages, postgresPrograms } from "./lib/deps.mjs";
import { openCluster } from "./lib/postgres.mjs";
import { ROOT, runToEnd } from "./lib/run.mjs";
import { orElseSay, say, Stuck } from "./lib/say.mjs";
import { buildWeb } from "./lib/build.mjs";

/**
 * npm test: everything that the tests need, then all of them: core, server on a PostgreSQL of its own, screens, browser.
 *   npm test -- core server web    only those
 *   npm test -- browser            only the browser tests
 */

const SUITES = ["core", "contract", "cli", "server", "web", "browser"];

const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : undefined);

await orElseSay(async () => {
  const asked = process.argv.slice(2);
  const unknown = asked.find((a) => !SUITES.includes(a));
  if (unknown)
    throw new Stuck(`"${unknown}" is not known here. One or several of: ${SUITES.join(", ")}.`);
  const wants = (suite) => asked.length === 0 || asked.includes(suite);
  const home = join(ROOT, ".shed");
  mkdirSync(home, { recursive: true });
  await npmPackages();
  const needsDatabase = wants("server") || wants("browser");
  const folder = join(home, `test-postgres-${process.pid}`);
  const cluster = needsDatabase
    ? await openCluster(await postgresPrograms(), folder, { throwAway: true })
    : undefined;
  const env = { ...process.env, ...(cluster ? { TEST_DATABASE_URL: cluster.url } : {}) };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"])
    process.on(signal, () => {
      cluster?.stop();
      process.exit(1);
    });
  let failed = false;
  const count = { passed: 0, failed: 0, skipped: 0 };
  try {
    const projects = SUITES.filter((s) => s !== "browser" && wants(s));
    if (projects.length > 0) {
      const report = join(home, "vitest.json");
      rmSync(report, { force: true });
      const args = [
        "run",
        "--reporter=default",
        "--reporter=json",
        `--outputFile=${report}`,
        ...projects.flatMap((p) => ["--project", p, "--project", `${p}-*`]),
      ];
      failed =
        (await runToEnd("node", [join(ROOT, "node_modules/vitest/vitest.mjs"), ...args], {
          env,
        })) !== 0 || failed;
      const result = read(report);
      count.passed += result?.numPassedTests ?? 0;
      count.failed += result?.numFailedTests ?? 0;
      count.skipped += result?.numPendingTests ?? 0;
    }
    if (wants("browser")) {
      env.CHROMIUM = await chromium();
      await buildWeb();
      const report = join(ROOT, "e2e", ".results", "results.json");
      rmSync(report, { force: true });
      failed =
        (await runToEnd("node", [join(ROOT, "node_modules/@playwright/test/cli.js"), "test"], {
          env,
          cwd: join(ROOT, "e2e"),
        })) !== 0 || failed;
      const stats = read(report)?.stats;
      count.passed += stats?.expected ?? 0;
      count.failed += (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
      count.skipped += stats?.skipped ?? 0;
    }
  } finally {
    cluster?.stop();
  }
  say(
    `\n${count.passed} passed, ${count.failed} failed${count.skipped > 0 ? `, ${count.skipped} skipped` : ""}`,
  );
  process.exit(failed || count.passed === 0 ? 1 : 0);
});
