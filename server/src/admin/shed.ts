import { joinSchema, setUpSchema } from "@uppershed/contract";
import { ROLES } from "@uppershed/core/inspection";
import { parseQuantity, UNIT_SYSTEMS, type UnitSystem } from "@uppershed/core/quantity";
import { and, eq } from "drizzle-orm";
import { createInterface } from "node:readline/promises";
import { Writable } from "node:stream";
import { text } from "node:stream/consumers";
import { resolve } from "node:path";
import { parseArgs } from "node:util";
import type { z } from "zod";
import { type Db, openDatabase } from "../db.ts";
import { Refused } from "../errors.ts";
import {
  type BackupHead,
  checkBackup,
  NotKept,
  restoreBackup,
  writeBackup,
} from "../keeping/backup.ts";
import { migrateDatabase } from "../migrate.ts";
import { signInNameTaken } from "../people/directory.ts";
import { NO_SECOND_FACTOR } from "../people/second-factor.ts";
import { hashPassword } from "../people/passwords.ts";
import { people, sessions, workshops } from "../schema/index.ts";
import { addWorkshop } from "../set-up/set-up.ts";

/** Workshops and people by the command line, for whoever runs the server. A password is asked for or read from the standard input. */

const HELP = `shed workshop add --name NAME [--place PLACE] [--units metric|us|imperial, with .C or .F and .point or .comma after it] --winter-low -18C --lead NAME --sign-in NAME
shed workshop list
shed person add --workshop NAME --name NAME --sign-in NAME --role ${ROLES.join("|")}
shed person reset SIGN-IN    a new password; signed out everywhere
shed person list
shed backup FILE [--passphrase]         everything in one file, restored once and compared before it counts
shed check-backup FILE [--passphrase]   whether it comes back as what it says it holds
shed restore FILE [--passphrase]        puts it in the place of what is there, which stays under another name
With --passphrase it is asked for, or read from the standard input.
The password is asked for, or read from the standard input; it is never an argument.`;

class BadInput extends Error {}

const OPTIONS = {
  name: { type: "string" },
  place: { type: "string", default: "" },
  units: { type: "string", default: "metric" },
  "winter-low": { type: "string" },
  lead: { type: "string" },
  "sign-in": { type: "string" },
  workshop: { type: "string" },
  role: { type: "string" },
  passphrase: { type: "boolean", default: false },
} as const;

const need = (value: string | undefined, name: string): string => {
  if (value === undefined || value.trim() === "") throw new BadInput(`--${name} is needed`);
  return value.trim();
};

const read = <T>(schema: z.ZodType<T>, given: unknown): T => {
  const parsed = schema.safeParse(given);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new BadInput(`${issue?.path.join(".") ?? ""}: ${issue?.message ?? "not allowed"}`);
};

/** A password typed without being shown, twice; or the first line of what is piped in. */
const askPassword = async (): Promise<string> => {
  if (!process.stdin.isTTY) return (await text(process.stdin)).split("\n")[0]?.trim() ?? "";
  const silent = new Writable({ write: (_chunk, _encoding, done) => done() });
  const lines = createInterface({ input: process.stdin, output: silent, terminal: true });
  const ask = async (words: string): Promise<string> => {
    process.stderr.write(words);
    const typed = await lines.question("");
    process.stderr.write("\n");
    return typed;
  };
  const first = await ask("Password: ");
  const again = await ask("Once more: ");
  lines.close();
  if (first !== again) throw new BadInput("the two are not the same; nothing was changed");
  return first;
};

type Values = ReturnType<typeof parseArgs<{ options: typeof OPTIONS }>>["values"];

const winterLow = (given: string): number => {
  const low = parseQuantity(given, "temperature", "metric");
  if (!low.ok) throw new BadInput(`--winter-low: ${low.problem}`);
  return low.quantity.si;
};

const unitsOf = (given: string): UnitSystem => {
  const found = UNIT_SYSTEMS.find((u) => u === given);
  if (!found) throw new BadInput(`--units must be one of ${UNIT_SYSTEMS.join(", ")}`);
  return found;
};

const workshopAdd = async (db: Db, values: Values): Promise<object> => {
  const asked = {
    workshop: {
      name: need(values.name, "name"),
      place: values.place,
      units: unitsOf(values.units),
      winterLowC: winterLow(need(values["winter-low"], "winter-low")),
    },
    lead: { name: need(values.lead, "lead"), signInName: need(values["sign-in"], "sign-in") },
  };
  const password = await askPassword();
  const whole = read(setUpSchema, {
    code: "by command",
    workshop: asked.workshop,
    lead: { ...asked.lead, password },
  });
  if ("demo" in whole) throw new BadInput("a workshop is needed");
  const lead = await addWorkshop(db, { workshop: whole.workshop, lead: whole.lead });
  return { workshop: lead.workshopId, lead: whole.lead.signInName };
};

const personAdd = async (db: Db, values: Values): Promise<object> => {
  const named = need(values.workshop, "workshop");
  const role = ROLES.find((r) => r === need(values.role, "role"));
  if (!role) throw new BadInput(`--role must be one of ${ROLES.join(", ")}`);
  const found = await db.select().from(workshops).where(eq(workshops.name, named));
  const [workshop] = found;
  if (!workshop || found.length > 1)
    throw new BadInput(
      workshop ? `several workshops are called "${named}"` : `no workshop is called "${named}"`,
    );
  const [name, signInName] = [need(values.name, "name"), need(values["sign-in"], "sign-in")];
  const asked = read(joinSchema, { name, signInName, password: await askPassword() });
  const passwordHash = await hashPassword(asked.password);
  const row = {
    workshopId: workshop.id,
    name,
    signInName: asked.signInName ?? "",
    role,
    passwordHash,
  };
  const added = await db
    .insert(people)
    .values(row)
    .onConflictDoNothing()
    .returning({ id: people.id });
  if (added.length === 0) throw signInNameTaken();
  return { person: added[0]?.id, signInName: row.signInName };
};

const personReset = async (db: Db, signInName: string | undefined): Promise<object> => {
  const [person] = await db
    .select()
    .from(people)
    .where(eq(people.signInName, (signInName ?? "").toLowerCase()));
  if (!person) throw new BadInput(`nobody signs in as "${signInName ?? ""}"`);
  const { password } = read(joinSchema, { password: await askPassword() });
  const passwordHash = await hashPassword(password);
  await db.transaction(async (tx) => {
    const own = and(eq(people.workshopId, person.workshopId), eq(people.id, person.id));
    await tx
      .update(people)
      .set({ passwordHash, ...NO_SECOND_FACTOR })
      .where(own);
    await tx.delete(sessions).where(eq(sessions.personId, person.id));
  });
  return { person: person.id, signInName: person.signInName };
};

const listWorkshops = async (db: Db): Promise<object> =>
  (await db.select().from(workshops)).map(({ id, name, place, units, winterLowC, isDemo }) => ({
    id,
    name,
    place,
    units,
    winterLowC,
    isDemo,
  }));

const listEverybody = async (db: Db): Promise<object> =>
  (await db.select().from(people).innerJoin(workshops, eq(workshops.id, people.workshopId))).map(
    (row) => ({
      workshop: row.workshops.name,
      name: row.people.name,
      signInName: row.people.signInName,
      role: row.people.role,
      leftAt: row.people.leftAt,
    }),
  );

const COMMANDS: Readonly<
  Record<string, (db: Db, values: Values, rest: readonly string[]) => Promise<object>>
> = {
  "workshop add": workshopAdd,
  "workshop list": listWorkshops,
  "person add": personAdd,
  "person reset": (db, _values, rest) => personReset(db, rest[0]),
  "person list": listEverybody,
};

const askPassphrase = async ({ passphrase }: Values): Promise<string | undefined> => {
  if (!passphrase) return undefined;
  const given = await askPassword();
  if (given === "") throw new BadInput("the passphrase is empty");
  return given;
};

const fileOf = (given: string): string => {
  if (given === "") throw new BadInput("a file is needed");
  return resolve(process.env["CALLED_FROM"] ?? process.cwd(), given);
};

const holds = ({ at, tables }: BackupHead, file: string): object => ({
  file,
  at,
  rows: Object.fromEntries(Object.entries(tables).map(([name, { rows }]) => [name, rows])),
});

/** What is done with the database as a whole. */
const KEEPING: Readonly<
  Record<string, (url: string, given: string, values: Values) => Promise<object>>
> = {
  backup: async (url, given, values) => {
    const file = fileOf(given);
    return holds(await writeBackup(url, file, await askPassphrase(values)), file);
  },
  "check-backup": async (url, given, values) => {
    const file = fileOf(given);
    return holds(await checkBackup(url, file, await askPassphrase(values)), file);
  },
  restore: async (url, given, values) => {
    const file = fileOf(given);
    const { head, before } = await restoreBackup(url, file, await askPassphrase(values));
    await migrateDatabase(url);
    return { ...holds(head, file), before: `what was there is kept as the database ${before}` };
  },
};

/** "--winter-low -18C" means what it says, though the figure begins like an option. */
const withColdFigure = (args: readonly string[]): string[] =>
  args.flatMap((arg, i) =>
    arg === "--winter-low" && args[i + 1] !== undefined
      ? [`${arg}=${args[i + 1]}`]
      : args[i - 1] === "--winter-low"
        ? []
        : [arg],
  );

/** @returns exit status */
const main = async (): Promise<number> => {
  const url = process.env["DATABASE_URL"] ?? "";
  let values: Values;
  let positionals: string[];
  try {
    ({ values, positionals } = parseArgs({
      args: withColdFigure(process.argv.slice(2)),
      options: OPTIONS,
      allowPositionals: true,
    }));
  } catch (error) {
    console.error((error as Error).message);
    return 2;
  }
  const [what = "", does = "", ...rest] = positionals;
  const keep = KEEPING[what];
  if (keep) return tried(() => keep(url, does, values));
  const command = COMMANDS[`${what} ${does}`];
  if (!command) {
    console.error(HELP);
    return 2;
  }
  await migrateDatabase(url);
  const database = openDatabase(url);
  const status = await tried(() => command(database.db, values, rest));
  await database.close();
  return status;
};

const tried = async (work: () => Promise<object>): Promise<number> => {
  try {
    console.log(JSON.stringify(await work(), null, 2));
    return 0;
  } catch (error) {
    if (!(error instanceof BadInput || error instanceof Refused || error instanceof NotKept))
      throw error;
    console.error(error.message);
    return 2;
  }
};

process.exitCode = await main();
