import { spawn, spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";

export const ROOT = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/u, "");
export const isRoot = () => process.getuid?.() === 0;

/** Runs a command to its end; resolves to its exit code. */
export const runToEnd = (command, args, options = {}) =>
  new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: "inherit", ...options });
    child.on("error", reject);
    child.on("exit", (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });

/** Runs a command and keeps what it prints. */
export const ask = (command, args, options = {}) => {
  const done = spawnSync(command, args, { encoding: "utf8", cwd: "/", ...options });
  return {
    ok: done.status === 0,
    out: done.stdout ?? "",
    err: done.stderr ?? String(done.error ?? ""),
  };
};

export const has = (command) => ask("sh", ["-c", `command -v ${command}`]).ok;
