import { chromium } from "./lib/deps.mjs";
import { againstOwnServer } from "./lib/own-server.mjs";
import { buildWeb } from "./lib/build.mjs";

/** npm run --silent bench:web: sizes of what a screen needs, and how long it takes to show on a slow device and a slow line. */
await againstOwnServer("e2e/bench/web.ts", async () => {
  await buildWeb();
  return { CHROMIUM: await chromium() };
});
