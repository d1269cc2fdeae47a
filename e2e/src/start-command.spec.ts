import { expect, test } from "@playwright/test";
import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createServer, type Server } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

/** The start command itself, with a home of its own, as a person at a terminal meets it. */

const ROOT = fileURLToPath(new URL("../..", import.meta.url));

const listen = (port: number): Promise<Server> =>
  new Promise((resolve, reject) => {
    const server = createServer();
    server.on("error", reject);
    server.listen(port, "127.0.0.1", () => resolve(server));
  });
const portOf = (server: Server): number => {
  const address = server.address();
  return address && typeof address === "object" ? address.port : 0;
};
const closed = (server: Server): Promise<void> => new Promise((done) => server.close(() => done()));
const isFree = async (port: number): Promise<boolean> => {
  try {
    await closed(await listen(port));
    return true;
  } catch {
    return false;
  }
};

interface Started {
  readonly child: ChildProcess;
  /** Resolves to all that was printed when a line has come, or when the command has ended. */
  readonly printed: (line: RegExp) => Promise<string>;
  readonly ended: Promise<number | null>;
}

const start = (home: string, port: number, args: string[] = []): Started => {
  const { DATABASE_URL: _database, ...env } = process.env;
  const child = spawn("node", ["scripts/start.mjs", ...args], {
    cwd: ROOT,
    env: { ...env, SHED_HOME: home, PORT: String(port) },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let text = "";
  const waiting = new Set<() => void>();
  for (const stream of [child.stdout, child.stderr])
    stream.on("data", (chunk) => {
      text += String(chunk);
      for (const look of waiting) look();
    });
  const ended = new Promise<number | null>((resolve) => child.on("close", (code) => resolve(code)));
  const printed = (line: RegExp): Promise<string> =>
    new Promise((resolve) => {
      const look = (): void => {
        if (line.test(text)) resolve(text);
      };
      waiting.add(look);
      void ended.then(() => resolve(text));
      look();
    });
  return { child, printed, ended };
};

test("the start command serves the demo, keeps what was done, stops all it started, and says what to do when it cannot", async () => {
  const home = mkdtempSync(join(tmpdir(), "upper-shed-home-"));
  const probe = await listen(0);
  const port = portOf(probe);
  await closed(probe);
  const url = `http://127.0.0.1:${port}`;

  const signIn = async (text: string): Promise<{ password: string; cookie: string }> => {
    expect(text).toContain(`Upper Shed: ${url}`);
    const password = /password (\S+)/u.exec(text)?.[1] ?? "";
    const reply = await fetch(`${url}/api/sign-in`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ name: "odile", password }),
    });
    expect(reply.status).toBe(200);
    return { password, cookie: reply.headers.get("set-cookie")?.split(";")[0] ?? "" };
  };
  const visits = async (
    cookie: string,
  ): Promise<{ id: string; unitName: string; state: string }[]> => {
    const reply = await fetch(
      `${url}/api/visits?from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z`,
      { headers: { cookie } },
    );
    return ((await reply.json()) as { visits: { id: string; unitName: string; state: string }[] })
      .visits;
  };

  const begun: Started[] = [];
  const begin = (...args: string[]): Started => {
    const started = start(home, port, args);
    begun.push(started);
    return started;
  };
  try {
    const first = begin();
    const { password, cookie } = await signIn(await first.printed(/password \S+/u));
    expect((await fetch(`${url}/`)).headers.get("content-type")).toContain("text/html");
    expect((await fetch(`${url}/api/health`)).status).toBe(200);
    const booked = (await visits(cookie)).find((v) => v.state === "booked");
    await fetch(`${url}/api/visits/${booked?.id}`, {
      method: "PATCH",
      headers: { cookie, "content-type": "application/json" },
      body: JSON.stringify({ state: "arrived" }),
    });

    const second = begin();
    expect(await second.ended).toBe(1);
    expect(await second.printed(/taken/u)).toContain(`Port ${port} is taken. Choose a free one`);

    const database = (
      JSON.parse(readFileSync(join(home, "postgres", "upper-shed.json"), "utf8")) as {
        port: number;
      }
    ).port;
    expect(await isFree(database)).toBe(false);
    first.child.kill("SIGINT");
    expect(await first.ended).toBe(0);
    expect(await isFree(port)).toBe(true);
    expect(await isFree(database)).toBe(true);

    const again = begin();
    const kept = await signIn(await again.printed(/password \S+/u));
    expect(kept.password).toBe(password);
    expect((await visits(kept.cookie)).find((v) => v.id === booked?.id)?.state).toBe("arrived");
    again.child.kill("SIGINT");
    expect(await again.ended).toBe(0);

    const fresh = begin("--fresh");
    const anew = await signIn(await fresh.printed(/password \S+/u));
    expect(anew.password).not.toBe(password);
    expect((await visits(anew.cookie)).find((v) => v.id === booked?.id)?.state).toBe("booked");
    fresh.child.kill("SIGINT");
    expect(await fresh.ended).toBe(0);
  } finally {
    // A test that fails half-way leaves nothing running.
    for (const { child, ended } of begun) {
      if (child.exitCode === null && child.signalCode === null) child.kill("SIGINT");
      await ended;
    }
    rmSync(home, { recursive: true, force: true });
  }
});
