import { REPLY_ROUTES } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import pg from "pg";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { buildApp } from "./app.ts";
import { openDatabase } from "./db.ts";
import {
  openTestServer,
  PASSWORD,
  SETUP,
  type TestServer,
  type TestWorkshop,
} from "./testing/bench.ts";

/** What a server meets in bad hours: two at once, rows that are held, a database that goes away, text that is no text. */

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let admin: pg.Client;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("lead");
  admin = new pg.Client({ connectionString: server.url });
  await admin.connect();
});
afterAll(async () => {
  await admin.end();
  await server.close();
});

/** How many of the database's own people wait for a row. */
const waiting = async (): Promise<number> => {
  const { rows } = await admin.query(
    "select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'",
  );
  return rows.length;
};
const post = (url: string, payload: object) => me({ method: "POST", url: `/api${url}`, payload });
const AT = "2026-11-02T09:00:00.000Z";
const visit = (id: string) => ({
  id,
  unitId: home.unitId,
  startsAt: AT,
  minutes: 60,
  asked: "Winterize",
});
const wordsOf = (reply: { body: string }): string =>
  (JSON.parse(reply.body) as { error: { message: string } }).error.message;

describe("the same thing sent many times at once", () => {
  it.each([
    ["a visit", () => ["/visits", visit(randomUUID())] as const],
    ["a note", () => [`/units/${home.unitId}/notes`, { id: randomUUID(), text: "wet" }] as const],
    ["a customer", () => ["/customers", { id: randomUUID(), name: "J. Tarn" }] as const],
    [
      "a unit",
      () =>
        [
          "/units",
          {
            id: randomUUID(),
            name: "Bracken",
            craft: "camper",
            owner: "O. Vane",
            document: EXAMPLE_MAPS[3],
          },
        ] as const,
    ],
    [
      "a finding",
      () => {
        const id = randomUUID();
        const body = { type: "found", what: "Weeps", severity: "wears", partId: "pump" };
        return [
          `/units/${home.unitId}/findings/${id}`,
          { id, at: AT, mapRevision: 1, body },
        ] as const;
      },
    ],
    [
      "a walk-round",
      () => {
        const look = {
          id: randomUUID(),
          key: "pump/mounts-firm",
          partId: "pump",
          pointId: "mounts-firm",
          point: "Mounts firm",
        };
        return [
          `/units/${home.unitId}/looks`,
          { looks: [{ ...look, mark: "good", at: AT }] },
        ] as const;
      },
    ],
    [
      "readings",
      () => {
        const reading = {
          id: randomUUID(),
          kind: "still",
          spot: "supply",
          label: "Supply pressure, still",
          dimension: "pressure",
        };
        return [
          `/units/${home.unitId}/readings`,
          { readings: [{ ...reading, value: 3e5, typed: "3 bar", at: AT }] },
        ] as const;
      },
    ],
    ["an in-use", () => [`/units/${home.unitId}/in-use`, { id: randomUUID(), at: AT }] as const],
  ])("%s is made once, and nobody is told that its id is taken", async (_, make) => {
    const [url, payload] = make();
    const replies = await Promise.all(Array.from({ length: 8 }, () => post(url, payload)));
    expect(replies.filter((r) => r.statusCode >= 300).map(wordsOf)).toEqual([]);
    expect(new Set(replies.map((r) => r.json<{ id?: string }>().id)).size).toBe(1);
  });

  it("a run is begun once by a double click, and the database takes no second open one", async () => {
    const boat = await server.workshop(randomUUID());
    const there = await boat.as("technician");
    const begin = (id: string) =>
      there({
        method: "POST",
        url: "/api/runs",
        payload: { id, unitId: boat.unitId, visitId: null, mapRevision: 1, setup: SETUP },
      });
    const same = randomUUID();
    const replies = await Promise.all(
      [same, same, randomUUID(), randomUUID(), randomUUID()].map(begin),
    );
    const open = replies
      .filter((r) => r.statusCode === 201)
      .map((r) => r.json<{ id: string }>().id);
    expect(new Set(open).size).toBe(1);
    for (const reply of replies.filter((r) => r.statusCode !== 201)) {
      expect(reply.statusCode).toBe(409);
      expect(wordsOf(reply)).toContain("open on this unit already");
    }
    const { rows } = await admin.query("select count(*)::int as n from runs where unit_id = $1", [
      boat.unitId,
    ]);
    expect(rows).toEqual([{ n: 1 }]);
  });

  it("one run's entries from two tabs are kept once each, in one order", async () => {
    const boat = await server.workshop(randomUUID());
    const there = await boat.as("technician");
    const runId = randomUUID();
    await there({
      method: "POST",
      url: "/api/runs",
      payload: { id: runId, unitId: boat.unitId, visitId: null, mapRevision: 1, setup: SETUP },
    });
    const note = (i: number) => ({
      id: randomUUID(),
      seq: i + 1,
      at: AT,
      body: { type: "note", text: `note ${i}` },
    });
    const events = [
      { id: randomUUID(), seq: 1, at: AT, body: { type: "as-found", lineup: {} } },
      ...Array.from({ length: 6 }, (_, i) => note(i)),
    ];
    // On a slow machine a device that waits is told to come again, and does.
    const send = async (some: object[]): Promise<number> => {
      const { statusCode } = await there({
        method: "POST",
        url: `/api/runs/${runId}/events`,
        payload: { events: some },
      });
      return statusCode === 503 ? send(some) : statusCode;
    };
    const replies = await Promise.all([
      send(events),
      send(events.slice(0, 4)),
      send(events.slice(0, 2)),
      send(events),
    ]);
    expect(replies).toEqual([200, 200, 200, 200]);
    const run = (await there({ url: `/api/runs/${runId}` })).json<{
      events: { id: string; body: { type: string } }[];
    }>();
    expect(run.events.filter((e) => e.body.type !== "planned").map((e) => e.id)).toEqual(
      events.map((e) => e.id),
    );
    expect(run.events.filter((e) => e.body.type === "planned")).toHaveLength(1);
  });

  it("a register file is taken in once: pressed again it finds everything the same", async () => {
    const text = [
      "owner,phone,unit,what it is",
      "F. Erry,0555 0777,Sedge,camper",
      "G. Ull,0555 0778,Reed,barge",
    ].join("\r\n");
    const replies = await Promise.all(
      Array.from({ length: 4 }, () => post("/register", { kind: "csv", text, tryOnly: false })),
    );
    const made = replies.map((r) => r.json<{ newUnits: number; newCustomers: number }>());
    expect(made.reduce((n, r) => n + r.newUnits, 0)).toBe(2);
    expect(made.reduce((n, r) => n + r.newCustomers, 0)).toBe(2);
    const { units } = (await me({ url: "/api/units?find=Sedge" })).json<{ units: object[] }>();
    expect(units).toHaveLength(1);
  });

  it("customers put together at once leave none hanging", async () => {
    const ids = Array.from({ length: 4 }, () => randomUUID());
    for (const [i, id] of ids.entries())
      await post("/customers", {
        id,
        name: `Double ${i}`,
        note: `note ${i}`,
        address: `lane ${i}`,
      });
    const [a = "", b = "", c = "", d = ""] = ids;
    // Each into another, all at the same time, in a ring and across.
    const merge = (id: string, double: string) => post(`/customers/${id}/merge`, { double });
    await Promise.all([merge(a, b), merge(b, c), merge(c, d), merge(d, a), merge(a, c)]);
    const { rows } = await admin.query<{ id: string; into: string | null }>(
      "select id, merged_into as into from customers where id = any($1)",
      [ids],
    );
    const into = new Map(rows.map((r) => [r.id, r.into]));
    const kept = ids.filter((id) => into.get(id) === null);
    expect(kept.length).toBeGreaterThan(0);
    // Every double points at one that stays.
    for (const id of ids) if (into.get(id) !== null) expect(kept).toContain(into.get(id));
  });
});

describe("rows that are held", () => {
  it("keep nobody waiting for ever, and do not take the whole pool: others are answered meanwhile", async () => {
    const id = randomUUID();
    await post("/visits", visit(id));
    await admin.query("begin");
    await admin.query("select 1 from visits where id = $1 for update", [id]);
    try {
      const held = Array.from({ length: 12 }, () =>
        me({ method: "PATCH", url: `/api/visits/${id}`, payload: { state: "arrived" } }),
      );
      // They let go in the order in which they came; whoever asks for something else gets it in between.
      const other = await me({ url: "/api/units" });
      expect([200, 503]).toContain(other.statusCode);
      const replies = await Promise.all(held);
      for (const reply of replies) {
        expect(reply.statusCode).toBe(503);
        expect(wordsOf(reply)).toMatch(/Nothing was changed; try again/u);
      }
    } finally {
      await admin.query("rollback");
    }
    expect(
      (await me({ method: "PATCH", url: `/api/visits/${id}`, payload: { state: "arrived" } }))
        .statusCode,
    ).toBe(200);
  });
});

describe("a server that is told to stop", () => {
  it("finishes what is under way before it stops", async () => {
    const app = await buildApp(server.database.db, {
      secureCookies: false,
      signInsPerMinute: 1000,
      requestsPerMinute: 100_000,
      log: false,
    });
    const url = await app.listen({ port: 0, host: "127.0.0.1" });
    const id = randomUUID();
    await post("/visits", visit(id));
    const signIn = {
      method: "POST",
      body: JSON.stringify({ name: home.signIn("lead"), password: PASSWORD }),
    };
    const headers = { "content-type": "application/json" };
    const cookie =
      (await fetch(`${url}/api/sign-in`, { ...signIn, headers })).headers
        .get("set-cookie")
        ?.split(";")[0] ?? "";
    await admin.query("begin");
    await admin.query("select 1 from visits where id = $1 for update", [id]);
    const body = JSON.stringify({ state: "arrived" });
    const asked = fetch(`${url}/api/visits/${id}`, {
      method: "PATCH",
      headers: { ...headers, cookie },
      body,
    });
    await expect.poll(waiting).toBe(1);
    let stopped = false;
    const stopping = app.close().then(() => {
      stopped = true;
    });
    // Whoever comes now finds the door shut; whoever was inside is not put out.
    await expect
      .poll(() =>
        fetch(`${url}/api/health`).then(
          (r) => (r.ok ? "open" : "shut"),
          () => "shut",
        ),
      )
      .toBe("shut");
    expect(stopped).toBe(false);
    await admin.query("rollback");
    expect((await asked).status).toBe(200);
    await stopping;
    expect((await me({ url: `/api/visits/${id}` })).json()).toMatchObject({ state: "arrived" });
  });

  it("notes a failure by method, route, cause and request, and nothing of what was sent", async () => {
    const lines: string[] = [];
    const away = new URL(server.url);
    away.port = "1";
    const database = openDatabase(away.href);
    const settings = {
      secureCookies: false,
      signInsPerMinute: 1000,
      requestsPerMinute: 100_000,
      log: true,
    };
    const app = await buildApp(database.db, {
      ...settings,
      logTo: { write: (line) => void lines.push(line) },
    });
    const reply = await app.inject({
      method: "POST",
      url: "/api/sign-in",
      payload: { name: "somebody", password: "a secret of theirs" },
    });
    expect(reply.statusCode).toBe(503);
    await app.close();
    await database.close();
    const [line = ""] = lines;
    expect(JSON.parse(line)).toMatchObject({
      msg: "request failed",
      method: "POST",
      route: "/api/sign-in",
      id: expect.any(String),
    });
    expect(line).not.toMatch(/secret|somebody/u);
  });
});

describe("a database that goes away", () => {
  it("in the middle of a transaction is answered as away, ends nothing, and the next request works", async () => {
    const before = process.listenerCount("uncaughtException");
    const working = server.database.db
      .transaction(async (tx) => {
        await tx.execute(sql`select 1`);
        const { rows } = await tx.execute<{ pid: number }>(sql`select pg_backend_pid() as pid`);
        await admin.query("select pg_terminate_backend($1)", [rows[0]?.pid]);
        await tx.execute(sql`select 1`);
      })
      .then(() => "done")
      .catch(() => "failed");
    expect(await working).toBe("failed");
    expect((await me({ url: "/api/units" })).statusCode).toBe(200);
    expect(process.listenerCount("uncaughtException")).toBe(before);
  });

  it("while requests are under way: each is answered, with 200 or as away, and none with a failure of ours", async () => {
    const asked = Array.from({ length: 20 }, (_, i) =>
      post("/visits", visit(randomUUID())).then((r) => [i, r.statusCode] as const),
    );
    await admin.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()",
    );
    for (const [, status] of await Promise.all(asked)) expect([201, 503]).toContain(status);
    expect((await me({ url: "/api/units" })).statusCode).toBe(200);
  });
});

describe("what no database and no paper can hold", () => {
  const NUL = "a\u0000b";
  const HALF = "half of a \ud83d letter";
  it.each([
    [
      "U+0000 in a note",
      () => post(`/units/${home.unitId}/notes`, { id: randomUUID(), text: NUL }),
    ],
    [
      "half a letter in a note",
      () => post(`/units/${home.unitId}/notes`, { id: randomUUID(), text: HALF }),
    ],
    ["U+0000 in a search", () => me({ url: `/api/units?find=${encodeURIComponent(NUL)}` })],
    ["U+0000 in a key of a lineup", () => post("/visits", { ...visit(randomUUID()), [NUL]: 1 })],
    [
      "the year 0",
      () => post("/visits", { ...visit(randomUUID()), startsAt: "0000-01-01T00:00:00.000Z" }),
    ],
    [
      "a year after the last",
      () => post("/visits", { ...visit(randomUUID()), startsAt: "+012026-01-01T00:00:00.000Z" }),
    ],
    ["revision 2^31", () => me({ url: `/api/units/${home.unitId}/map/2147483648` })],
    ["an offset beyond all", () => me({ url: "/api/units?skip=99999999999" })],
  ])("%s is refused with where it stands", async (_, ask) => {
    const reply = await ask();
    expect(reply.statusCode).toBe(400);
    expect(wordsOf(reply).length).toBeGreaterThan(10);
  });

  it("an empty change of a visit changes nothing and is no failure", async () => {
    const id = randomUUID();
    const made = (await post("/visits", visit(id))).json();
    const reply = await me({ method: "PATCH", url: `/api/visits/${id}`, payload: {} });
    expect(reply.statusCode).toBe(200);
    expect(reply.json()).toEqual(made);
  });

  it("a finding on a part that the map does not have is refused by name", async () => {
    const id = randomUUID();
    const body = { type: "found", what: "Weeps", severity: "wears", partId: "flux-capacitor" };
    const reply = await post(`/units/${home.unitId}/findings/${id}`, {
      id,
      at: AT,
      mapRevision: 1,
      body,
    });
    expect(reply.statusCode).toBe(422);
    expect(wordsOf(reply)).toContain("flux-capacitor");
    expect(
      (await me({ url: `/api/units/${home.unitId}/findings` }))
        .json<{ findings: { id: string }[] }>()
        .findings.map((f) => f.id),
    ).not.toContain(id);
  });
});

describe("the contract", () => {
  it("has a reply for every route that answers JSON, so that the screens hold each against it", () => {
    const { paths = {} } = server.app.swagger() as {
      paths?: Record<string, Record<string, { responses?: Record<string, { content?: object }> }>>;
    };
    const answered = Object.entries(paths).flatMap(([path, methods]) =>
      Object.entries(methods).flatMap(([method, { responses = {} }]) =>
        Object.entries(responses).some(
          ([status, r]) => status.startsWith("2") && r.content && "application/json" in r.content,
        )
          ? [`${method.toUpperCase()} ${path.replace("/api", "").replaceAll(/\{[^}]+\}/gu, ":id")}`]
          : [],
      ),
    );
    // Nobody's screen reads these: the health of the server, and what signing out answers.
    const unread = new Set(["GET /health", "POST /sign-out"]);
    expect(answered.filter((route) => !REPLY_ROUTES.includes(route) && !unread.has(route))).toEqual(
      [],
    );
    expect(REPLY_ROUTES.filter((route) => !answered.includes(route))).toEqual([]);
  });
});
