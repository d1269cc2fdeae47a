import { mkdtemp, readdir, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { BackupHead } from "./backup.ts";
import { DailyBackups, KEPT } from "./daily.ts";

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), "shed-daily-"));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

const head = (at: string): BackupHead => ({
  format: "upper-shed/backup",
  version: 1,
  at,
  tables: { "public.units": { rows: 3, digest: "" } },
  sha256: "",
  encryption: null,
});
const write = async (_url: string, file: string): Promise<BackupHead> => {
  const made = head(new Date(0).toISOString());
  await writeFile(file, `${JSON.stringify(made)}\n`);
  return made;
};

describe("a backup a day", () => {
  it("is made once a day, whoever asks at the same time, and the last fourteen stay", async () => {
    const daily = new DailyBackups("", folder, write);
    for (let day = 1; day <= KEPT + 3; day++) {
      const now = new Date(Date.UTC(2026, 10, day, 12));
      await Promise.all([daily.ofToday(now), daily.ofToday(now)]);
    }
    const names = await readdir(folder);
    expect(names).toHaveLength(KEPT);
    expect(names.toSorted()[0]).toBe("shed-2026-11-04.shed");
    expect((await daily.list()).backups[0]).toMatchObject({
      name: "shed-2026-11-17.shed",
      units: 3,
    });
  });

  it("lets nothing go and says why when it cannot be made, and says it no more when it could", async () => {
    let fails = false;
    const daily = new DailyBackups("", folder, async (url, file) => {
      if (fails) throw new Error("no space left");
      return write(url, file);
    });
    await daily.ofToday(new Date("2026-11-01T10:00:00Z"));
    fails = true;
    await daily.ofToday(new Date("2026-11-02T10:00:00Z"));
    expect(await daily.list()).toMatchObject({
      problem: "no space left",
      backups: [{ name: "shed-2026-11-01.shed" }],
    });
    fails = false;
    const after = await daily.now(new Date("2026-11-02T11:00:00Z"));
    expect(after.problem).toBeNull();
    expect(after.backups.map((b) => b.name)).toEqual([
      "shed-2026-11-02-110000.shed",
      "shed-2026-11-01.shed",
    ]);
  });

  it("clears away half a file of a server that was stopped in the middle", async () => {
    await writeFile(join(folder, ".shed-2026-10-01.shed.half"), "half");
    await new DailyBackups("", folder, write).ofToday(new Date("2026-11-01T10:00:00Z"));
    expect(await readdir(folder)).toEqual(["shed-2026-11-01.shed"]);
  });

  it("lists only what is a backup", async () => {
    await writeFile(join(folder, "shed-2026-11-01.shed"), "not a backup\n");
    await writeFile(join(folder, "notes.txt"), "");
    expect((await new DailyBackups("", folder, write).list()).backups).toEqual([]);
  });
});
