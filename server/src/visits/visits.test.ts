import type { Visit } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
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
    payload: { unitId: home.unitId, startsAt: "2026-11-02T09:00:00.000Z", minutes: 90, asked: "Winterize", ...more },
  });
const list = async (query: string): Promise<Visit[]> => (await me({ url: `/api/visits?${query}` })).json<{ visits: Visit[] }>().visits;

describe("visits", () => {
  it("are booked, listed between two moments in working order, and moved on", async () => {
    const late = (await book({ startsAt: "2026-11-02T14:00:00.000Z", bay: "yard" })).json<Visit>();
    const early = (await book({ ownerSaid: "Tap drips." })).json<Visit>();
    await book({ startsAt: "2026-11-03T09:00:00.000Z" });
    expect(early).toMatchObject({ state: "booked", unitName: "Boat of home", ownerSaid: "Tap drips.", run: null });
    const day = await list("from=2026-11-02T00:00:00Z&to=2026-11-03T00:00:00Z");
    expect(day.map((v) => v.id)).toEqual([early.id, late.id]);
    expect(await list(`from=2026-11-02T00:00:00Z&to=2026-11-03T00:00:00Z&unit=${randomUUID()}`)).toEqual([]);
    const moved = await me({ method: "PATCH", url: `/api/visits/${early.id}`, payload: { state: "arrived" } });
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
    expect(now).toMatchObject({ state: "in work", run: { id: runId, summary: { phase: "as-found", stepsDone: 0, holdsToC: 0 } } });
    expect((await me({ url: `/api/units/${home.unitId}` })).json()).toMatchObject({ state: { kind: "in work", runId } });
    const inUse = await me({ method: "POST", url: `/api/units/${home.unitId}/in-use` });
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

  it("do not take a state that there is not", async () => {
    const visit = (await book({ startsAt: "2026-11-05T09:00:00.000Z" })).json<Visit>();
    expect((await me({ method: "PATCH", url: `/api/visits/${visit.id}`, payload: { state: "eaten" } })).statusCode).toBe(400);
    expect((await me({ method: "PATCH", url: "/api/visits/not-an-id", payload: { state: "gone" } })).statusCode).toBe(400);
    expect((await me({ method: "PATCH", url: `/api/visits/${randomUUID()}`, payload: { state: "gone" } })).statusCode).toBe(404);
  });
});
