import { pathToFileURL } from "node:url";
import { join } from "node:path";
import { buildCli } from "./lib/build.mjs";
import { npmPackages } from "./lib/deps.mjs";
import { ROOT } from "./lib/run.mjs";
import { orElseSay } from "./lib/say.mjs";

/** npm run --silent shed -- …: the command line, built when something has changed. Paths are taken from where the caller stands. */
await orElseSay(async () => {
  await npmPackages({ quiet: true });
  await buildCli();
  process.env.CALLED_FROM ??= process.env.INIT_CWD ?? process.cwd();
  await import(pathToFileURL(join(ROOT, "cli", "dist", "shed.js")).href);
});
