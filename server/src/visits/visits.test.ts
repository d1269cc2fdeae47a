import type { Visit } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoWinterizing } from "../demo/winterizing.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("lead");
});
afterAll(() => server.close());

const book = (more: object = {}) =>
  me({
    method: "POST",
    url: "/api/visits",
    payload: {
      id: randomUUID(),
      unitId: home.unitId,
      startsAt: "2026-11-02T09:00:00.000Z",
      minutes: 90,
      asked: "Winterize",
      ...more,
    },
  });
const list = async (query: string): Promise<Visit[]> =>
  (await me({ url: `/api/visits?${query}` })).json<{ visits: Visit[] }>().visits;

describe("visits", () => {
  it("are booked, listed between two moments in working order, and moved on", async () => {
    const late = (await book({ startsAt: "2026-11-02T14:00:00.000Z", bay: "yard" })).json<Visit>();
    const early = (await book({ ownerSaid: "Tap drips." })).json<Visit>();
    await book({ startsAt: "2026-11-03T09:00:00.000Z" });
    expect(early).toMatchObject({
      state: "booked",
      unitName: "Boat of home",
      ownerSaid: "Tap drips.",
      run: null,
    });
    const day = await list("from=2026-11-02T00:00:00Z&to=2026-11-03T00:00:00Z");
    expect(day.map((v) => v.id)).toEqual([early.id, late.id]);
    const strange = `from=2026-11-02T00:00:00Z&to=2026-11-03T00:00:00Z&unit=${randomUUID()}`;
    expect((await me({ url: `/api/visits?${strange}` })).statusCode).toBe(404);
    const moved = await me({
      method: "PATCH",
      url: `/api/visits/${early.id}`,
      payload: { state: "arrived" },
    });
    expect(moved.json()).toMatchObject({ state: "arrived" });
  });

  it("follow the work: in work when a run begins on them, with the run's own figures", async () => {
    const visit = (await book({ startsAt: "2026-11-04T09:00:00.000Z" })).json<Visit>();
    const runId = randomUUID();
    await me({
      method: "POST",
      url: "/api/runs",
      payload: { id: runId, unitId: home.unitId, visitId: visit.id, mapRevision: 1, setup: SETUP },
    });
    const [now] = await list("from=2026-11-04T00:00:00Z&to=2026-11-05T00:00:00Z");
    expect(now).toMatchObject({
      state: "in-work",
      run: { id: runId, summary: { phase: "as-found", stepsDone: 0, holdsToC: 0 } },
    });
    expect((await me({ url: `/api/units/${home.unitId}` })).json()).toMatchObject({
      state: { kind: "in-work", runId },
    });
    const inUse = await me({
      method: "POST",
      url: `/api/units/${home.unitId}/in-use`,
      payload: { id: randomUUID(), at: "2026-11-04T12:00:00.000Z" },
    });
    expect(inUse.statusCode).toBe(409);
  });

  it.each([
    ["no time at all", { minutes: 0 }],
    ["a day that is none", { startsAt: "tomorrow" }],
    ["nothing asked for", { asked: "  " }],
    ["a unit's id that is none", { unitId: "teasel" }],
    ["a field that is not known", { price: 3 }],
  ])("with %s are refused, and nothing is booked", async (_, more) => {
    const before = (await list("from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z")).length;
    expect((await book(more)).statusCode).toBe(400);
    expect(await list("from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z")).toHaveLength(before);
  });

  it("whose unit does not hold the winter low are ready for nobody before somebody accepts that by name", async () => {
    const shop = await server.workshop("short");
    const lead = await shop.as("lead");
    const visitId = randomUUID();
    await lead({
      method: "POST",
      url: "/api/visits",
      payload: {
        id: visitId,
        unitId: shop.unitId,
        startsAt: "2026-11-02T09:00:00.000Z",
        minutes: 90,
        asked: "Winterize",
      },
    });
    const runId = randomUUID();
    // Colder than half-and-half can bear.
    const setup = { ...SETUP, winterLowC: -45 };
    await lead({
      method: "POST",
      url: "/api/runs",
      payload: { id: runId, unitId: shop.unitId, visitId, mapRevision: 1, setup },
    });
    // Half done it is no more ready than badly done.
    const halfDone = await lead({
      method: "PATCH",
      url: `/api/visits/${visitId}`,
      payload: { state: "ready" },
    });
    expect(halfDone.body).toContain("acceptance-needed");
    const [, , map] = EXAMPLE_MAPS;
    if (!map) throw new Error("no map");
    const by = { id: randomUUID(), name: "L. Ead", role: "lead" };
    const done = demoWinterizing(map, setup, runId, by, new Date("2026-11-02T09:00:00.000Z"));
    const sent = await lead({
      method: "POST",
      url: `/api/runs/${runId}/events`,
      payload: { form: 2, events: done.map(({ by: _by, ...event }) => event) },
    });
    expect(sent.statusCode).toBe(200);
    const read = async () => (await lead({ url: `/api/visits/${visitId}` })).json<Visit>();
    expect(await read()).toMatchObject({
      state: "in-work",
      short: { winterLowC: -45 },
      accepted: null,
    });
    const move = (payload: object) =>
      lead({ method: "PATCH", url: `/api/visits/${visitId}`, payload });
    for (const state of ["ready", "gone"]) {
      const refused = await move({ state });
      expect(refused.statusCode).toBe(409);
      expect(refused.body).toContain("acceptance-needed");
    }
    expect((await move({ state: "ready", accepted: { who: "", why: "x" } })).statusCode).toBe(400);
    const accepted = { who: "the owner, by telephone", why: "it goes into a heated hall" };
    expect((await move({ state: "ready", accepted })).json()).toMatchObject({
      state: "ready",
      accepted,
    });
    const report = await lead({ url: `/api/visits/${visitId}/report` });
    expect(
      report.json<{ winterizing: { sections: unknown[] } }>().winterizing.sections.at(-1),
    ).toEqual({
      title: "Accepted as it is",
      lines: ["By the owner, by telephone: it goes into a heated hall."],
    });
    expect((await move({ state: "gone" })).statusCode).toBe(200);
  });

  it("do not take a state that there is not", async () => {
    const visit = (await book({ startsAt: "2026-11-05T09:00:00.000Z" })).json<Visit>();
    expect(
      (await me({ method: "PATCH", url: `/api/visits/${visit.id}`, payload: { state: "eaten" } }))
        .statusCode,
    ).toBe(400);
    expect(
      (await me({ method: "PATCH", url: "/api/visits/not-an-id", payload: { state: "gone" } }))
        .statusCode,
    ).toBe(400);
    expect(
      (
        await me({
          method: "PATCH",
          url: `/api/visits/${randomUUID()}`,
          payload: { state: "gone" },
        })
      ).statusCode,
    ).toBe(404);
  });

  it("wait for something, until when, and are still here the day after", async () => {
    const visit = (
      await book({ startsAt: "2026-10-01T09:00:00.000Z", jobs: ["sanitize"] })
    ).json<Visit>();
    const patch = async (payload: object) =>
      me({ method: "PATCH", url: `/api/visits/${visit.id}`, payload });
    expect((await patch({ state: "waiting" })).statusCode).toBe(400);
    expect((await patch({ waitingFor: "soaking" })).statusCode).toBe(400);
    const until = "2026-10-02T08:00:00.000Z";
    expect(
      (await patch({ state: "waiting", waitingFor: "soaking", waitingUntil: until })).json(),
    ).toMatchObject({
      state: "waiting",
      waitingFor: "soaking",
      waitingUntil: until,
      jobs: ["sanitize"],
      arrivedAt: expect.any(String),
    });
    const next = "from=2026-10-02T00:00:00Z&to=2026-10-03T00:00:00Z";
    expect(await list(next)).toEqual([]);
    expect((await list(`${next}&here=yes`)).map((v) => v.id)).toEqual([visit.id]);
    expect((await patch({ state: "gone" })).json()).toMatchObject({
      waitingFor: "",
      waitingUntil: null,
      goneAt: expect.any(String),
    });
    expect(await list(`${next}&here=yes`)).toEqual([]);
  });

  it("keep how everything stood, once each, newest last, and no position that the map does not know", async () => {
    const visit = (await book({})).json<Visit>();
    const send = async (more: object) =>
      me({
        method: "POST",
        url: `/api/visits/${visit.id}/snapshots`,
        payload: {
          id: randomUUID(),
          kind: "as-found",
          mapRevision: 1,
          lineup: {},
          at: "2026-11-02T09:05:00.000Z",
          ...more,
        },
      });
    const id = randomUUID();
    await send({ id, note: "Heater warm." });
    expect((await send({ id, note: "another" })).json()).toMatchObject({
      snapshots: [{ id, note: "Heater warm.", by: "L. Ead" }],
    });
    const left = await send({
      kind: "as-left",
      lineup: { pump: "off" },
      at: "2026-11-02T11:00:00.000Z",
    });
    expect(left.json<{ snapshots: { kind: string }[] }>().snapshots.map((s) => s.kind)).toEqual([
      "as-found",
      "as-left",
    ]);
    expect((await send({ lineup: { nowhere: "open" } })).statusCode).toBe(422);
    expect((await send({ mapRevision: 7 })).statusCode).toBe(404);
  });
});
