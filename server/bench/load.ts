import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { type RunEventBody, standardSetup } from "@uppershed/core/procedure";
import { type SQL, sql } from "drizzle-orm";
import { spawn } from "node:child_process";
import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { type AddressInfo, createServer } from "node:net";
import { openDatabase } from "../src/db.ts";
import { migrateDatabase } from "../src/migrate.ts";
import { hashPassword } from "../src/people/passwords.ts";
import { people, workshops } from "../src/schema/index.ts";

/**
 * npm run bench:server: a large workshop, made from a seed, and how long the register, a unit's page and the bench take to answer.
 * The figures are of this machine; they are printed, not judged.
 */

const UNITS = Number(process.env["BENCH_UNITS"] ?? 20_000);
const VISITS_EACH = 10;
const READINGS_EACH = 100;
const PARTS_EACH = 25;
const ROUNDS = Number(process.env["BENCH_ROUNDS"] ?? 200);
const LIMIT_MS = 100;

const url = process.env["DATABASE_URL"];
if (!url) {
  console.error(
    'DATABASE_URL is not set. Run "npm run bench:server", which starts a database of its own.',
  );
  process.exit(2);
}

const FIRST = [
  "Ada",
  "Ben",
  "Cleo",
  "Dov",
  "Edda",
  "Finn",
  "Gwen",
  "Hal",
  "Ines",
  "Jude",
  "Kit",
  "Lena",
  "Milo",
  "Nell",
  "Otis",
  "Pia",
];
const LAST = [
  "Arkwright",
  "Bale",
  "Corran",
  "Dunmore",
  "Ellery",
  "Fenn",
  "Garrow",
  "Hollis",
  "Imber",
  "Jarrow",
  "Kestle",
  "Lund",
  "Marsh",
  "Nettle",
];
const CALLED = [
  "Bracken",
  "Bramble",
  "Teal",
  "Heron",
  "Thistle",
  "Foxtail",
  "Sedge",
  "Rowan",
  "Alder",
  "Plover",
  "Curlew",
  "Lark",
  "Wren",
  "Swift",
];
const CRAFTS = [
  "canal cruiser",
  "slide-in truck camper",
  "river cabin boat",
  "micro camper",
  "horse transporter",
  "ranger launch",
];
const PARTS = [
  "pump",
  "storage heater steel anode",
  "fresh tank",
  "strainer",
  "mixer tap",
  "hand shower",
  "toilet",
  "check valve",
  "ball valve brass",
];
const asArray = (of: readonly string[]) => sql.raw(`array[${of.map((o) => `'${o}'`).join(",")}]`);

/** The small, fixed figures of a seeded row: the same on every machine and every time. */
const pick = (of: readonly string[], n: string, step: number) =>
  sql`(${asArray(of)})[1 + (${sql.raw(n)} * ${sql.raw(String(step))}) % ${sql.raw(String(of.length))}]`;

const database = openDatabase(url);
const { db } = database;
await migrateDatabase(url);
const workshopId = randomUUID();
const personId = randomUUID();
const PASSWORD = "bench password";
const signIn = `bench-${workshopId.slice(0, 8)}`;
await db
  .insert(workshops)
  .values({ id: workshopId, name: "Bench", place: "", units: "metric", winterLowC: -18 });
await db.insert(people).values({
  id: personId,
  workshopId,
  signInName: signIn,
  name: "B. Ench",
  role: "lead",
  passwordHash: await hashPassword(PASSWORD),
});

const took = async (what: string, work: () => Promise<unknown>): Promise<void> => {
  const from = performance.now();
  await work();
  console.log(`${what.padEnd(44)} ${((performance.now() - from) / 1000).toFixed(1)} s`);
};

const map = EXAMPLE_MAPS.find((m) => m.id === "burdock");
/** An id made from words, in the form of RFC 9562's version 4. */
const uuidOf = (kind: string, n: string) => {
  const hash = `md5('${workshopId} ${kind} ' || ${n})`;
  return sql.raw(
    `(substr(${hash}, 1, 12) || '4' || substr(${hash}, 14, 3) || '8' || substr(${hash}, 18))::uuid`,
  );
};
/** Without looking up every reference of rows that were made to fit: the database is this command's own. */
const insert = (statement: SQL): Promise<unknown> =>
  db.transaction(async (tx) => {
    await tx.execute(sql`set local session_replication_role = replica`);
    // Two million rows at once take longer than any question of a person may.
    await tx.execute(sql`set local statement_timeout = 0`);
    await tx.execute(statement);
  });
console.log(
  `Seeding ${UNITS} units, ${UNITS * VISITS_EACH} visits, ${UNITS * READINGS_EACH} readings …`,
);
await took("customers", () =>
  insert(sql`insert into customers (id, workshop_id, name, phone, search)
    select ${uuidOf("customer", "n")}, ${workshopId}, name, phone, lower(name || ' ' || phone) || ' ' || regexp_replace(phone, '\\D', '', 'g')
    from (select n, ${pick(FIRST, "n", 7)} || ' ' || ${pick(LAST, "n", 11)} || ' ' || n as name, '0555 ' || lpad(n::text, 6, '0') as phone
      from generate_series(1, ${UNITS}) n) c`),
);
await took("units", () =>
  insert(sql`insert into units (id, workshop_id, customer_id, name, craft, plate, hull, berth, map_revision, holds_to_c, search)
    select ${uuidOf("unit", "n")}, ${workshopId}, ${uuidOf("customer", "n")}, name, craft, mark, hull, 'row ' || n % 40, 1, -(n % 37),
      lower(concat_ws(' ', name, craft, mark, hull, 'row', n % 40, owner, phone, array_to_string(${asArray(PARTS)}, ' '))) || ' sn-' || n
    from (select n, ${pick(CALLED, "n", 5)} || ' ' || n as name, ${pick(CRAFTS, "n", 3)} as craft, 'PL ' || lpad(n::text, 6, '0') as mark,
      'HN' || (n * 7919) % 1000003 as hull, ${pick(FIRST, "n", 7)} || ' ' || ${pick(LAST, "n", 11)} as owner, '0555' || lpad(n::text, 6, '0') as phone
      from generate_series(1, ${UNITS}) n) u`),
);
await took("maps", () =>
  insert(sql`insert into map_revisions (workshop_id, unit_id, revision, document, person_id, why)
    select ${workshopId}, ${uuidOf("unit", "n")}, 1, ${JSON.stringify(map)}::jsonb, ${personId}, 'bench' from generate_series(1, ${UNITS}) n`),
);
await took("parts", () =>
  insert(sql`insert into parts (workshop_id, unit_id, part_id, item, kind, name, words, on_map, fitted_on, expected_life_months)
    select ${workshopId}, ${uuidOf("unit", "n")}, 'p' || k, '', 'pump', ${pick(PARTS, "k", 1)}, ${pick(PARTS, "k", 1)}, true,
      date '2018-01-01' + ((n * 31 + k * 97) % 2500), 60 + k
    from generate_series(1, ${UNITS}) n, generate_series(1, ${PARTS_EACH}) k`),
);
await took("visits", () =>
  insert(sql`insert into visits (id, workshop_id, unit_id, starts_at, minutes, asked, state)
    select ${uuidOf("visit", "n || '/' || k")}, ${workshopId}, ${uuidOf("unit", "n")},
      date_trunc('day', now()) + interval '9 hours' - (k * 170 + n % 170) * interval '1 day' + (n % 480) * interval '1 minute', 90, 'Winterize',
      case when k = 0 and n % 170 < 2 then 'in-work' else 'gone' end
    from generate_series(1, ${UNITS}) n, generate_series(0, ${VISITS_EACH - 1}) k`),
);
await took("readings", () =>
  insert(sql`insert into readings (id, workshop_id, unit_id, person_id, key, label, dimension, value, at)
    select gen_random_uuid(), ${workshopId}, ${uuidOf("unit", "n")}, ${personId}, 'point ' || k % 12, 'Point ' || k % 12, 'pressure',
      200000 + (n * 13 + k * 7) % 90000, now() - (k * 17 + n % 17) * interval '1 day'
    from generate_series(1, ${UNITS}) n, generate_series(1, ${READINGS_EACH}) k`),
);
await took("looks and findings", async () => {
  await insert(sql`insert into looks (id, workshop_id, unit_id, person_id, key, point, mark, readings, at)
    select gen_random_uuid(), ${workshopId}, ${uuidOf("unit", "n")}, ${personId}, 'p' || k % 15 || '/Dry', 'Dry', 'good', '[]', now() - k * interval '30 days'
    from generate_series(1, ${UNITS}) n, generate_series(1, 30) k`);
  await insert(sql`insert into findings (id, workshop_id, unit_id, map_revision, what, severity, state, at)
    select ${uuidOf("finding", "n")}, ${workshopId}, ${uuidOf("unit", "n")}, 1, 'Weeps', case when n % 40 = 0 then 'unsafe' else 'wears' end,
      case when n % 3 = 0 then 'mended' else 'open' end, now() from generate_series(1, ${UNITS}) n`);
  await insert(sql`insert into finding_entries (id, workshop_id, finding_id, person_id, position, body, at)
    select ${uuidOf("entry", "n")}, ${workshopId}, ${uuidOf("finding", "n")}, ${personId}, 1,
      ${JSON.stringify({ type: "found", what: "Weeps", severity: "wears", partId: null, place: "", cause: "", advice: "", partsNeeded: "", minutes: null })}::jsonb, now()
    from generate_series(1, ${UNITS}) n`);
});
await took("vacuum and analyze", () => db.execute(sql`vacuum analyze`));
// What was filled in is written out before anything is timed.
await took("checkpoint", () => db.execute(sql`checkpoint`));

/** The server as it is started everywhere, in a process of its own: what it does does not wait for whoever asks. */
const port = await new Promise<number>((resolve) => {
  const probe = createServer().listen(0, "127.0.0.1", () => {
    const { port: free } = probe.address() as AddressInfo;
    probe.close(() => resolve(free));
  });
});
const server = spawn("node", ["--import", "tsx", "server/src/main.ts"], {
  stdio: ["ignore", "ignore", "inherit"],
  env: {
    ...process.env,
    DATABASE_URL: url,
    PORT: String(port),
    SIGN_INS_PER_MINUTE: "1000",
    REQUESTS_PER_MINUTE: "10000000",
  },
});
process.on("exit", () => server.kill("SIGKILL"));
const address = `http://127.0.0.1:${port}`;
for (let up = false; !up;)
  up = await fetch(`${address}/api/health`).then(
    (r) => r.ok,
    () => new Promise<boolean>((again) => setTimeout(again, 100, false)),
  );
const reply = await fetch(`${address}/api/sign-in`, {
  method: "POST",
  headers: { "content-type": "application/json" },
  body: JSON.stringify({ name: signIn, password: PASSWORD }),
});
const cookie = reply.headers.get("set-cookie")?.split(";")[0] ?? "";
const get = async (path: string): Promise<void> => {
  const got = await fetch(`${address}/api${path}`, { headers: { cookie } });
  await got.arrayBuffer();
  if (!got.ok) throw new Error(`${path}: ${got.status}`);
};

const [{ ids }] = (
  await db.execute<{ ids: string[] }>(
    sql`select array_agg(id::text) as ids from (select id from units where workshop_id = ${workshopId} order by md5(id::text) limit ${ROUNDS}) u`,
  )
).rows as [{ ids: string[] }];
const now = new Date();
const day = (days: number): string => new Date(now.getTime() + days * 86_400_000).toISOString();
const id = (i: number): string => ids[i % ids.length] ?? "";
const word = (of: readonly string[], i: number): string => of[i % of.length] ?? "";

const ASKED: Record<string, (i: number) => string> = {
  "register: first page": () => "/units?limit=50",
  "register: by name": (i) =>
    `/units?find=${word(CALLED, i).toLowerCase()}+${1 + ((i * 97) % UNITS)}`,
  "register: by a common name": (i) => `/units?find=${word(CALLED, i).toLowerCase()}`,
  "register: by owner": (i) => `/units?find=${word(FIRST, i)}+${word(LAST, i * 3)}`,
  "register: by phone": (i) =>
    `/units?find=0555+${String(1 + ((i * 613) % UNITS)).padStart(6, "0")}`,
  "register: by hull number": (i) => `/units?find=hn${(((1 + i * 31) % UNITS) * 7919) % 1_000_003}`,
  "register: by a part that all have": () => "/units?find=storage+heater+anode",
  "register: by a part's serial": (i) => `/units?find=sn-${1 + ((i * 331) % UNITS)}`,
  "register: nothing fits": (i) => `/units?find=zz${i}qq`,
  "register: least cold first": () => "/units?sort=cold&limit=50",
  "register: unsafe only": () => "/units?only=unsafe",
  "register: here now": () => "/units?only=here",
  "customers: by words": (i) =>
    `/customers?find=${word(LAST, i).toLowerCase()}+${1 + ((i * 97) % UNITS)}`,
  unit: (i) => `/units/${id(i)}`,
  "unit: map": (i) => `/units/${id(i)}/map`,
  "unit: runs": (i) => `/units/${id(i)}/runs`,
  "unit: visits": (i) => `/visits?from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z&unit=${id(i)}`,
  "unit: readings": (i) => `/units/${id(i)}/readings`,
  "unit: looks": (i) => `/units/${id(i)}/looks`,
  "unit: findings": (i) => `/units/${id(i)}/findings`,
  "unit: parts": (i) => `/parts?unit=${id(i)}`,
  "unit: pictures": (i) => `/units/${id(i)}/pictures`,
  "bench: visits of the week": () => `/visits?from=${day(0)}&to=${day(7)}&here=yes`,
  "bench: frost ladder of the lot": () => "/units?sort=cold&limit=16",
  "findings of all, open": () => "/findings?state=open",
  "parts: by a common word": () => "/parts?text=heater",
  "parts: by two words": () => "/parts?text=heater+anode",
  "parts: by a unit's name": (i) =>
    `/parts?text=${word(CALLED, i).toLowerCase()}+${1 + ((i * 97) % UNITS)}`,
  "parts: nothing fits": (i) => `/parts?text=zz${i}qq`,
  "parts: older than five years": () => "/parts?text=anode&fittedMonthsAgo=60",
  "parts: past their life": () => "/parts?dueBy=2026-01-01",
  "register: a deep page": (i) => `/units?limit=50&skip=${Math.min(UNITS - 50, 5000 + i * 10)}`,
};

const UNIT_PAGE = Object.keys(ASKED).filter((k) => k === "unit" || k.startsWith("unit: "));
const at = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
const measure = async (name: string, one: (i: number) => Promise<unknown>): Promise<boolean> => {
  for (let i = 0; i < 10; i++) await one(i + 1000);
  const times: number[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    const from = performance.now();
    await one(i);
    times.push(performance.now() - from);
  }
  const sorted = times.toSorted((a, b) => a - b);
  const p95 = at(sorted, 0.95);
  console.log(
    `${name.padEnd(44)} median ${at(sorted, 0.5).toFixed(1).padStart(7)} ms   95th percentile ${p95.toFixed(1).padStart(7)} ms${p95 > LIMIT_MS ? "   over" : ""}`,
  );
  return p95 <= LIMIT_MS;
};

console.log(`\n${ROUNDS} requests each, over HTTP on loopback, one after the other:`);
let all = true;
for (const [name, path] of Object.entries(ASKED))
  all = (await measure(name, (i) => get(path(i)))) && all;
all =
  (await measure("a unit's whole page, its requests at once", (i) =>
    Promise.all(UNIT_PAGE.map((k) => get(ASKED[k]?.(i) ?? ""))),
  )) && all;
const post = async (path: string, body: unknown): Promise<void> => {
  const sent = await fetch(`${address}/api${path}`, {
    method: "POST",
    headers: { cookie, "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  await sent.arrayBuffer();
  if (!sent.ok) throw new Error(`${path}: ${sent.status}`);
};
all =
  (await measure("a note is kept", (i) =>
    post(`/units/${id(i)}/notes`, { id: randomUUID(), text: `Looked at, ${i}` }),
  )) && all;
// Fifty people ask for what stands on the Bench and a unit; each answer is timed.
const CLIENTS = 50;
const AT_ONCE = [
  "bench: visits of the week",
  "bench: frost ladder of the lot",
  "unit",
  "unit: map",
];
const fiftyAsk = async (what: string, everyMs: number, each: number): Promise<number> => {
  const times: number[] = [];
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, client) => {
      for (let i = 0; i < each; i++) {
        // Nobody begins just when another does.
        if (everyMs > 0)
          await new Promise((go) =>
            setTimeout(go, i === 0 ? (client * everyMs) / CLIENTS : everyMs),
          );
        const from = performance.now();
        await get(ASKED[AT_ONCE[i % AT_ONCE.length] ?? ""]?.(client * 7 + i) ?? "");
        times.push(performance.now() - from);
      }
    }),
  );
  const sorted = times.toSorted((a, b) => a - b);
  console.log(
    `${`${CLIENTS} clients, ${what}`.padEnd(44)} median ${at(sorted, 0.5).toFixed(1).padStart(7)} ms   95th percentile ${at(sorted, 0.95).toFixed(1).padStart(7)} ms`,
  );
  return at(sorted, 0.95);
};
await fiftyAsk("each asking again as soon as it is told", 0, 8);
all = (await fiftyAsk("each asking once a second", 1000, 12)) <= LIMIT_MS && all;

// A sheet as it is kept up by a tablet: one entry after another of a run that has its plan.
const runId = randomUUID();
await post("/runs", {
  id: runId,
  unitId: id(0),
  visitId: null,
  mapRevision: 1,
  setup: standardSetup(),
});
let seq = 0;
const enter = (body: RunEventBody): Promise<void> =>
  post(`/runs/${runId}/events`, {
    form: 2,
    events: [{ id: randomUUID(), seq: ++seq, at: new Date().toISOString(), body }],
  });
await enter({ type: "as-found", lineup: {} });
all =
  (await measure("an entry of a run is kept", (i) =>
    enter({ type: "note", text: `Looked at again, ${i}` }),
  )) && all;

// Everything out at once, while somebody else works on.
const out = { done: false, seconds: 0 };
const began = performance.now();
const exporting = get("/register/csv").then(() => {
  out.done = true;
  out.seconds = (performance.now() - began) / 1000;
});
const beside: number[] = [];
while (!out.done) {
  const from = performance.now();
  await get("/units?sort=cold&limit=16");
  beside.push(performance.now() - from);
}
await exporting;
const others = beside.toSorted((a, b) => a - b);
console.log(
  `${`the register out as CSV, ${UNITS} units`.padEnd(44)} ${out.seconds.toFixed(1)} s; the Bench meanwhile: median ${at(others, 0.5).toFixed(1)} ms   longest ${at(others, 1).toFixed(1)} ms`,
);
console.log(all ? `\nEverything under ${LIMIT_MS} ms.` : `\nSomething is over ${LIMIT_MS} ms.`);
server.kill("SIGTERM");
await once(server, "exit");
await database.close();
