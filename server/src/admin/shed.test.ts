import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer } from "../testing/bench.ts";

const COMMAND = fileURLToPath(new URL("shed.ts", import.meta.url));
const PASSWORD = "a long enough one";
let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const shed = (input: string, ...args: string[]) =>
  spawnSync("node", ["--import", "tsx", COMMAND, ...args], {
    input,
    encoding: "utf8",
    env: { ...process.env, DATABASE_URL: server.url },
  });
const signIn = async (name: string, password: string): Promise<number> =>
  (await server.app.inject({ method: "POST", url: "/api/sign-in", payload: { name, password } }))
    .statusCode;

describe("workshops and people by the command line", () => {
  it("are made with a password from the standard input, which is no argument and is not printed", async () => {
    const facts = ["--name", "Ford End", "--units", "us", "--winter-low", "-12C"];
    const lead = ["--lead", "A. Lead", "--sign-in", "ada"];
    const short = shed("short\n", "workshop", "add", ...facts, ...lead);
    expect([short.status, short.stderr]).toEqual([2, expect.stringContaining("ten letters")]);
    const made = shed(`${PASSWORD}\n`, "workshop", "add", ...facts, ...lead);
    expect([made.status, made.stderr]).toEqual([0, ""]);
    expect(made.stdout).not.toContain(PASSWORD);
    expect(await signIn("ada", PASSWORD)).toBe(200);
    const person = ["person", "add", "--name", "T. New", "--sign-in", "tee"];
    const wrong = shed(`${PASSWORD}\n`, ...person, "--workshop", "Ford End", "--role", "boss");
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining("must be one of")]);
    const nowhere = shed(`${PASSWORD}\n`, ...person, "--workshop", "Nowhere", "--role", "desk");
    expect([nowhere.status, nowhere.stderr]).toEqual([2, expect.stringContaining("no workshop")]);
    expect(
      shed(`${PASSWORD}\n`, ...person, "--workshop", "Ford End", "--role", "desk").status,
    ).toBe(0);
    expect(await signIn("tee", PASSWORD)).toBe(200);
    expect(shed("a new long one\n", "person", "reset", "tee").status).toBe(0);
    expect([await signIn("tee", PASSWORD), await signIn("tee", "a new long one")]).toEqual([
      401, 200,
    ]);
    const nobody = shed("a new long one\n", "person", "reset", "nobody");
    expect([nobody.status, nobody.stderr]).toEqual([2, expect.stringContaining("nobody signs in")]);
  });
});
