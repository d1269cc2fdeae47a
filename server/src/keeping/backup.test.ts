import { randomUUID } from "node:crypto";
import { mkdtemp, readFile, rm, writeFile, readdir } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer } from "../testing/bench.ts";
import { checkBackup, NotKept, restoreBackup, writeBackup } from "./backup.ts";

const PASSPHRASE = "lock head upper basin";
let server: TestServer;
let folder: string;
beforeAll(async () => {
  server = await openTestServer();
  folder = await mkdtemp(join(tmpdir(), "shed-keeping-"));
});
afterAll(async () => {
  await server.close();
  await rm(folder, { recursive: true, force: true });
});

const databases = async (): Promise<string[]> => {
  const client = new pg.Client({ connectionString: process.env["TEST_DATABASE_URL"] });
  await client.connect();
  const { rows } = await client.query<{ datname: string }>(
    "select datname from pg_database where datname like 'shed_check_%' or datname like '%_fresh_%'",
  );
  await client.end();
  return rows.map((r) => r.datname);
};

describe("a backup", () => {
  it("holds everything, and comes back as it was after all was lost, with what was there before kept aside", async () => {
    const home = await server.workshop("kept");
    const tech = await home.as("technician");
    const note = (text: string) =>
      tech({
        method: "POST",
        url: `/api/units/${home.unitId}/notes`,
        payload: { id: randomUUID(), text },
      });
    const notes = async (): Promise<string[]> =>
      (await tech({ url: `/api/units/${home.unitId}/notes` }))
        .json<{ notes: { text: string }[] }>()
        .notes.map((n) => n.text);
    await note("before");
    const file = join(folder, "whole.shed");
    const head = await writeBackup(server.url, file);
    expect(head.tables["public.notes"]?.rows).toBe(1);
    expect(head.tables["public.workshops"]?.rows).toBe(1);
    await note("after");
    expect(await notes()).toHaveLength(2);
    const { before } = await restoreBackup(server.url, file);
    expect(await notes()).toEqual(["before"]);
    const aside = new URL(server.url);
    aside.pathname = `/${before}`;
    const client = new pg.Client({ connectionString: aside.href });
    await client.connect();
    const { rows } = await client.query("select text from notes");
    expect(rows).toHaveLength(2);
    await client.end();
    const admin = new pg.Client({ connectionString: process.env["TEST_DATABASE_URL"] });
    await admin.connect();
    await admin.query(`drop database ${admin.escapeIdentifier(before)}`);
    await admin.end();
    await expect.poll(databases, { timeout: 60_000 }).toEqual([]);
  });

  it("cannot be read without its passphrase, and not with another", async () => {
    const file = join(folder, "secret.shed");
    await server.workshop("Unlikely Name");
    await writeBackup(server.url, file, PASSPHRASE);
    expect((await readFile(file)).includes("Unlikely Name")).toBe(false);
    await expect(checkBackup(server.url, file)).rejects.toThrow(/passphrase is needed/u);
    await expect(checkBackup(server.url, file, "another")).rejects.toThrow(
      /passphrase is another/u,
    );
    expect((await checkBackup(server.url, file, PASSPHRASE)).tables).toHaveProperty("public.units");
  });

  it("is found the same by a server that tells the time otherwise", async () => {
    const file = join(folder, "elsewhere.shed");
    const client = new pg.Client({ connectionString: server.url });
    await client.connect();
    const name = client.escapeIdentifier(client.database ?? "");
    await client.query(`alter database ${name} set timezone to 'Asia/Tokyo'`);
    await client.query(`alter database ${name} set datestyle to 'German'`);
    await client.query(`alter database ${name} set bytea_output to 'escape'`);
    await client.end();
    await server.workshop("elsewhere");
    expect((await writeBackup(server.url, file)).tables["public.workshops"]?.rows).toBeGreaterThan(
      0,
    );
  });

  it.each([
    ["cut short", (whole: Buffer) => whole.subarray(0, whole.length - 200)],
    [
      "changed in one place",
      (whole: Buffer) => {
        const bad = Buffer.from(whole);
        const at = bad.length - 500;
        bad[at] = (bad[at] ?? 0) ^ 0xff;
        return bad;
      },
    ],
    ["of another kind", () => Buffer.from("not a backup\n")],
  ])("that was %s is refused, and changes nothing", async (_, spoil) => {
    const [good, bad] = [join(folder, "good.shed"), join(folder, "bad.shed")];
    await writeBackup(server.url, good);
    await writeFile(bad, spoil(await readFile(good)));
    await expect(restoreBackup(server.url, bad)).rejects.toThrow(NotKept);
    expect((await server.app.inject("/api/health")).json()).toEqual({ ok: true, database: "up" });
    await expect.poll(databases, { timeout: 60_000 }).toEqual([]);
  });

  it("clears away what a check that was stopped in the middle has left in the database", async () => {
    const admin = new pg.Client({ connectionString: process.env["TEST_DATABASE_URL"] });
    await admin.connect();
    await admin.query("create database shed_check_left_behind");
    await admin.end();
    await writeBackup(server.url, join(folder, "tidy.shed"));
    await expect.poll(databases, { timeout: 60_000 }).toEqual([]);
  });

  it("leaves alone what somebody else is checking at the same moment", async () => {
    const second = await openTestServer();
    const files = [join(folder, "one.shed"), join(folder, "two.shed"), join(folder, "three.shed")];
    const heads = await Promise.all(
      files.map((file, i) => writeBackup(i === 1 ? second.url : server.url, file)),
    );
    expect(heads.map((h) => h.format)).toEqual(files.map(() => "upper-shed/backup"));
    await second.close();
  });

  it("that could not be made leaves no file behind", async () => {
    const gone = new URL(server.url);
    gone.pathname = "/there_is_no_such";
    await expect(writeBackup(gone.href, join(folder, "none.shed"))).rejects.toThrow();
    expect((await readdir(folder)).filter((name) => name.includes("none"))).toEqual([]);
  });
});
