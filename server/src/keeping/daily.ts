import { mkdir, readdir, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import type { Keeping, Restored } from "@uppershed/contract";
import { NotKept, readHead, restoreBackup, writeBackup } from "./backup.ts";

/** A backup a day in a folder beside the database; the last fourteen stay. */

export const KEPT = 14;
const HOUR_MS = 3_600_000;
const FIRST_AFTER_MS = 60_000;
const NAME = /^(?:shed|before-upgrade)-\d{4}-\d{2}-\d{2}(?:-\d{6}(?:-\d+)?)?\.shed$/u;
const isDaily = (name: string): boolean => name.startsWith("shed-");

const dayOf = (at: Date): string => at.toISOString().slice(0, 10);

export class DailyBackups {
  readonly #url: string;
  readonly #folder: string;
  readonly #write: typeof writeBackup;
  readonly #upgrade: (url: string) => Promise<void>;
  #problem: string | null = null;
  #timers: NodeJS.Timeout[] = [];
  #line: Promise<unknown> = Promise.resolve();

  /** @param upgrade brings a database of an earlier release to today's form */
  constructor(
    url: string,
    folder: string,
    write = writeBackup,
    upgrade: (url: string) => Promise<void> = async () => undefined,
  ) {
    this.#url = url;
    this.#upgrade = upgrade;
    this.#folder = folder;
    this.#write = write;
  }

  /** Looks every hour whether there is one of today. */
  start(): void {
    const look = (): void => void this.ofToday(new Date());
    this.#timers = [setTimeout(look, FIRST_AFTER_MS), setInterval(look, HOUR_MS)];
    for (const timer of this.#timers) timer.unref();
  }

  stop(): void {
    for (const timer of this.#timers) clearTimeout(timer);
  }

  /** Makes the backup of a day unless it is there, and lets the oldest go. One after another: two at once would be in each other's way. */
  ofToday(now: Date): Promise<void> {
    return this.#inLine(async () => {
      const file = `shed-${dayOf(now)}.shed`;
      if (!(await this.#names()).some((name) => name.startsWith(`shed-${dayOf(now)}`)))
        await this.#make(file);
    });
  }

  /**
   * One more, now: never in the place of one that is there, though it was made in the same second.
   * @param spared a backup that stays, however old it is
   */
  async now(now: Date, spared?: string): Promise<Keeping> {
    await this.#inLine(async () => {
      const there = new Set(await this.#names());
      const stem = `shed-${dayOf(now)}-${now.toISOString().slice(11, 19).replaceAll(":", "")}`;
      let name = `${stem}.shed`;
      for (let more = 2; there.has(name); more += 1) name = `${stem}-${more}.shed`;
      await this.#make(name, spared);
    });
    return this.list();
  }

  /**
   * Puts one of the backups in the place of what is there, which is backed up first and stays as a database beside it.
   * @throws NotKept where there is none of that name, or it cannot be brought back: then nothing was changed
   */
  async restore(name: string, now: Date): Promise<Restored> {
    if (!(await this.#names()).includes(name)) throw new NotKept("there is no such backup");
    await this.now(now, name);
    if (this.#problem !== null)
      throw new NotKept(`what is there now could not be backed up first: ${this.#problem}`);
    let restored: Restored | undefined;
    await this.#inLine(async () => {
      const { head, before } = await restoreBackup(this.#url, join(this.#folder, name));
      await this.#upgrade(this.#url);
      restored = { at: head.at, before };
    });
    if (!restored) throw new NotKept("it could not be brought back");
    return restored;
  }

  async list(): Promise<Keeping> {
    const backups: Keeping["backups"][number][] = [];
    for (const name of (await this.#names()).toReversed()) {
      const path = join(this.#folder, name);
      const head = await readHead(path).catch(() => undefined);
      const rows = (table: string): number | undefined => head?.tables[`public.${table}`]?.rows;
      const units = rows("units");
      if (head && units !== undefined)
        backups.push({
          name,
          at: head.at,
          bytes: (await stat(path)).size,
          units,
          workshops: rows("workshops") ?? 0,
          runs: rows("runs") ?? 0,
          people: rows("people") ?? 0,
          beforeUpgrade: !isDaily(name),
        });
    }
    backups.sort((a, b) => b.at.localeCompare(a.at));
    return { folder: this.#folder, backups, problem: this.#problem };
  }

  async #names(): Promise<string[]> {
    const all = await readdir(this.#folder).catch(() => []);
    return all.filter((name) => NAME.test(name)).toSorted();
  }

  async #make(name: string, spared?: string): Promise<void> {
    try {
      await mkdir(this.#folder, { recursive: true, mode: 0o700 });
      // A server that was stopped in the middle leaves half a file.
      for (const half of await readdir(this.#folder))
        if (/^\.shed-.*\.half$/u.test(half)) await rm(join(this.#folder, half), { force: true });
      await this.#write(this.#url, join(this.#folder, name));
      this.#problem = null;
      for (const old of (await this.#names()).filter(isDaily).slice(0, -KEPT))
        if (old !== spared) await rm(join(this.#folder, old));
    } catch (error) {
      this.#problem = error instanceof Error ? error.message : "it could not be made";
    }
  }

  #inLine(work: () => Promise<void>): Promise<void> {
    const done = this.#line.then(work);
    this.#line = done.catch(() => undefined);
    return done;
  }
}
