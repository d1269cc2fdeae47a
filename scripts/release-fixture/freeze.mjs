import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { ask, ROOT } from "../lib/run.mjs";
import { orElseSay, say, Stuck } from "../lib/say.mjs";

/**
 * Bundles the engine, the planner and the fold of an earlier release into one file that needs nothing else, so that what was written with
 * it can be read as it was meant for as long as databases of its age are opened.
 *   node scripts/release-fixture/freeze.mjs CHECKOUT NUMBER
 * The file is made once for each release that kept no plans, and never edited: server/drizzle/frozen/README.md.
 */

const PIECES = {
  "./contents/index.ts": ["liquidIn"],
  "./procedure/index.ts": [
    "antifreezeUse",
    "applyEvent",
    "looseEnds",
    "startRun",
    "summarize",
    "verdictNow",
  ],
  "./procedure/wet.ts": ["waterInLines"],
  "./watermap/index.ts": [
    "buildNetwork",
    "inUseLineup",
    "paramsOf",
    "positionLabel",
    "readWaterMap",
  ],
  "./watermap/kinds/index.ts": ["PART_KINDS"],
};
// Told by releases that have it: what a verdict rests on and is not known.
const DOUBTS =
  'import * as told from "./procedure/index.ts"; export const doubtsNow = told["doubtsNow"] ?? (() => []);';

await orElseSay(async () => {
  const [checkout, number] = process.argv.slice(2);
  if (!checkout || !/^\d+$/u.test(number ?? ""))
    throw new Stuck("Give the folder of a release and its number.");
  const entry = join(resolve(checkout), "core/src/frozen-entry.ts");
  const out = join(ROOT, "server/drizzle/frozen", `planner-${number}.mjs`);
  mkdirSync(join(out, ".."), { recursive: true });
  writeFileSync(
    entry,
    `${Object.entries(PIECES)
      .map(([file, names]) => `export { ${names.join(", ")} } from "${file}";`)
      .join("\n")}\n${DOUBTS}\n`,
  );
  const bundler = join(ROOT, "node_modules/rolldown/bin/cli.mjs");
  const done = ask(
    "node",
    [bundler, entry, "--format", "esm", "--platform", "node", "--minify", "-o", out],
    { cwd: ROOT },
  );
  rmSync(entry);
  if (!done.ok) throw new Stuck(done.err);
  say(`${out} is made.`);
});
