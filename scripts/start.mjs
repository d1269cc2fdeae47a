import { spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { buildWeb } from "./lib/build.mjs";
import { npmPackages, postgresPrograms } from "./lib/deps.mjs";
import { openCluster, portTaken } from "./lib/postgres.mjs";
import { ROOT } from "./lib/run.mjs";
import { orElseSay, say, Stuck } from "./lib/say.mjs";

/** npm start: everything from a bare machine to an address that answers. `npm start -- --fresh` begins again with new demo data. */

const HELP = `npm start               install what is missing, start the database, build, serve
npm start -- --fresh    the same, from empty: drops the private database and loads the demo again
npm run dev             from the sources, with reload: what is changed is there at once (PORT for the page, the next one for the server)
npm start -- --help     this text

PORT=4700               port of the application, on loopback
HOST=127.0.0.1          address to listen on
DATABASE_URL=…          an existing PostgreSQL database instead of the private one (never dropped)
DEMO=0                  begin empty: the first visit sets up a workshop, with the code that is printed
BEHIND_PROXY=1          behind a proxy: address and host of whoever asks are taken from what it says
BACKUPS=…               where a backup a day is kept, the last fourteen (backups, beside the database)
SHED_HOME=…             where the private database lives (the project's own folder .shed)`;

const HOME = process.env.SHED_HOME ?? join(ROOT, ".shed");

/** The demo's password: made once, kept beside the database, never in the repository. */
const demoPassword = () => {
  const file = join(HOME, "demo-password");
  if (!existsSync(file))
    writeFileSync(file, `${randomBytes(3).toString("hex")}-${randomBytes(3).toString("hex")}`, {
      mode: 0o600,
    });
  return readFileSync(file, "utf8");
};

const WATCH_MS = 2000;
let starting = false;
/** A database that has gone is started again; the server waits for it. */
const keepUp = async (cluster) => {
  if (starting || cluster.lives()) return;
  starting = true;
  say("The database has stopped; starting it again …");
  try {
    await cluster.start();
  } catch (error) {
    say(error instanceof Error ? error.message : String(error));
  } finally {
    starting = false;
  }
};

/** The pages from their sources, reloaded when one is changed; what they ask goes to the server. */
const servePages = (port, serverPort) =>
  spawn(
    "node",
    [
      join(ROOT, "node_modules/vite/bin/vite.js"),
      "--port",
      String(port),
      "--strictPort",
      "--logLevel",
      "warn",
    ],
    {
      cwd: join(ROOT, "web"),
      env: { ...process.env, API_URL: `http://127.0.0.1:${serverPort}` },
      stdio: ["ignore", "inherit", "inherit"],
    },
  );

const main = async () => {
  const args = process.argv.slice(2);
  if (args.includes("--help")) return say(HELP);
  const unknown = args.find((a) => a !== "--fresh" && a !== "--dev");
  const isDev = args.includes("--dev");
  if (unknown) throw new Stuck(`"${unknown}" is not known here.\n${HELP}`);
  const port = Number(process.env.PORT ?? 4700);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Stuck(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
  if (await portTaken(port))
    throw new Stuck(
      `Port ${port} is taken. Choose a free one, for example: PORT=${port === 4800 ? 4900 : 4800} npm start`,
    );
  mkdirSync(HOME, { recursive: true });
  await npmPackages();
  let cluster;
  let url = process.env.DATABASE_URL;
  if (url && args.includes("--fresh"))
    throw new Stuck(
      "--fresh drops the private database only; the one in DATABASE_URL is left alone. Empty it by hand.",
    );
  if (!url) {
    const programs = await postgresPrograms();
    const folder = join(HOME, "postgres");
    if (args.includes("--fresh")) {
      if (existsSync(join(folder, "upper-shed.json")) || existsSync(`${folder}.folder`))
        (await openCluster(programs, folder)).stop();
      if (existsSync(`${folder}.folder`))
        rmSync(readFileSync(`${folder}.folder`, "utf8").trim(), { recursive: true, force: true });
      for (const path of [folder, `${folder}.folder`, join(HOME, "demo-password")])
        rmSync(path, { recursive: true, force: true });
    }
    cluster = await openCluster(programs, folder);
    url = cluster.url;
  }
  let stopping = false;
  let watch;
  const stopCluster = () => {
    clearInterval(watch);
    if (!stopping) cluster?.stop();
    stopping = true;
  };
  try {
    if (!isDev) await buildWeb();
    const demo = process.env.DEMO === "0" ? "" : demoPassword();
    const serverPort = isDev ? port + 1 : port;
    const watching = isDev
      ? [join(ROOT, "node_modules/tsx/dist/cli.mjs"), "watch", "--clear-screen=false"]
      : ["--import", "tsx"];
    const server = spawn("node", [...watching, "server/src/main.ts"], {
      cwd: ROOT,
      env: {
        ...process.env,
        NODE_ENV: isDev ? "development" : "production",
        DATABASE_URL: url,
        PORT: String(serverPort),
        DEMO_PASSWORD: demo,
        BACKUPS: process.env.BACKUPS ?? join(HOME, "backups"),
      },
      stdio: ["ignore", "pipe", "inherit"],
      detached: true,
    });
    const pages = isDev ? servePages(port, serverPort) : undefined;
    let told = false;
    server.stdout.on("data", (chunk) => {
      const words = String(chunk);
      const listens = /^listening on .*\n/mu;
      if (!listens.test(words)) return void process.stdout.write(chunk);
      if (told) return;
      told = true;
      say(`\nUpper Shed: http://${process.env.HOST ?? "127.0.0.1"}:${port}`);
      // How to sign in to the demo, or the code by which an empty database is set up.
      const more = words.replace(listens, "").trim();
      if (more) say(more);
      say("Ctrl-C stops everything that was started here.");
    });
    watch = cluster && setInterval(() => void keepUp(cluster), WATCH_MS);
    for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"])
      process.on(signal, () => (pages?.kill("SIGTERM"), server.kill("SIGTERM")));
    const code = await new Promise((resolve) =>
      server.on("exit", (exit, signal) => resolve(exit ?? (signal ? 1 : 0))),
    );
    pages?.kill("SIGTERM");
    stopCluster();
    process.exit(code);
  } catch (error) {
    stopCluster();
    throw error;
  }
};

await orElseSay(main);
