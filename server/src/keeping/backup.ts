import { spawn } from "node:child_process";
import {
  createCipheriv,
  createDecipheriv,
  createHash,
  randomBytes,
  randomUUID,
  scrypt,
} from "node:crypto";
import { createReadStream, createWriteStream } from "node:fs";
import { mkdtemp, open, rename, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import { basename, dirname, join } from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { promisify } from "node:util";
import pg from "pg";
import { z } from "zod";

/**
 * Everything in one file: a line that says what it holds, and PostgreSQL's own dump, encrypted where a passphrase is given. A backup counts
 * only after it was restored into a database of its own and found the same, table by table.
 */

export class NotKept extends Error {}

const tablesSchema = z.record(
  z.string(),
  z.strictObject({ rows: z.number().int(), digest: z.string() }),
);
type Tables = z.infer<typeof tablesSchema>;

const headSchema = z.strictObject({
  format: z.literal("upper-shed/backup"),
  version: z.literal(1),
  at: z.iso.datetime(),
  /** What it holds, by table. */
  tables: tablesSchema,
  /** SHA-256 of the dump before it was encrypted. */
  sha256: z.string(),
  encryption: z.strictObject({ salt: z.string(), iv: z.string() }).nullable(),
});
export type BackupHead = z.infer<typeof headSchema>;

const MOST_HEAD_BYTES = 1024 * 1024;
const KEY_BYTES = 32;
const TAG_BYTES = 16;
// RFC 7914 speaks of N = 16384 for what is typed while one waits; a file may take longer (from memory).
const SCRYPT = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

const keyOf = (passphrase: string, salt: Buffer): Promise<Buffer> =>
  (promisify(scrypt) as (...of: unknown[]) => Promise<Buffer>)(passphrase, salt, KEY_BYTES, SCRYPT);

/** One of PostgreSQL's own programs; its password goes by the environment and is never an argument. */
const program = async (name: string, url: string, args: readonly string[]): Promise<void> => {
  const { hostname, port, username, password, pathname } = new URL(url);
  const child = spawn(
    join(process.env["PG_BIN"] ?? "", name),
    [
      "-h",
      hostname,
      "-p",
      port || "5432",
      "-U",
      decodeURIComponent(username),
      "-d",
      decodeURIComponent(pathname.slice(1)),
      ...args,
    ],
    {
      env: { ...process.env, PGPASSWORD: decodeURIComponent(password) },
      stdio: ["ignore", "ignore", "pipe"],
    },
  );
  let said = "";
  child.stderr.on("data", (chunk) => (said += String(chunk)));
  const status = await new Promise<number | null>((resolve, reject) => {
    child.on("error", reject);
    child.on("exit", resolve);
  });
  if (status !== 0) throw new NotKept(`${name}: ${said.trim().split("\n").at(-1) ?? "failed"}`);
};

const connected = async <T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> => {
  const client = new pg.Client({ connectionString: url });
  client.on("error", () => undefined);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end().catch(() => undefined);
  }
};

const SAME_WORDS = [
  "timezone = 'UTC'",
  "datestyle = 'ISO, YMD'",
  "intervalstyle = 'iso_8601'",
  "bytea_output = 'hex'",
  "extra_float_digits = 1",
];

/** Every table with its rows counted and its contents digested, whatever order they lie in. */
const tablesOf = async (client: pg.Client): Promise<Tables> => {
  // The same rows are the same words on every server, wherever it stands and however it was set up.
  for (const setting of SAME_WORDS) await client.query(`set ${setting}`);
  const names = await client.query<{ name: string }>(
    `select schemaname || '.' || tablename as name from pg_tables
     where schemaname not in ('pg_catalog', 'information_schema') order by 1`,
  );
  const tables: Tables = {};
  for (const { name } of names.rows) {
    const quoted = name
      .split(".")
      .map((part) => client.escapeIdentifier(part))
      .join(".");
    const { rows } = await client.query<{ rows: number; digest: string | null }>(
      `select count(*)::int as rows, md5(string_agg(d, '' order by d collate "C")) as digest
       from (select md5(t::text) as d from ${quoted} t) as each`,
    );
    tables[name] = { rows: rows[0]?.rows ?? 0, digest: rows[0]?.digest ?? "" };
  }
  return tables;
};

const differing = (a: Tables, b: Tables): string[] =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (name) => a[name]?.rows !== b[name]?.rows || a[name]?.digest !== b[name]?.digest,
  );

const sha256Of = async (path: string): Promise<string> => {
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest("hex");
};

const withFolder = async <T>(work: (folder: string) => Promise<T>): Promise<T> => {
  const folder = await mkdtemp(join(tmpdir(), "upper-shed-backup-"));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};

const writeFile = async (
  file: string,
  head: Omit<BackupHead, "encryption">,
  dump: string,
  passphrase: string | undefined,
): Promise<void> => {
  const [salt, iv] = [randomBytes(16), randomBytes(12)];
  const encryption =
    passphrase === undefined
      ? null
      : { salt: salt.toString("base64url"), iv: iv.toString("base64url") };
  const out = createWriteStream(file, { mode: 0o600 });
  out.write(`${JSON.stringify({ ...head, encryption })}\n`);
  if (passphrase === undefined) return pipeline(createReadStream(dump), out);
  const cipher = createCipheriv("aes-256-gcm", await keyOf(passphrase, salt), iv);
  await pipeline(
    createReadStream(dump),
    cipher,
    async function* (source: AsyncIterable<Buffer>) {
      yield* source;
      yield cipher.getAuthTag();
    },
    out,
  );
};

/** What a backup says it holds, and where its dump begins. */
const headOf = async (file: string): Promise<{ head: BackupHead; begins: number }> => {
  const handle = await open(file).catch(() => {
    throw new NotKept(`${file}: cannot be read`);
  });
  try {
    const { buffer, bytesRead } = await handle.read(
      Buffer.alloc(MOST_HEAD_BYTES),
      0,
      MOST_HEAD_BYTES,
      0,
    );
    const ends = buffer.subarray(0, bytesRead).indexOf(0x0a);
    const line = ends < 0 ? "" : buffer.subarray(0, ends).toString("utf8");
    let data: unknown;
    try {
      data = JSON.parse(line);
    } catch {
      data = undefined;
    }
    const head = headSchema.safeParse(data);
    if (!head.success) throw new NotKept(`${file}: is no backup of this application`);
    return { head: head.data, begins: ends + 1 };
  } finally {
    await handle.close();
  }
};

export const readHead = async (file: string): Promise<BackupHead> => (await headOf(file)).head;

/** What a file ends with, from a place on. */
const lastOf = async (file: string, from: number): Promise<Buffer> => {
  const handle = await open(file);
  try {
    const { buffer } = await handle.read(Buffer.alloc(TAG_BYTES), 0, TAG_BYTES, Math.max(0, from));
    return buffer;
  } finally {
    await handle.close();
  }
};

/** Puts the dump of a backup into a file of its own. @throws where it is not what its first line says, or the passphrase is another */
const takeOut = async (
  file: string,
  dump: string,
  passphrase: string | undefined,
): Promise<BackupHead> => {
  const { head, begins } = await headOf(file);
  const { encryption } = head;
  if (encryption && passphrase === undefined)
    throw new NotKept(`${file}: is encrypted; its passphrase is needed`);
  const { size } = await stat(file);
  const end = encryption ? size - TAG_BYTES : size;
  const source: Readable = createReadStream(file, {
    start: begins,
    end: Math.max(begins, end) - 1,
  });
  try {
    if (encryption && passphrase !== undefined) {
      const key = await keyOf(passphrase, Buffer.from(encryption.salt, "base64url"));
      const plain = createDecipheriv("aes-256-gcm", key, Buffer.from(encryption.iv, "base64url"));
      plain.setAuthTag(await lastOf(file, end));
      await pipeline(source, plain, createWriteStream(dump, { mode: 0o600 }));
    } else await pipeline(source, createWriteStream(dump, { mode: 0o600 }));
  } catch {
    throw new NotKept(`${file}: the passphrase is another, or the file was damaged`);
  }
  if ((await sha256Of(dump)) !== head.sha256)
    throw new NotKept(`${file}: was damaged: it is not what it says it holds`);
  return head;
};

const named = (url: string, database: string): string => {
  const other = new URL(url);
  other.pathname = `/${database}`;
  return other.href;
};
const quotedOf = (client: pg.Client, name: string): string => client.escapeIdentifier(name);

/** Restores a dump into a new database and holds it against what it should hold; where they differ, the database is taken away again. */
const restoredInto = async (
  url: string,
  database: string,
  dump: string,
  head: BackupHead,
): Promise<void> => {
  await connected(url, (c) => c.query(`create database ${quotedOf(c, database)}`));
  try {
    await program("pg_restore", named(url, database), ["--no-owner", "--exit-on-error", dump]);
    const there = await connected(named(url, database), tablesOf);
    const wrong = differing(head.tables, there);
    if (wrong.length > 0)
      throw new NotKept(`restored, these were not the same: ${wrong.join(", ")}`);
  } catch (error) {
    await connected(url, (c) =>
      c.query(`drop database if exists ${quotedOf(c, database)} with (force)`),
    );
    throw error;
  }
};

// No check takes so long: what is older was left behind.
const LEFT_BEHIND_MS = 6 * 3_600_000;

/** A database for a check, by whose name can be seen when it was made. */
const scratch = (): string =>
  `shed_check_${Date.now().toString(36)}_${randomUUID().replaceAll("-", "")}`;

/** Whether a database was left behind by a server that was stopped in the middle of a check; a check of a moment ago is somebody else's. */
const isLeftBehind = (name: string): boolean => {
  const [, made] = /^shed_check_([0-9a-z]+)_/u.exec(name) ?? [];
  return made === undefined || Number.parseInt(made, 36) < Date.now() - LEFT_BEHIND_MS;
};

const tidied = (url: string): Promise<void> =>
  connected(url, async (client) => {
    const { rows } = await client.query<{ name: string }>(
      "select datname as name from pg_database where datname like 'shed\\_check\\_%'",
    );
    for (const { name } of rows)
      if (isLeftBehind(name))
        await client.query(`drop database ${quotedOf(client, name)}`).catch(() => undefined);
  });

/** Whether a backup comes back as what it says it holds: restored into a database of its own, compared, and taken away. */
export const checkBackup = (url: string, file: string, passphrase?: string): Promise<BackupHead> =>
  withFolder(async (folder) => {
    const dump = join(folder, "dump");
    const head = await takeOut(file, dump, passphrase);
    await tidied(url);
    const database = scratch();
    await restoredInto(url, database, dump, head);
    await connected(url, (c) => c.query(`drop database ${quotedOf(c, database)} with (force)`));
    return head;
  });

/** Writes everything into one file, checked before it takes its name: a file that stands under it is good. */
export const writeBackup = (url: string, file: string, passphrase?: string): Promise<BackupHead> =>
  withFolder(async (folder) => {
    const dump = join(folder, "dump");
    const tables = await connected(url, async (client) => {
      // Counted and dumped as of one moment, whatever is written meanwhile.
      await client.query("begin isolation level repeatable read read only");
      const { rows } = await client.query<{ id: string }>("select pg_export_snapshot() as id");
      const counted = await tablesOf(client);
      await program("pg_dump", url, ["-Fc", `--snapshot=${rows[0]?.id ?? ""}`, "-f", dump]);
      await client.query("commit");
      return counted;
    });
    const half = join(dirname(file), `.${basename(file)}.half`);
    const head = {
      format: "upper-shed/backup",
      version: 1,
      at: new Date().toISOString(),
      tables,
      sha256: await sha256Of(dump),
    } as const;
    try {
      await writeFile(half, head, dump, passphrase);
      const checked = await checkBackup(url, half, passphrase);
      await rename(half, file);
      return checked;
    } catch (error) {
      await rm(half, { force: true });
      throw error;
    }
  });

/**
 * Puts a backup in the place of what is there. It is restored beside it first and compared; only then do the two change names, and what
 * was there stays under another.
 * @returns what was restored, and under which name the database of before stays
 */
export const restoreBackup = (
  url: string,
  file: string,
  passphrase?: string,
): Promise<{ head: BackupHead; before: string }> =>
  withFolder(async (folder) => {
    const dump = join(folder, "dump");
    const head = await takeOut(file, dump, passphrase);
    const name = decodeURIComponent(new URL(url).pathname.slice(1));
    const stamp = new Date().toISOString().replaceAll(/\D/gu, "").slice(0, 14);
    const [fresh, before] = [`${name}_fresh_${stamp}`, `${name}_before_${stamp}`];
    await restoredInto(url, fresh, dump, head);
    // A database is renamed from another, and while nobody is in it.
    await connected(named(url, "postgres"), async (c) => {
      const leave = (database: string) =>
        c.query("select pg_terminate_backend(pid) from pg_stat_activity where datname = $1", [
          database,
        ]);
      await c.query(`alter database ${quotedOf(c, name)} allow_connections false`);
      try {
        await leave(name);
        await c.query(`alter database ${quotedOf(c, name)} rename to ${quotedOf(c, before)}`);
        await c.query(`alter database ${quotedOf(c, fresh)} rename to ${quotedOf(c, name)}`);
      } finally {
        for (const database of [name, before])
          await c
            .query(`alter database ${quotedOf(c, database)} allow_connections true`)
            .catch(() => undefined);
      }
    });
    return { head, before };
  });
