import { randomUUID } from "node:crypto";
import type { InjectOptions } from "fastify";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "./testing/bench.ts";

/** Nobody sees or touches what belongs to another workshop, on any route of the OpenAPI document. */

let server: TestServer;
let home: TestWorkshop;
let other: TestWorkshop;
const theirs: Record<string, string> = {};

beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  other = await server.workshop("other");
  const them = await other.as("lead");
  const visit = await them({
    method: "POST",
    url: "/api/visits",
    payload: { unitId: other.unitId, startsAt: new Date().toISOString(), minutes: 60, asked: "Winterize" },
  });
  const runId = randomUUID();
  const run = await them({
    method: "POST",
    url: "/api/runs",
    payload: { id: runId, unitId: other.unitId, visitId: null, mapRevision: 1, setup: SETUP },
  });
  expect([visit.statusCode, run.statusCode]).toEqual([201, 201]);
  Object.assign(theirs, { unitId: other.unitId, visitId: visit.json<{ id: string }>().id, runId, revision: "1", partId: "pump" });
});
afterAll(() => server.close());

const EVENT = { id: randomUUID(), seq: 1, at: new Date().toISOString(), body: { type: "note", text: "mine now" } };
/** Sound bodies for the routes that take one, so that only the workshop can be the reason for a refusal. */
const BODIES: Record<string, () => unknown> = {
  "POST /api/units/{unitId}/map": () => ({ basedOn: 1, why: "theft", document: {} }),
  "PATCH /api/units/{unitId}/parts/{partId}": () => ({ note: "mine now" }),
  "POST /api/units/{unitId}/looks": () => ({
    looks: [{ id: randomUUID(), key: "pump/Dry", partId: "pump", point: "Dry", mark: "good", at: new Date().toISOString() }],
  }),
  "POST /api/units/{unitId}/notes": () => ({ text: "mine now" }),
  "PATCH /api/visits/{visitId}": () => ({ state: "gone" }),
  "POST /api/runs/{runId}/events": () => ({ events: [EVENT] }),
};

const routes = (): { key: string; method: InjectOptions["method"]; url: string }[] => {
  const { paths } = server.app.swagger() as unknown as { paths: Record<string, Record<string, unknown>> };
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => ({
      key: `${method.toUpperCase()} ${path}`,
      method: method.toUpperCase() as InjectOptions["method"],
      url: path.replace(/\{(\w+)\}/gu, (_, name: string) => theirs[name] ?? `no-${name}`),
    })),
  );
};

describe("another workshop's things", () => {
  it("are not found, whatever the route", async () => {
    const me = await home.as("lead");
    const withIds = routes().filter((r) => r.key.includes("{"));
    expect(withIds.length).toBeGreaterThanOrEqual(8);
    for (const { key, method, url } of withIds) {
      const body = BODIES[key]?.();
      const reply = await me({ method: method ?? "GET", url, ...(body ? { payload: body } : {}) });
      // A map is read before its unit is looked for: an unsound one is refused first, and changes nothing either.
      expect([404, 422], key).toContain(reply.statusCode);
    }
    const them = await other.as("lead");
    expect((await them({ url: `/api/runs/${theirs["runId"]}` })).json<{ events: unknown[] }>().events).toEqual([]);
    expect((await them({ url: `/api/units/${theirs["unitId"]}` })).json()).toMatchObject({ mapRevision: 1 });
  });

  it("cannot be named in a body either", async () => {
    const me = await home.as("lead");
    const visit = { unitId: other.unitId, startsAt: new Date().toISOString(), minutes: 60, asked: "Winterize" };
    expect((await me({ method: "POST", url: "/api/visits", payload: visit })).statusCode).toBe(404);
    const run = { id: randomUUID(), unitId: other.unitId, visitId: null, mapRevision: 1, setup: SETUP };
    expect((await me({ method: "POST", url: "/api/runs", payload: run })).statusCode).toBe(404);
    const mixed = { ...run, unitId: home.unitId, visitId: theirs["visitId"] };
    expect((await me({ method: "POST", url: "/api/runs", payload: mixed })).statusCode).toBe(404);
  });

  it("do not show in lists", async () => {
    const me = await home.as("technician");
    const units = (await me({ url: "/api/units" })).json<{ units: { id: string }[] }>().units;
    expect(units.map((u) => u.id)).toEqual([home.unitId]);
    const day = "from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z";
    expect((await me({ url: `/api/visits?${day}` })).json()).toEqual({ visits: [] });
  });

  it("need a session at all: without one every route but the open ones says so", async () => {
    const open = ["POST /api/sign-in", "POST /api/sign-out", "GET /api/health"];
    const closed = routes().filter((r) => !open.includes(r.key));
    expect(closed.length).toBeGreaterThanOrEqual(11);
    for (const { key, method, url } of closed) {
      const reply = await server.app.inject({ method: method ?? "GET", url });
      expect(reply.statusCode, key).toBe(401);
    }
  });
});
