import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { NEW_ROD_M, rodVerdict } from "@uppershed/core/inspection";
import { jobOf, type Replayed, replayRun, type RunState } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import type {
  FindingOnFile,
  KitItem,
  Place,
  PointLook,
  Reading,
  RegisteredPart,
  RevisionLine,
  ProcedureRun,
  Unit,
  UnitRun,
  Visit,
  Waiting,
} from "@uppershed/contract";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { mapRevisions, people, runEvents, units, visits } from "../schema/index.ts";
import { openTestServer, SETUP, type TestServer } from "../testing/bench.ts";
import { DEMO_PEOPLE, loadDemo } from "./load.ts";
import { demoId, demoWinterizing } from "./winterizing.ts";

/** The state of a run whose entries are all in effect. */
const whole = (replayed: Replayed): RunState => {
  if (!replayed.whole) throw new Error(replayed.astray.map((a) => a.problem).join("; "));
  return replayed.state;
};

const NOW = new Date("2026-11-25T08:00:00Z");
const PASSWORD = "a demo password";
let server: TestServer;
let cookies: Record<string, string>;
beforeAll(async () => {
  server = await openTestServer();
  expect(await loadDemo(server.database.db, PASSWORD, NOW)).toBe(true);
  const reply = await server.app.inject({
    method: "POST",
    url: "/api/sign-in",
    payload: { name: "amadi", password: PASSWORD },
  });
  cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
});
afterAll(() => server.close());
const get = async <T>(url: string): Promise<T> =>
  (await server.app.inject({ url, cookies })).json<T>();

describe("the demo workshop", () => {
  it("is loaded once: a second time changes nothing", async () => {
    const count = async () => {
      const rows = await Promise.all(
        [people, units, visits, mapRevisions, runEvents].map((table) =>
          server.database.db.select().from(table),
        ),
      );
      return rows.map((r) => r.length);
    };
    const before = await count();
    expect(await loadDemo(server.database.db, "another password", NOW)).toBe(false);
    expect(await count()).toEqual(before);
    // Six seasons of ten units, this week's four, last year's, its spring, this autumn's five, and one that soaks.
    expect(before.slice(0, 3)).toEqual([3, 10, 72]);
  });

  it("has a lead, a technician and an apprentice, whose passwords are kept as argon2 hashes", async () => {
    const rows = await server.database.db.select().from(people);
    expect(rows.map((p) => p.role).sort()).toEqual(["apprentice", "lead", "technician"]);
    for (const p of rows) {
      expect(p.passwordHash).toMatch(/^\$argon2id\$/u);
      expect(p.passwordHash).not.toContain(PASSWORD);
    }
    for (const { signInName } of DEMO_PEOPLE) {
      const reply = await server.app.inject({
        method: "POST",
        url: "/api/sign-in",
        payload: { name: signInName, password: PASSWORD },
      });
      expect(reply.statusCode, signInName).toBe(200);
    }
  });

  it("has this week's visits: two today, two later", async () => {
    const found = await get<{ visits: Visit[] }>(
      "/api/visits?from=2026-11-25T00:00:00Z&to=2026-12-02T00:00:00Z",
    );
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
    expect(
      all.units.filter((u) => u.state.kind !== "in-use").map((u) => [u.name, u.state.kind]),
    ).toEqual(
      ["Dipper", "Haywain", "Sundew", "Turnstone", "Yarrow"].map((name) => [name, "as-left"]),
    );
    expect(all.units).toHaveLength(10);
    const { runs } = await get<{ runs: UnitRun[] }>(`/api/units/${plover?.id}/runs`);
    const winter = runs.filter((r) => jobOf(r.summary) === "winterize");
    expect(winter).toHaveLength(1);
    expect(winter[0]?.closedAt).toMatch(/^2025-11-26/u);
    expect(winter[0]?.summary.holdsToC).toBeLessThan(-18);
    const run = await get<ProcedureRun>(`/api/runs/${winter[0]?.id}`);
    const map = EXAMPLE_MAPS.find((m) => m.id === "plover");
    if (!map) throw new Error("no plover");
    const state = whole(
      replayRun({ network: buildNetwork(map), setup: run.setup, events: run.events }),
    );
    expect(state.phase).toBe("closed");
    expect(state.readings.length).toBeGreaterThan(6);
    expect(state.asLeft?.tagged).toEqual([]);
    expect(state.closed?.name).toBe("R. Amadi");
  });

  it("has its spring after it, begun from how it was left, and a sanitizing that stood overnight and held", async () => {
    const all = await get<{ units: Unit[] }>("/api/units");
    const plover = all.units.find((u) => u.name === "Plover");
    const { runs } = await get<{ runs: UnitRun[] }>(`/api/units/${plover?.id}/runs`);
    const byJob = async (job: string): Promise<ProcedureRun> =>
      get<ProcedureRun>(`/api/runs/${runs.find((r) => jobOf(r.summary) === job)?.id}`);
    const [winter, spring, sanitize] = [
      await byJob("winterize"),
      await byJob("spring"),
      await byJob("sanitize"),
    ];
    expect(spring.begins).toMatchObject({ from: "record", runId: winter.id });
    expect(sanitize.begins).toMatchObject({ from: "record", runId: spring.id });
    expect(sanitize.begins?.apart).toEqual([]);
    const strips = sanitize.events.flatMap((e) =>
      e.body.type === "reading" && e.body.ask.startsWith("chlorine-") ? [e.body.si] : [],
    );
    expect(strips).toHaveLength(2);
    expect(strips[1]).toBeGreaterThan(0.4 * (strips[0] ?? 0));
    const stood = Date.parse(sanitize.closedAt ?? "") - Date.parse(sanitize.startedAt);
    expect(stood).toBeGreaterThan(8 * 3_600_000);
  });
});

describe("the demo's season", () => {
  it("in autumn has an apprentice's record that waits for a countersign", async () => {
    const { records } = await get<Waiting>("/api/waiting");
    expect(records).toMatchObject([{ unit: "Dipper", by: "T. Brookes" }]);
  });

  it("has records that print the rules of their day: last year's those that were shipped", async () => {
    const all = await get<{ units: Unit[] }>("/api/units");
    const revisionOf = async (name: string): Promise<number | undefined> => {
      const unit = all.units.find((u) => u.name === name);
      const { runs } = await get<{ runs: UnitRun[] }>(`/api/units/${unit?.id}/runs`);
      const run = await get<ProcedureRun>(`/api/runs/${runs[0]?.id}`);
      expect(run.setup.rules?.departures).toEqual([]);
      return run.setup.rules?.revision;
    };
    expect(await revisionOf("Plover")).toBe(0);
    expect(await revisionOf("Turnstone")).toBe(1);
  });

  it("has places, each with its cold, and a kit of which something is to be said", async () => {
    const { places } = await get<{ places: Place[] }>("/api/places");
    expect(places.map((p) => [p.name, p.units])).toEqual([
      ["Dinghy park", 1],
      ["Reservoir moorings", 1],
      ["Upper basin", 1],
      ["Upper yard", 5],
    ]);
    const { kit } = await get<{ kit: KitItem[] }>("/api/kit");
    expect(kit.filter((k) => k.warnings.length > 0).map((k) => k.name)).toEqual([
      "Rinse blend, violet",
      "Bleach, van",
      "Fine gauge, 1 bar",
    ]);
  });

  it("says nothing twice on the findings screen", async () => {
    const { findings } = await get<{ findings: FindingOnFile[] }>("/api/findings?state=open");
    const sentences = findings.flatMap((f) => [f.what, f.advice, f.cause].filter(Boolean));
    const twice = sentences.filter((s, i) => sentences.indexOf(s) !== i);
    expect(findings.length).toBeGreaterThan(8);
    expect(twice).toEqual([]);
  });

  it("in summer has nearly everything in use, and nothing that waits", async () => {
    const summer = await openTestServer();
    await loadDemo(summer.database.db, PASSWORD, new Date("2026-07-02T08:00:00Z"));
    const rows = await summer.database.db.select().from(units);
    expect(rows.filter((u) => u.state?.kind === "as-left").map((u) => u.name)).toEqual(["Yarrow"]);
    await summer.close();
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
    const haywain = (await get<{ units: Unit[] }>("/api/units")).units.find(
      (u) => u.name === "Haywain",
    );
    const { revisions } = await get<{ revisions: RevisionLine[] }>(
      `/api/units/${haywain?.id}/map/revisions`,
    );
    expect(revisions.map((r) => r.revision)).toEqual([2, 1]);
  });
});

describe("the demo's three years", () => {
  it("have walk-rounds, readings and findings on every unit, spread over the years, some open, one unsafe and declined", async () => {
    const { units: all } = await get<{ units: Unit[] }>("/api/units");
    for (const unit of all) {
      const { readings } = await get<{ readings: Reading[] }>(`/api/units/${unit.id}/readings`);
      expect(new Set(readings.map((r) => r.at.slice(0, 4))).size, unit.name).toBeGreaterThanOrEqual(
        3,
      );
      expect(
        (await get<{ looks: PointLook[] }>(`/api/units/${unit.id}/looks`)).looks.length,
        unit.name,
      ).toBeGreaterThan(5);
    }
    const { findings } = await get<{ findings: FindingOnFile[] }>("/api/findings");
    expect(findings.length).toBeGreaterThan(25);
    expect(new Set(findings.map((f) => f.unitName)).size).toBe(10);
    expect(
      findings.filter((f) => f.state === "mended").every((f) => (f.mended?.proof ?? "") !== ""),
    ).toBe(true);
    expect(
      findings.some(
        (f) => f.severity === "unsafe" && f.answer?.answer === "no" && f.state === "open",
      ),
    ).toBe(true);
    const open = await get<{ findings: FindingOnFile[] }>("/api/findings?state=open");
    expect(open.findings.length).toBeGreaterThan(5);
    expect(open.findings.length).toBeLessThan(findings.length);
  });

  it("have a rod whose readings say when it is due, from the day on which it was renewed", async () => {
    const burdock = (await get<{ units: Unit[] }>("/api/units?find=burdock")).units[0];
    const key = encodeURIComponent("heater/anode-thickness-at-three-places");
    const { looks } = await get<{ looks: PointLook[] }>(
      `/api/units/${burdock?.id}/looks?key=${key}`,
    );
    const { parts } = await get<{ parts: RegisteredPart[] }>(
      `/api/parts?unit=${burdock?.id}&text=anode`,
    );
    const fittedOn = parts.find((p) => p.item === "anode")?.life.fittedOn ?? "";
    const verdict = rodVerdict(
      { newM: NEW_ROD_M, fittedOn },
      looks.map((l) => ({ on: l.at, thicknessM: l.readings })),
    );
    expect(verdict).toMatchObject({ ok: true, due: false });
  });

  it("searches by owner, plate and part mean something", async () => {
    const found = async (words: string) =>
      (await get<{ units: Unit[] }>(`/api/units?find=${encodeURIComponent(words)}`)).units.map(
        (u) => u.name,
      );
    expect(await found("quennell")).toEqual(["Wagtail"]);
    expect(await found("UL 2207")).toEqual(["Teasel"]);
    expect((await found("toilet")).length).toBeGreaterThan(2);
    const here = (await get<{ units: Unit[] }>("/api/units?only=here")).units.map((u) => u.name);
    expect(here).toEqual(["Teasel", "Wagtail"]);
  });
});

describe("ids made from words", () => {
  it("are the same every time, different for different words, and sound", () => {
    expect(demoId("unit teasel")).toBe(demoId("unit teasel"));
    expect(demoId("unit teasel")).not.toBe(demoId("unit plover"));
    expect(demoId("x")).toMatch(
      /^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-8[0-9a-f]{3}-[0-9a-f]{12}$/u,
    );
  });
});

describe("a winterizing done by the demo", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "of %s goes through the same fold as any other, to its end",
    (_, map) => {
      const by = { id: demoId("p"), name: "R. Amadi", role: "technician" };
      const events = demoWinterizing(map, SETUP, demoId(map.id), by, NOW);
      const state = whole(replayRun({ network: buildNetwork(map), setup: SETUP, events }));
      expect(state.phase).toBe("closed");
      expect(events.map((e) => Date.parse(e.at))).toEqual(
        events.map((e) => Date.parse(e.at)).sort((a, b) => a - b),
      );
    },
  );
});
