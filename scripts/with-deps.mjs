import { npmPackages } from "./lib/deps.mjs";
import { runToEnd } from "./lib/run.mjs";
import { orElseSay } from "./lib/say.mjs";

/** Runs a command after the npm packages are there; what it prints is its own. Paths are taken from where the caller stands. */
await orElseSay(async () => {
  await npmPackages({ quiet: true });
  const [command, ...args] = process.argv.slice(2);
  process.exit(
    await runToEnd(command, args, {
      env: { ...process.env, CALLED_FROM: process.env.INIT_CWD ?? process.cwd() },
    }),
  );
});
