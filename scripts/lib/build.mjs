import { createHash } from "node:crypto";
import { existsSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { readdir } from "node:fs/promises";
import { join } from "node:path";
import { ROOT, runToEnd } from "./run.mjs";
import { say, Stuck } from "./say.mjs";

const newest = async (folder) => {
  let latest = 0;
  for (const entry of await readdir(folder, { withFileTypes: true, recursive: true }))
    if (entry.isFile())
      latest = Math.max(latest, statSync(join(entry.parentPath ?? entry.path, entry.name)).mtimeMs);
  return latest;
};

/** Builds a workspace, unless nothing has changed since. */
const build = async (workspace, sources, { what, quiet = false }) => {
  const stamp = join(ROOT, workspace, "dist", ".built");
  const changed = await Promise.all(sources.map((f) => newest(join(ROOT, f))));
  const key = createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .update(readFileSync(join(ROOT, workspace, "vite.config.ts")))
    .update(String(Math.max(...changed)))
    .digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === key) return;
  if (!quiet) say(`Building ${what} …`);
  const code = await runToEnd(
    "node",
    [join(ROOT, "node_modules/vite/bin/vite.js"), "build", "--logLevel", "warn"],
    {
      cwd: join(ROOT, workspace),
      ...(quiet ? { stdio: ["ignore", "ignore", "inherit"] } : {}),
    },
  );
  if (code !== 0)
    throw new Stuck(`${what[0].toUpperCase()}${what.slice(1)} could not be built: see above.`);
  writeFileSync(stamp, key);
};

export const buildWeb = () =>
  build("web", ["core/src", "contract/src", "web/src", "web/public"], { what: "the application" });
export const buildCli = () =>
  build("cli", ["core/src", "cli/src"], { what: "the command line", quiet: true });
