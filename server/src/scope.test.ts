import { randomUUID } from "node:crypto";
import type { InjectOptions } from "fastify";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { planTest, pressureSources } from "@uppershed/core/hold";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { proposals } from "./schema/index.ts";
import { scopeFor } from "./scope.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "./testing/bench.ts";
import { TEST_PDF, testPicture } from "./testing/files.ts";

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
    payload: {
      id: randomUUID(),
      unitId: other.unitId,
      startsAt: new Date().toISOString(),
      minutes: 60,
      asked: "Winterize",
    },
  });
  const runId = randomUUID();
  const run = await them({
    method: "POST",
    url: "/api/runs",
    payload: { id: runId, unitId: other.unitId, visitId: null, mapRevision: 1, setup: SETUP },
  });
  expect([visit.statusCode, run.statusCode]).toEqual([201, 201]);
  const visitId = visit.json<{ id: string }>().id;
  const [findingId, pictureId, documentId, editionId, linkId] = [
    randomUUID(),
    randomUUID(),
    randomUUID(),
    randomUUID(),
    randomUUID(),
  ];
  const at = new Date().toISOString();
  const found = {
    id: findingId,
    at,
    mapRevision: 1,
    body: { type: "found", what: "Weeps", severity: "wears" },
  };
  const [inviteId, everybody] = [
    randomUUID(),
    await them({ url: "/api/people" }).then((r) => r.json<{ people: { id: string }[] }>()),
  ];
  const mine = await them({ url: "/api/me/sessions" });
  Object.assign(theirs, {
    inviteId,
    personId: everybody.people[0]?.id,
    sessionId: mine.json<{ sessions: { id: string }[] }>().sessions[0]?.id,
  });
  const made = await Promise.all([
    them({
      method: "POST",
      url: "/api/people/invites",
      payload: { id: inviteId, name: "New", role: "apprentice", days: 3 },
    }),
    them({
      method: "POST",
      url: "/api/customers",
      payload: { id: randomUUID(), name: "Their Customer" },
    }),
    them({
      method: "POST",
      url: `/api/units/${other.unitId}/findings/${findingId}`,
      payload: found,
    }),
    them({
      method: "POST",
      url: `/api/visits/${visitId}/editions`,
      payload: { id: editionId, how: "link" },
    }),
    them({
      method: "POST",
      url: `/api/units/${other.unitId}/pictures?id=${pictureId}&about=unit&aboutId=unit&at=${at}`,
      payload: await testPicture(),
      headers: { "content-type": "image/jpeg" },
    }),
    them({
      method: "POST",
      url: `/api/units/${other.unitId}/documents?id=${documentId}&title=Sheet`,
      payload: TEST_PDF,
      headers: { "content-type": "application/pdf" },
    }),
  ]);
  made.push(
    await them({
      method: "POST",
      url: `/api/visits/${visitId}/links`,
      payload: { id: linkId, editionId },
    }),
  );
  const refitId = randomUUID();
  const drawn = (await them({ url: `/api/units/${other.unitId}/map` })).json<{
    document: unknown;
  }>();
  made.push(
    await them({
      method: "POST",
      url: `/api/units/${other.unitId}/refits/${refitId}`,
      payload: {
        id: randomUUID(),
        at,
        body: { type: "made", name: "Theirs", from: "map", document: drawn.document, basedOn: 1 },
      },
    }),
  );
  Object.assign(theirs, { refitId });
  const testId = randomUUID();
  made.push(
    await them({
      method: "POST",
      url: `/api/units/${other.unitId}/tests/${testId}`,
      payload: { id: randomUUID(), at, mapRevision: 1, body: TEST_BEGUN },
    }),
  );
  expect(made.map((m) => m.statusCode)).toEqual([201, 201, 201, 201, 201, 201, 201, 201, 201]);
  const [placeId, kitId, proposalId] = [randomUUID(), randomUUID(), randomUUID()];
  const house = await Promise.all([
    them({
      method: "POST",
      url: "/api/places",
      payload: { id: placeId, name: "Their Yard", kind: "yard", winterLowC: -10 },
    }),
    them({
      method: "POST",
      url: "/api/kit",
      payload: { id: kitId, name: "Their Key", facts: { kind: "socket", size: "27 mm" } },
    }),
  ]);
  expect(house.map((r) => r.statusCode)).toEqual([200, 200]);
  await scopeFor(server.database.db, other.id).add(proposals, {
    id: proposalId,
    kind: "merge-unit",
    what: "Theirs",
    body: { keptId: other.unitId, doubleId: other.unitId },
    personId: everybody.people[0]?.id ?? "",
  });
  Object.assign(theirs, { placeId, kitId, proposalId });
  Object.assign(theirs, {
    unitId: other.unitId,
    visitId,
    runId,
    revision: "1",
    partId: "pump",
    customerId: made[0]?.json<{ id: string }>().id,
    findingId,
    linkId,
    editionId,
    pictureId,
    documentId,
    testId,
  });
});
afterAll(() => server.close());

const TEST_MAP = EXAMPLE_MAPS[0] as WaterMap;
/** A test of nothing on the map, for which only the workshop counts. */
const TEST_BEGUN = {
  type: "begun",
  plan: {
    ...planTest({
      network: buildNetwork(TEST_MAP),
      target: { is: "pressure-side", source: pressureSources(buildNetwork(TEST_MAP))[0]?.id ?? "" },
      by: "supply",
      gauge: { name: "Gauge", stepPa: 1000 },
    }),
    owners: [],
  },
  instruments: { gauge: { stepPa: 1000 } },
  gauge: { name: "Gauge" },
};

const NOW = new Date().toISOString();
const EVENT = {
  id: randomUUID(),
  seq: 1,
  at: new Date().toISOString(),
  body: { type: "note", text: "mine now" },
};
/** Sound bodies for the routes that take one, so that only the workshop can be the reason for a refusal. */
const BODIES: Record<string, () => unknown> = {
  "POST /api/units/{unitId}/map": () => ({ basedOn: 1, why: "theft", document: {} }),
  "PATCH /api/units/{unitId}/parts/{partId}": () => ({ note: "mine now" }),
  "POST /api/units/{unitId}/looks": () => ({
    looks: [
      {
        id: randomUUID(),
        key: "pump/dry",
        partId: "pump",
        pointId: "dry",
        point: "Dry",
        mark: "good",
        at: new Date().toISOString(),
      },
    ],
  }),
  "POST /api/units/{unitId}/notes": () => ({ id: randomUUID(), text: "mine now" }),
  "PATCH /api/visits/{visitId}": () => ({ state: "gone" }),
  "PATCH /api/units/{unitId}": () => ({ name: "mine now" }),
  "POST /api/units/{unitId}/merge": () => ({ double: home.unitId }),
  "PATCH /api/customers/{customerId}": () => ({ name: "mine now" }),
  "POST /api/customers/{customerId}/merge": () => ({
    double: theirs["customerId"] === undefined ? "" : randomUUID(),
  }),
  "POST /api/visits/{visitId}/snapshots": () => ({
    id: randomUUID(),
    kind: "as-left",
    mapRevision: 1,
    lineup: {},
    at: NOW,
  }),
  "POST /api/visits/{visitId}/editions": () => ({ id: randomUUID(), how: "print" }),
  "POST /api/visits/{visitId}/links": () => ({ id: randomUUID(), editionId: theirs["editionId"] }),
  "POST /api/units/{unitId}/in-use": () => ({ id: randomUUID(), at: NOW }),
  "POST /api/units/{unitId}/findings/{findingId}": () => ({
    id: randomUUID(),
    at: NOW,
    mapRevision: 1,
    body: { type: "answered", answer: "no", who: "me" },
  }),
  "POST /api/units/{unitId}/tests/{testId}": () => ({
    id: randomUUID(),
    at: NOW,
    mapRevision: 1,
    body: { type: "note", text: "mine now" },
  }),
  "POST /api/units/{unitId}/refits/{refitId}": () => ({
    id: randomUUID(),
    at: NOW,
    body: { type: "note", text: "mine now" },
  }),
  "POST /api/units/{unitId}/refits/{refitId}/adopt": () => ({
    id: randomUUID(),
    at: NOW,
    pieces: ["check"],
    basedOn: 1,
  }),
  "POST /api/units/{unitId}/readings": () => ({
    readings: [
      {
        id: randomUUID(),
        spot: "supply",
        kind: "still",
        label: "Still",
        dimension: "pressure",
        value: 3e5,
        at: NOW,
      },
    ],
  }),
  "POST /api/units/{unitId}/spring": () => ({
    id: randomUUID(),
    item: "battery",
    mark: "pass",
    at: NOW,
  }),
  "POST /api/customers/{customerId}/erase": () => ({ name: "Their Customer" }),
  "POST /api/places/{placeId}/forecast": () => ({ text: "date,low C\n2026-12-01,-3\n" }),
  "PATCH /api/places/{placeId}": () => ({ name: "mine now" }),
  "PATCH /api/kit/{kitId}": () => ({ name: "mine now" }),
  "POST /api/waiting/{proposalId}": () => ({ answer: "withdraw" }),
  "PATCH /api/people/{personId}": () => ({ left: true }),
  "POST /api/people/{personId}/reset": () => ({ id: randomUUID() }),
  "PATCH /api/pictures/{pictureId}": () => ({ caption: "mine now" }),
  "POST /api/units/{unitId}/pictures": () => Buffer.from("x"),
  "POST /api/units/{unitId}/documents": () => Buffer.from("x"),
  "POST /api/runs/{runId}/events": () => ({ events: [EVENT] }),
};

/** What some routes want in their address. */
const QUERIES: Record<string, () => string> = {
  "POST /api/units/{unitId}/pictures": () =>
    `?id=${randomUUID()}&about=unit&aboutId=unit&at=${NOW}`,
  "GET /api/runs/{runId}/news": () => "?after=0",
  "POST /api/units/{unitId}/documents": () => `?id=${randomUUID()}&title=Sheet`,
};

const routes = (): { key: string; method: InjectOptions["method"]; url: string }[] => {
  const { paths } = server.app.swagger() as unknown as {
    paths: Record<string, Record<string, unknown>>;
  };
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => ({
      key: `${method.toUpperCase()} ${path}`,
      method: method.toUpperCase() as InjectOptions["method"],
      url: path.replace(/\{(\w+)\}/gu, (_, name: string) => theirs[name] ?? `no-${name}`),
    })),
  );
};

const OPEN = /sign-in|sign-out|set-up|health|\/(?:owner|join)\//u;

describe("another workshop's things", () => {
  it("are not found, whatever the route", async () => {
    const me = await home.as("lead");
    const withIds = routes().filter(
      (r) => r.key.includes("{") && !OPEN.test(r.key) && !/\/(?:register|keeping)\//u.test(r.key),
    );
    expect(withIds.length).toBeGreaterThanOrEqual(30);
    for (const { key, method, url } of withIds) {
      const body = BODIES[key]?.();
      const raw = Buffer.isBuffer(body)
        ? { headers: { "content-type": "application/octet-stream" } }
        : {};
      const reply = await me({
        method: method ?? "GET",
        url: url + (QUERIES[key]?.() ?? ""),
        ...(body ? { payload: body, ...raw } : {}),
      });
      // A map is read before its unit is looked for: an unsound one is refused first, and changes nothing either.
      expect([404, 422], key).toContain(reply.statusCode);
    }
    const them = await other.as("lead");
    expect(
      (await them({ url: `/api/runs/${theirs["runId"]}` })).json<{ events: unknown[] }>().events,
    ).toEqual([]);
    expect((await them({ url: `/api/units/${theirs["unitId"]}` })).json()).toMatchObject({
      mapRevision: 1,
      name: "Boat of other",
    });
    expect((await them({ url: `/api/visits/${theirs["visitId"]}` })).json()).toMatchObject({
      state: "booked",
    });
    expect(
      (await them({ url: `/api/visits/${theirs["visitId"]}/links` })).json<{
        links: { withdrawnAt: null }[];
      }>().links,
    ).toMatchObject([{ withdrawnAt: null }]);
    const findings = (await them({ url: `/api/units/${theirs["unitId"]}/findings` })).json<{
      findings: { entries: unknown[] }[];
    }>().findings;
    expect(findings.map((f) => f.entries.length)).toEqual([1]);
  });

  it("cannot be named in a body either", async () => {
    const me = await home.as("lead");
    const visit = {
      id: randomUUID(),
      unitId: other.unitId,
      startsAt: new Date().toISOString(),
      minutes: 60,
      asked: "Winterize",
    };
    expect((await me({ method: "POST", url: "/api/visits", payload: visit })).statusCode).toBe(404);
    const run = {
      id: randomUUID(),
      unitId: other.unitId,
      visitId: null,
      mapRevision: 1,
      setup: SETUP,
    };
    expect((await me({ method: "POST", url: "/api/runs", payload: run })).statusCode).toBe(404);
    const me2 = await home.as("technician");
    const look = {
      id: randomUUID(),
      key: "k",
      partId: null,
      point: "p",
      mark: "good",
      at: NOW,
      visitId: theirs["visitId"],
    };
    expect(
      (
        await me2({
          method: "POST",
          url: `/api/units/${home.unitId}/looks`,
          payload: { looks: [look] },
        })
      ).statusCode,
    ).toBe(404);
    const moved = await me2({
      method: "PATCH",
      url: `/api/units/${home.unitId}`,
      payload: { customerId: theirs["customerId"] },
    });
    expect(moved.statusCode).toBe(404);
    const merged = await me2({
      method: "POST",
      url: `/api/units/${home.unitId}/merge`,
      payload: { double: other.unitId },
    });
    expect(merged.statusCode).toBe(404);
    const mixed = { ...run, unitId: home.unitId, visitId: theirs["visitId"] };
    expect((await me({ method: "POST", url: "/api/runs", payload: mixed })).statusCode).toBe(404);
  });

  it("do not show in lists", async () => {
    const me = await home.as("technician");
    const units = (await me({ url: "/api/units" })).json<{ units: { id: string }[] }>().units;
    expect(units.map((u) => u.id)).toEqual([home.unitId]);
    const day = "from=2000-01-01T00:00:00Z&to=2100-01-01T00:00:00Z";
    expect((await me({ url: `/api/visits?${day}` })).json()).toEqual({ visits: [] });
    expect((await me({ url: "/api/findings" })).json()).toEqual({ findings: [], more: false });
    const people = (await me({ url: "/api/customers" })).json<{ customers: { name: string }[] }>()
      .customers;
    expect(people.map((c) => c.name)).toEqual(["Owner"]);
    for (const kind of ["csv", "vcard"])
      expect((await me({ url: `/api/register/${kind}` })).body).not.toContain("Their Customer");
  });

  it("need a session at all: without one every route but the open ones says so", async () => {
    const closed = routes().filter((r) => !OPEN.test(r.key));
    expect(closed.length).toBeGreaterThanOrEqual(40);
    for (const { key, method, url } of closed) {
      const reply = await server.app.inject({ method: method ?? "GET", url });
      expect(reply.statusCode, key).toBe(401);
    }
  });
});
