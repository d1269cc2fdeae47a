import type { Keeping, Unit } from "@uppershed/contract";
import { copyFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { migrateDatabase } from "../migrate.ts";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { layRelease } from "../testing/release.ts";
import { readHead } from "./backup.ts";
import { DailyBackups, KEPT } from "./daily.ts";

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), "shed-restore-"));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const withServer = async (
  work: (server: TestServer, home: TestWorkshop) => Promise<void>,
): Promise<void> => {
  const server = await openTestServer({ backupsIn: folder });
  try {
    await work(server, await server.workshop("home"));
  } finally {
    await server.close();
  }
};
type Person = Awaited<ReturnType<TestWorkshop["as"]>>;
const backUp = async (lead: Person): Promise<Keeping["backups"][number] | undefined> =>
  (await lead({ method: "POST", url: "/api/keeping/now" })).json<Keeping>().backups[0];
const rename = (lead: Person, unitId: string, name: string) =>
  lead({ method: "PATCH", url: `/api/units/${unitId}`, payload: { name } });
const restore = (by: Person, name: string | undefined) =>
  by({ method: "POST", url: `/api/keeping/${name}/restore` });

describe("a backup", () => {
  it("says what it holds, and brought back by the lead is what is there again; what was there was backed up first", async () =>
    withServer(async (_, home) => {
      const lead = await home.as("lead");
      const made = await backUp(lead);
      expect(made).toMatchObject({ units: 1, workshops: 1, people: 5, runs: 0 });
      await rename(lead, home.unitId, "Renamed since");
      const reply = await restore(lead, made?.name);
      expect(reply.statusCode).toBe(200);
      const again = await home.as("lead");
      const unit = (await again({ url: `/api/units/${home.unitId}` })).json<Unit>();
      expect(unit.name).toBe("Boat of home");
      const { backups } = (await again({ url: "/api/keeping" })).json<Keeping>();
      expect(backups).toHaveLength(2);
    }));

  it("is not written over by the one made just before it is brought back, in the same second", async () =>
    withServer(async (server, home) => {
      const lead = await home.as("lead");
      const backups = new DailyBackups(server.url, folder);
      const at = new Date("2026-11-27T10:00:00Z");
      const made = (await backups.now(at)).backups[0];
      await rename(lead, home.unitId, "Renamed since");
      await backups.restore(made?.name ?? "", at);
      const again = await home.as("lead");
      expect((await again({ url: `/api/units/${home.unitId}` })).json<Unit>().name).toBe(
        "Boat of home",
      );
      expect((await backups.list()).backups).toHaveLength(2);
    }));

  it("is not let go for being the oldest while it is brought back", async () =>
    withServer(async (server, home) => {
      const lead = await home.as("lead");
      const backups = new DailyBackups(server.url, folder);
      const [oldest] = (await backups.now(new Date("2020-01-01T10:00:00Z"))).backups;
      const others = Array.from({ length: KEPT - 1 }, (_, day) => `shed-2026-01-${10 + day}.shed`);
      for (const name of others)
        await copyFile(join(folder, oldest?.name ?? ""), join(folder, name));
      await rename(lead, home.unitId, "Renamed since");
      await backups.restore(oldest?.name ?? "", new Date("2026-11-27T10:00:00Z"));
      const again = await home.as("lead");
      expect((await again({ url: `/api/units/${home.unitId}` })).json<Unit>().name).toBe(
        "Boat of home",
      );
    }));

  it("is not brought back where there is none of that name, by a technician, or over another workshop", async () =>
    withServer(async (server, home) => {
      const lead = await home.as("lead");
      const made = await backUp(lead);
      const none = await restore(lead, "shed-2020-01-01.shed");
      expect([none.statusCode, none.body]).toEqual([409, expect.stringContaining("no such")]);
      expect((await restore(lead, "..%2F..%2Fetc%2Fpasswd")).statusCode).toBe(409);
      expect((await restore(await home.as("technician"), made?.name)).statusCode).toBe(403);
      await server.workshop("other");
      const refused = await restore(lead, made?.name);
      expect(refused.body).toContain("Several workshops");
    }));
});

describe("an upgrade", () => {
  const tablesOf = async (url: string): Promise<string[]> => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rows } = await client.query<{ name: string }>(
      "select tablename as name from pg_tables where schemaname = 'public' order by 1",
    );
    await client.end();
    return rows.map((r) => r.name);
  };

  it("backs an older database up first, and goes back by itself when it fails", async () => {
    const { url, drop } = await layRelease("release-2");
    try {
      const before = await tablesOf(url);
      const failing = migrateDatabase(
        url,
        async () => {
          expect(await tablesOf(url)).toContain("rule_revisions");
          throw new Error("the disk is full");
        },
        folder,
      );
      await expect(failing).rejects.toThrow(/the disk is full.*It is as it was before/su);
      expect(await tablesOf(url)).toEqual(before);
      // And a release that succeeds is let do so.
      await migrateDatabase(url, undefined, folder);
      expect(await tablesOf(url)).toContain("rule_revisions");
    } finally {
      await drop();
    }
  });

  it("makes its backup once: a database of today is not backed up again", async () => {
    const { url, drop } = await layRelease("release-2");
    try {
      await migrateDatabase(url, undefined, folder);
      await migrateDatabase(url, undefined, folder);
      const { readdir } = await import("node:fs/promises");
      const names = await readdir(folder);
      expect(names).toEqual([expect.stringMatching(/^before-upgrade-.*\.shed$/u)]);
      const head = await readHead(join(folder, names[0] ?? ""));
      expect(head.tables["public.runs"]?.rows).toBeGreaterThan(3);
      expect(head.tables["public.rule_revisions"]).toBeUndefined();
    } finally {
      await drop();
    }
  });
});
