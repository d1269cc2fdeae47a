import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { type NewRunEvent, type RunEventBody } from "@uppershed/core/procedure";
import type { ProcedureRun, SentEvents } from "@uppershed/contract";
import { sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { buildApp } from "../app.ts";
import { openDatabase } from "../db.ts";
import { demoWinterizing } from "../demo/winterizing.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let runId: string;

beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  home = await server.workshop(randomUUID());
  me = await home.as("technician");
  runId = randomUUID();
  await me({
    method: "POST",
    url: "/api/runs",
    payload: { id: runId, unitId: home.unitId, visitId: null, mapRevision: 1, setup: SETUP },
  });
});

let seq = 0;
const event = (body: RunEventBody | object): NewRunEvent => ({
  id: randomUUID(),
  seq: ++seq,
  at: new Date().toISOString(),
  body: body as RunEventBody,
});
const send = (events: object[], more: object = {}) =>
  me({ method: "POST", url: `/api/runs/${runId}/events`, payload: { ...more, events } });
const read = async (): Promise<ProcedureRun> => (await me({ url: `/api/runs/${runId}` })).json();
const FIRST = "secure:heater:off";

describe("a run on the server", () => {
  it("can be started twice with one id, but a unit has only one open", async () => {
    const again = { id: runId, unitId: home.unitId, visitId: null, mapRevision: 1, setup: SETUP };
    expect((await me({ method: "POST", url: "/api/runs", payload: again })).statusCode).toBe(201);
    const second = await me({
      method: "POST",
      url: "/api/runs",
      payload: { ...again, id: randomUUID() },
    });
    expect(second.statusCode).toBe(409);
    expect(second.json<{ error: { message: string } }>().error.message).toContain(
      "open on this unit already",
    );
  });

  it("keeps events in order, and the same event twice as one", async () => {
    const found = event({ type: "as-found", lineup: {} });
    const note = event({ type: "note", text: "locker wet" });
    expect((await send([found])).json<SentEvents>().outcomes).toEqual([
      { id: found.id, outcome: "kept" },
    ]);
    expect((await send([found, note])).json<SentEvents>().outcomes.map((o) => o.outcome)).toEqual([
      "already kept",
      "kept",
    ]);
    const run = await read();
    expect(run.events.filter((e) => e.body.type !== "planned").map((e) => e.id)).toEqual([
      found.id,
      note.id,
    ]);
    // A device that makes no plans of its own has them made here.
    expect(run.events[1]?.body).toMatchObject({ type: "planned", because: found.id });
    expect(run.events[0]?.by.name).toBe("T. Ech");
  });

  it("tells what was added since so many entries were known, in order, and nothing where nothing was", async () => {
    await send([event({ type: "as-found", lineup: {} })]);
    const known = (await read()).events.length;
    const news = async (after: number) =>
      (await me({ url: `/api/runs/${runId}/news?after=${after}` })).json<{
        count: number;
        events: { body: { type: string; text?: string } }[];
      }>();
    expect(await news(known)).toEqual({ count: known, events: [] });
    await send([event({ type: "note", text: "one" }), event({ type: "note", text: "two" })]);
    const since = await news(known);
    expect(since.count).toBe(known + 2);
    expect(since.events.map((e) => e.body.text)).toEqual(["one", "two"]);
    expect((await news(0)).events).toHaveLength(known + 2);
    expect((await me({ url: `/api/runs/${runId}/news?after=-1` })).statusCode).toBe(400);
  });

  it("refuses a step signed twice by another event, and changes nothing", async () => {
    const rows = ["0:confirm"].map((row) =>
      event({ type: "row-ticked", stepId: FIRST, row, done: true }),
    );
    expect(
      (
        await send([
          event({ type: "as-found", lineup: {} }),
          ...rows,
          event({ type: "step-signed", stepId: FIRST }),
        ])
      ).statusCode,
    ).toBe(200);
    const before = await read();
    const twice = await send([event({ type: "step-signed", stepId: FIRST })]);
    expect(twice.statusCode).toBe(409);
    expect(twice.json<SentEvents>().outcomes[0]).toMatchObject({
      outcome: "refused",
      code: "already-signed",
      problem: expect.stringContaining("signed already"),
    });
    expect(await read()).toEqual(before);
  });

  it.each([
    [
      "a strength of 140 %",
      {
        type: "reading",
        stepId: "fill:hand-shower:cold",
        ask: "strength:hand-shower:cold",
        si: 1.4,
        typed: "140 %",
      },
      "between 0 and 100 %",
    ],
    [
      "a negative volume",
      {
        type: "reading",
        stepId: "drain:heater",
        ask: "recovered:heater",
        si: -0.003,
        typed: "-3 L",
      },
      "cannot be negative",
    ],
    [
      "more than the heater holds",
      { type: "reading", stepId: "drain:heater", ask: "recovered:heater", si: 0.09, typed: "90 L" },
      "holds only 15.0 L",
    ],
  ])("refuses %s in words, and changes nothing", async (_, body, words) => {
    await send([event({ type: "as-found", lineup: {} })]);
    const before = await read();
    const reply = await send([event(body)]);
    expect(reply.statusCode).toBe(422);
    expect(reply.json<SentEvents>().outcomes[0]?.problem).toContain(words);
    expect(await read()).toEqual(before);
  });

  it.each([
    ["an event of no known kind", { type: "teapot" }],
    [
      "a reading that is no number",
      {
        type: "reading",
        stepId: "drain:heater",
        ask: "recovered:heater",
        si: "lots",
        typed: "lots",
      },
    ],
    [
      "a cannot without a reason",
      { type: "step-cannot", stepId: FIRST, parts: ["heater"], reason: "  " },
    ],
    ["a field that is not known", { type: "note", text: "hm", mood: "bad" }],
  ])("refuses %s before it is looked at", async (_, body) => {
    const reply = await send([event(body)]);
    expect(reply.statusCode).toBe(400);
    expect((await read()).events).toEqual([]);
  });

  it("judges each event of a batch on its own: what does not depend on the refused one is kept", async () => {
    const batch = [
      event({ type: "as-found", lineup: {} }),
      event({ type: "step-signed", stepId: "no-such" }),
      event({ type: "note", text: "after" }),
    ];
    const reply = await send(batch);
    expect(reply.json<SentEvents>().outcomes.map((o) => o.outcome)).toEqual([
      "kept",
      "refused",
      "kept",
    ]);
    expect((await read()).events.map((e) => e.body.type)).toEqual(["as-found", "planned", "note"]);
  });

  it("bounds what one request can have planned, and plans beside the server for a device that makes no plans", async () => {
    const founds = Array.from({ length: 21 }, () => event({ type: "as-found", lineup: {} }));
    const refused = await send(founds, { form: 1 });
    expect(refused.statusCode).toBe(413);
    expect(refused.json<{ error: { message: string } }>().error.message).toMatch(
      /More than 20 entries.*Nothing was changed/u,
    );
    expect((await read()).events).toEqual([]);
    const one = await send(founds.slice(0, 2), { form: 1 });
    expect(one.json<SentEvents>().outcomes.map((o) => o.outcome)).toEqual(["kept", "kept"]);
    expect((await read()).events.map((e) => e.body.type)).toEqual([
      "as-found",
      "planned",
      "as-found",
      "planned",
    ]);
  });

  it("does not take another run's event id", async () => {
    const note = event({ type: "note", text: "first run" });
    await send([note]);
    home = await server.workshop(randomUUID());
    me = await home.as("lead");
    runId = randomUUID();
    await me({
      method: "POST",
      url: "/api/runs",
      payload: { id: runId, unitId: home.unitId, visitId: null, mapRevision: 1, setup: SETUP },
    });
    const reply = await send([note]);
    // The id is another workshop's: it is not seen, and the database refuses it; nothing of the other run is told.
    expect(reply.statusCode).toBe(409);
    expect(reply.json()).toEqual({
      error: { code: "conflict", message: "That id is taken. Nothing was changed." },
    });
    expect((await read()).events).toEqual([]);
  });

  it("done to its end is a record that a fresh server reads the same, and that the database lets nobody change", async () => {
    const map = EXAMPLE_MAPS[2];
    if (!map) throw new Error("no map");
    const by = { id: randomUUID(), name: "T. Ech", role: "technician" };
    const events = demoWinterizing(map, SETUP, runId, by, new Date("2025-10-14T08:00:00Z"));
    const reply = await send(
      events.map(({ by: _by, ...e }) => e),
      { form: 2 },
    );
    expect(reply.statusCode).toBe(200);
    expect(reply.json<SentEvents>().summary).toMatchObject({
      phase: "closed",
      holdsToC: expect.any(Number),
    });
    const unit = (await me({ url: `/api/units/${home.unitId}` })).json();
    expect(unit).toMatchObject({ state: { kind: "as-left", runId } });
    expect(unit.state.holdsToC).toBeLessThan(-18);

    const again = openDatabase(server.url);
    const app = await buildApp(again.db, {
      secureCookies: false,
      signInsPerMinute: 100,
      requestsPerMinute: 1000,
      log: false,
    });
    const signedIn = await app.inject({
      method: "POST",
      url: "/api/sign-in",
      payload: { name: home.signIn("lead"), password: "correct horse battery" },
    });
    const cookies = Object.fromEntries(signedIn.cookies.map((c) => [c.name, c.value]));
    expect((await app.inject({ url: `/api/runs/${runId}`, cookies })).json()).toEqual(await read());
    await expect(
      again.db.execute(sql`update run_events set body = '{}' where run_id = ${runId}`),
    ).rejects.toThrow();
    await expect(
      again.db.execute(sql`delete from run_events where run_id = ${runId}`),
    ).rejects.toThrow();
    await app.close();
    await again.close();

    const filled = await me({
      method: "POST",
      url: `/api/units/${home.unitId}/in-use`,
      payload: { id: randomUUID(), at: "2025-10-20T08:00:00.000Z" },
    });
    expect(filled.json()).toMatchObject({ state: { kind: "in-use", holdsToC: 0 } });
  });
});

describe("a unit's map on the server", () => {
  it("is saved as the next revision, and not over somebody else's", async () => {
    const map = EXAMPLE_MAPS[2];
    const save = (basedOn: number) =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/map`,
        payload: { basedOn, why: "found a tee", document: map },
      });
    expect((await save(1)).json()).toMatchObject({ revision: 2, why: "found a tee", by: "T. Ech" });
    expect((await save(1)).statusCode).toBe(409);
    expect((await me({ url: `/api/units/${home.unitId}/map/1` })).json()).toMatchObject({
      revision: 1,
    });
    expect((await me({ url: `/api/units/${home.unitId}/map/9` })).statusCode).toBe(404);
  });

  it("is refused with every problem named when it is not sound", async () => {
    const document = { ...EXAMPLE_MAPS[2], colour: "red" };
    const reply = await me({
      method: "POST",
      url: `/api/units/${home.unitId}/map`,
      payload: { basedOn: 1, why: "paint", document },
    });
    expect(reply.statusCode).toBe(422);
    expect(JSON.stringify(reply.json())).toContain("colour");
    expect((await me({ url: `/api/units/${home.unitId}` })).json()).toMatchObject({
      mapRevision: 1,
    });
  });
});
