import { buildNetwork, EXAMPLE_MAPS, replayRun } from "@uppershed/core";
import type { RegisteredPart, RevisionLine, Run, Unit, UnitRun, Visit } from "@uppershed/contract";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { mapRevisions, people, runEvents, units, visits } from "../schema.ts";
import { openTestServer, SETUP, type TestServer } from "../testing/bench.ts";
import { DEMO_PEOPLE, loadDemo } from "./load.ts";
import { demoId, demoWinterizing } from "./winterizing.ts";

const NOW = new Date("2026-11-25T08:00:00Z");
const PASSWORD = "a demo password";
let server: TestServer;
let cookies: Record<string, string>;
beforeAll(async () => {
  server = await openTestServer();
  expect(await loadDemo(server.database.db, PASSWORD, NOW)).toBe(true);
  const reply = await server.app.inject({ method: "POST", url: "/api/sign-in", payload: { name: "amadi", password: PASSWORD } });
  cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
});
afterAll(() => server.close());
const get = async <T>(url: string): Promise<T> => (await server.app.inject({ url, cookies })).json<T>();

describe("the demo workshop", () => {
  it("is loaded once: a second time changes nothing", async () => {
    const count = async () => {
      const rows = await Promise.all(
        [people, units, visits, mapRevisions, runEvents].map((table) => server.database.db.select().from(table)),
      );
      return rows.map((r) => r.length);
    };
    const before = await count();
    expect(await loadDemo(server.database.db, "another password", NOW)).toBe(false);
    expect(await count()).toEqual(before);
    expect(before.slice(0, 3)).toEqual([3, 10, 5]);
  });

  it("has a lead, a technician and an apprentice, whose passwords are kept as argon2 hashes", async () => {
    const rows = await server.database.db.select().from(people);
    expect(rows.map((p) => p.role).sort()).toEqual(["apprentice", "lead", "technician"]);
    for (const p of rows) {
      expect(p.passwordHash).toMatch(/^\$argon2id\$/u);
      expect(p.passwordHash).not.toContain(PASSWORD);
    }
    for (const { signInName } of DEMO_PEOPLE) {
      const reply = await server.app.inject({ method: "POST", url: "/api/sign-in", payload: { name: signInName, password: PASSWORD } });
      expect(reply.statusCode, signInName).toBe(200);
    }
  });

  it("has this week's visits: two today, two later", async () => {
    const found = await get<{ visits: Visit[] }>("/api/visits?from=2026-11-25T00:00:00Z&to=2026-12-02T00:00:00Z");
    expect(found.visits.map((v) => [v.unitName, v.startsAt.slice(0, 10)])).toEqual([
      ["Teasel", "2026-11-25"],
      ["Burdock", "2026-11-25"],
      ["Plover", "2026-11-26"],
      ["Burdock", "2026-11-28"],
    ]);
  });

  it("has last year's finished winterizing, with readings that were taken and a loose end that was tagged", async () => {
    const all = await get<{ units: Unit[] }>("/api/units");
    const plover = all.units.find((u) => u.name === "Plover");
    expect(all.units.map((u) => u.state.kind)).toEqual(all.units.map(() => "in use"));
    expect(all.units).toHaveLength(10);
    const { runs } = await get<{ runs: UnitRun[] }>(`/api/units/${plover?.id}/runs`);
    expect(runs).toHaveLength(1);
    expect(runs[0]?.closedAt).toMatch(/^2025-11-26/u);
    expect(runs[0]?.summary.holdsToC).toBeLessThan(-18);
    const run = await get<Run>(`/api/runs/${runs[0]?.id}`);
    const map = EXAMPLE_MAPS.find((m) => m.id === "plover");
    if (!map) throw new Error("no plover");
    const { state, refused } = replayRun(buildNetwork(map), run.setup, run.events);
    expect(refused).toEqual([]);
    expect(state.phase).toBe("closed");
    expect(state.readings.length).toBeGreaterThan(6);
    expect(state.asLeft?.tagged).toEqual([]);
    expect(state.closed?.name).toBe("R. Amadi");
  });
});

describe("the demo's parts register", () => {
  it("knows most parts that have a life, some overdue, some good, and a piece that wears", async () => {
    const { parts } = await get<{ parts: RegisteredPart[] }>("/api/parts");
    const known = parts.filter((p) => p.life.fittedOn !== null);
    expect(known.length).toBeGreaterThan(60);
    expect(new Set(known.map((p) => p.life.condition)).size).toBeGreaterThan(2);
    expect(known.some((p) => p.item === "anode")).toBe(true);
    const overdue = (await get<{ parts: RegisteredPart[] }>("/api/parts?dueBy=2026-11-25")).parts;
    expect(overdue.length).toBeGreaterThan(3);
    expect(overdue.length).toBeLessThan(known.length / 2);
  });

  it("has a unit whose map was looked at twice", async () => {
    const haywain = (await get<{ units: Unit[] }>("/api/units")).units.find((u) => u.name === "Haywain");
    const { revisions } = await get<{ revisions: RevisionLine[] }>(`/api/units/${haywain?.id}/map/revisions`);
    expect(revisions.map((r) => r.revision)).toEqual([2, 1]);
  });
});

describe("ids made from words", () => {
  it("are the same every time, different for different words, and sound", () => {
    expect(demoId("unit teasel")).toBe(demoId("unit teasel"));
    expect(demoId("unit teasel")).not.toBe(demoId("unit plover"));
    expect(demoId("x")).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-8[0-9a-f]{3}-[0-9a-f]{12}$/u);
  });
});

describe("a winterizing done by the demo", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))("of %s goes through the same fold as any other, to its end", (_, map) => {
    const by = { id: demoId("p"), name: "R. Amadi", role: "technician" };
    const events = demoWinterizing(map, SETUP, demoId(map.id), by, NOW);
    const { state, refused } = replayRun(buildNetwork(map), SETUP, events);
    expect(refused).toEqual([]);
    expect(state.phase).toBe("closed");
    expect(events.map((e) => Date.parse(e.at))).toEqual(events.map((e) => Date.parse(e.at)).sort((a, b) => a - b));
  });
});
