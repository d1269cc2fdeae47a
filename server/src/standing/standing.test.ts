import type {
  MapRevision,
  ProcedureRun,
  Reading,
  Snapshot,
  Unit,
  UnitStandingTold,
} from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { NO_LIFE } from "@uppershed/core/formats";
import {
  addOnPipeRun,
  buildNetwork,
  inUseLineup,
  readWaterMap,
  type WaterMap,
} from "@uppershed/core/watermap";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { demoWinterizing } from "../demo/winterizing.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";

/** What a unit is known to hold follows what happened to it, in the order in which the server learnt of it. */

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
const [, , plover] = EXAMPLE_MAPS;
if (!plover) throw new Error("no map");
const network = buildNetwork(plover);
const CLOSED_ON = new Date("2026-10-14T08:00:00Z");

beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  home = await server.workshop(randomUUID());
  me = await home.as("technician");
});

const send = async <T>(method: "POST" | "PATCH", url: string, payload: object): Promise<T> => {
  const reply = await me({ method, url: `/api${url}`, payload });
  if (reply.statusCode >= 300) throw new Error(`${url}: ${reply.body}`);
  return reply.json<T>();
};
const get = async <T>(url: string): Promise<T> => (await me({ url: `/api${url}` })).json<T>();
const unit = (): Promise<Unit> => get(`/units/${home.unitId}`);
const standing = (asOf = ""): Promise<UnitStandingTold> =>
  get(`/units/${home.unitId}/standing${asOf && `?asOf=${asOf}`}`);
const begin = async (): Promise<string> => {
  const id = randomUUID();
  await send("POST", "/runs", {
    id,
    unitId: home.unitId,
    visitId: null,
    mapRevision: (await unit()).mapRevision,
    setup: SETUP,
  });
  return id;
};

/** A winterizing from its first to its last entry, on a device whose clock is that far ahead. */
const winterize = async (aheadMs = 0): Promise<string> => {
  const id = await begin();
  const by = { id: randomUUID(), name: "T. Ech", role: "technician" };
  const events = demoWinterizing(
    plover,
    SETUP,
    id,
    by,
    new Date(CLOSED_ON.getTime() + aheadMs),
  ).map(({ by: _by, ...e }) => e);
  await send("POST", `/runs/${id}/events`, {
    form: 2,
    sentAt: new Date(Date.now() + aheadMs).toISOString(),
    events,
  });
  return id;
};
const editMap = async (edit: (map: WaterMap) => { ok: boolean; map?: WaterMap }): Promise<void> => {
  const { document, revision } = await get<MapRevision>(`/units/${home.unitId}/map`);
  const read = readWaterMap(document);
  const made = read.ok ? edit(read.map) : undefined;
  if (!made?.ok) throw new Error("not edited");
  await send("POST", `/units/${home.unitId}/map`, {
    basedOn: revision,
    why: "Ice maker found",
    document: made.map,
  });
};
const aPipe =
  plover.runs.filter((r) => r.service === "cold").toSorted((a, b) => b.lengthM - a.lengthM)[0]
    ?.id ?? "";

describe("a unit after its record", () => {
  it("is as it was signed, to the record's own figures", async () => {
    const runId = await winterize();
    const { summary } = await get<ProcedureRun>(`/runs/${runId}`);
    const { state } = await unit();
    expect(state).toMatchObject({
      kind: "as-left",
      runId,
      holdsToC: summary.holdsToC,
      weakestPart: summary.weakestPart,
      since: [],
    });
    expect(summary.holdsToC).toBeLessThan(-18);
  });

  it("whose map was corrected says so, holds 0 °C by today's map, and its picture draws the new line wet", async () => {
    await winterize();
    const before = new Date().toISOString();
    await editMap((map) => addOnPipeRun(map, "ice-maker", aPipe, 0.5));
    const { state } = await unit();
    expect(state).toMatchObject({
      holdsToC: 0,
      since: ["map changed since: Ice maker, not known to hold"],
    });
    const now = await standing();
    expect(now.mapRevision).toBe(2);
    expect(now.notKnown).toContain("ice-maker");
    expect(
      Object.entries(now.contents ?? {}).find(([cell]) => cell.startsWith("ice-maker:"))?.[1],
    ).toMatchObject({ source: "assumed" });
    // On the day before it was not known, and is not said of that day.
    expect(await standing(before)).toMatchObject({ mapRevision: 1, since: [], notKnown: [] });
    const listed = (await get<{ units: Unit[] }>("/units?sort=cold")).units.find(
      (u) => u.id === home.unitId,
    );
    expect(listed?.state).toEqual(state);
  });

  it("one of whose parts was exchanged is not known to hold there", async () => {
    await winterize();
    const change = { fittedOn: "2026-11-20", serial: "B 2" };
    const reply = await me({
      method: "PATCH",
      url: `/api/units/${home.unitId}/parts/pump?item=`,
      payload: change,
    });
    expect(reply.statusCode).toBe(404);
    // The register of this workshop is made with the map; a save makes it.
    await editMap((map) => ({ ok: true, map: { ...map, note: "looked at" } }));
    expect((await unit()).state.since).toEqual([]);
    await send("PATCH", `/units/${home.unitId}/parts/pump?item=`, change);
    expect((await unit()).state).toMatchObject({
      holdsToC: 0,
      since: [expect.stringMatching(/^opened since: .*[Pp]ump, not known to hold$/u)],
    });
  });

  it("of whose part only the day of its fitting was learnt, before the record, is as it was; exchanged by a file, it is not", async () => {
    await winterize();
    await editMap((map) => ({ ok: true, map: { ...map, note: "looked at" } }));
    await send("PATCH", `/units/${home.unitId}/parts/pump?item=`, { fittedOn: "2021-05-03" });
    expect((await unit()).state.since).toEqual([]);
    const { document, revision } = await get<MapRevision>(`/units/${home.unitId}/map`);
    const lives = { pump: { ...NO_LIFE, fittedOn: "2026-11-20" } };
    await send("POST", `/units/${home.unitId}/map`, {
      basedOn: revision,
      why: "Parts file",
      document,
      lives,
    });
    expect((await unit()).state.since).toEqual([expect.stringContaining("opened since")]);
  });

  it("in which something was mended with a joint undone is not known to hold there", async () => {
    await winterize();
    const id = randomUUID();
    const at = new Date().toISOString();
    const say = (body: object, entry = randomUUID()) =>
      send("POST", `/units/${home.unitId}/findings/${id}`, { id: entry, at, mapRevision: 1, body });
    await say({ type: "found", what: "Weeps", severity: "wears", partId: "pump" }, id);
    expect((await unit()).state.since).toEqual([]);
    await say({ type: "mended", how: "New washer", proof: "held 3 bar", undone: ["pump"] });
    expect((await unit()).state).toMatchObject({
      holdsToC: 0,
      since: [expect.stringContaining("opened since")],
    });
  });

  it("filled again is in use, also where the record came from a device whose clock was three hours ahead", async () => {
    const runId = await winterize(3 * 3_600_000);
    expect((await unit()).state.kind).toBe("as-left");
    const entry = { id: randomUUID(), at: CLOSED_ON.toISOString() };
    await send("POST", `/units/${home.unitId}/in-use`, entry);
    expect((await unit()).state).toMatchObject({ kind: "in-use", holdsToC: 0, runId: null });
    // Both clocks are kept, and the difference is said.
    const run = await get<ProcedureRun>(`/runs/${runId}`);
    const ahead = Object.values(run.clocksAheadS);
    expect(ahead.length).toBe(run.events.length);
    for (const s of ahead) expect(Math.abs(s - 10_800)).toBeLessThan(60);
    // Sent once more it changes nothing, whatever happened since.
    await winterize();
    await send("POST", `/units/${home.unitId}/in-use`, entry);
    expect((await unit()).state.kind).toBe("as-left");
  });
});

describe("what the next work begins from", () => {
  it("is how the last record left it, with its age", async () => {
    expect((await standing()).begins).toBeNull();
    const runId = await winterize();
    const { begins, at } = await standing();
    expect(begins).toMatchObject({ from: "record", runId, at });
    const next = await get<ProcedureRun>(`/runs/${await begin()}`);
    expect(next.begins).toEqual(begins);
    expect(next.summary.holdsToC).toBeLessThan(-18);
  });

  it("is how the last visit left the valves, whole, however the map says they stand in use since", async () => {
    const visitId = randomUUID();
    await send("POST", "/visits", {
      id: visitId,
      unitId: home.unitId,
      startsAt: "2026-11-02T09:00:00.000Z",
      minutes: 60,
      asked: "Look",
    });
    const [valve] = network.controls.filter(
      (c) => c.spec.role !== "check" && c.spec.positions.length > 1,
    );
    if (!valve) throw new Error("no valve");
    const other =
      valve.spec.positions.find((p) => p.name !== inUseLineup(network)[valve.key])?.name ?? "";
    const shot = {
      id: randomUUID(),
      kind: "as-left",
      mapRevision: 1,
      lineup: { [valve.key]: other },
      at: "2026-11-02T10:00:00.000Z",
    };
    const { snapshots } = await send<{ snapshots: Snapshot[] }>(
      "POST",
      `/visits/${visitId}/snapshots`,
      shot,
    );
    const whole = { ...inUseLineup(network), [valve.key]: other };
    expect(snapshots).toMatchObject([{ lineup: whole, turns: [{ control: valve.key }] }]);
    expect((await standing()).begins).toMatchObject({
      from: "as-left",
      at: shot.at,
      contents: null,
      lineup: whole,
    });
    await editMap((map) => ({
      ok: true,
      map: { ...map, lineup: { ...map.lineup, [valve.key]: other } },
    }));
    expect((await standing()).lineup).toMatchObject(whole);
    const [kept] = (await get<{ snapshots: Snapshot[] }>(`/visits/${visitId}/snapshots`)).snapshots;
    expect(kept).toEqual(snapshots[0]);
    const run = await get<ProcedureRun>(`/runs/${await begin()}`);
    expect(run.begins?.lineup[valve.key]).toBe(other);
  });
});

describe("a device of the release before", () => {
  it("may send its looks and readings by their words: they stand on the same line as those of today", async () => {
    const at = (day: number): string => `2026-11-0${day}T09:00:00.000Z`;
    const look = { partId: "heater", mark: "good", readings: [0.015, 0.0142, 0.0148] };
    const words = "Anode thickness at three places";
    await send("POST", `/units/${home.unitId}/looks`, {
      looks: [{ ...look, id: randomUUID(), key: `heater/${words}`, point: words, at: at(1) }],
    });
    await send("POST", `/units/${home.unitId}/looks`, {
      looks: [
        {
          ...look,
          id: randomUUID(),
          key: "heater/anode-thickness-at-three-places",
          pointId: "anode-thickness-at-three-places",
          point: words,
          at: at(2),
        },
      ],
    });
    const figure = {
      label: "Level",
      dimension: "fraction",
      value: 0.5,
      typed: "50 %",
      method: "sight",
      partId: "fresh-tank",
    };
    await send("POST", `/units/${home.unitId}/readings`, {
      readings: [
        { ...figure, id: randomUUID(), key: "fresh-tank/level/sight", at: at(1) },
        { ...figure, id: randomUUID(), spot: "sight", kind: "level", at: at(2) },
      ],
    });
    const { readings } = await get<{ readings: Reading[] }>(`/units/${home.unitId}/readings`);
    const rod = Array.from({ length: 6 }, () => "heater/anode-thickness-at-three-places/length");
    expect(readings.map((r) => r.key).toSorted()).toEqual([
      "fresh-tank/sight/level",
      "fresh-tank/sight/level",
      ...rod,
    ]);
    const { looks } = await get<{ looks: { key: string }[] }>(`/units/${home.unitId}/looks`);
    expect(looks.map((l) => l.key)).toEqual(["heater/anode-thickness-at-three-places"]);
  });
});
