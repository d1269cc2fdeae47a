import type { RefitKitOnFile, RefitOnFile } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { instrumentsSchema, planTest, pressureSources } from "@uppershed/core/hold";
import { piecesOf } from "@uppershed/core/refit";
import {
  addOnPipeRun,
  buildNetwork,
  changePart,
  readWaterMap,
  type WaterMap,
} from "@uppershed/core/watermap";
import { sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let today: WaterMap;

const haywain = EXAMPLE_MAPS.find((m) => m.id === "haywain");
if (!haywain) throw new Error("no Haywain");

const mapNow = async (): Promise<{ map: WaterMap; revision: number }> => {
  const { document, revision } = (await me({ url: `/api/units/${home.unitId}/map` })).json<{
    document: unknown;
    revision: number;
  }>();
  const read = readWaterMap(document);
  if (!read.ok) throw new Error("not sound");
  return { map: read.map, revision };
};
const save = (document: WaterMap, basedOn: number) =>
  me({
    method: "POST",
    url: `/api/units/${home.unitId}/map`,
    payload: { basedOn, why: "as it is", document },
  });

beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
  const reply = await save({ ...haywain, id: home.unitId.slice(0, 20) }, 1);
  expect(reply.statusCode, reply.body).toBeLessThan(300);
  today = (await mapNow()).map;
});
afterAll(() => server.close());

const at = (): string => new Date().toISOString();
const say = (refitId: string, body: object, id: string = randomUUID()) =>
  me({
    method: "POST",
    url: `/api/units/${home.unitId}/refits/${refitId}`,
    payload: { id, at: at(), body },
  });
const read = async (id: string): Promise<RefitOnFile> =>
  (await me({ url: `/api/units/${home.unitId}/refits/${id}` })).json();

/** Today's map with two checks in it, at two pipes. */
const withChecks = (map: WaterMap): WaterMap =>
  ["cold", "hot"].reduce((now, service) => {
    const run = map.runs.find((r) => r.service === service)?.id ?? "";
    const done = addOnPipeRun(now, "check-valve", run, 0.5);
    if (!done.ok) throw new Error(done.problem);
    return done.map;
  }, map);
const made = async (document = withChecks(today)): Promise<string> => {
  const id = randomUUID();
  const { revision } = await mapNow();
  const body = { type: "made", name: "Two checks", from: "map", document, basedOn: revision };
  const reply = await say(id, body);
  expect(reply.statusCode, reply.body).toBe(201);
  return id;
};

describe("a refit", () => {
  it("changes nothing of the unit, is kept whole, and stands in the unit's list", async () => {
    const before = await mapNow();
    const id = await made();
    expect(await mapNow()).toEqual(before);
    const kept = await read(id);
    expect(kept.document).toEqual(withChecks(today));
    expect(kept.refit).toMatchObject({ name: "Two checks", basedOn: before.revision });
    const { refits } = (await me({ url: `/api/units/${home.unitId}/refits` })).json<{
      refits: { id: string; name: string }[];
    }>();
    expect(refits.map((r) => r.id)).toContain(id);
    await say(id, { type: "hold-point", what: "sole board", at: ["pump"] });
    // Only thought of, it keeps nothing open.
    expect((await read(id)).heldOpen).toEqual([]);
    await say(id, { type: "work", of: ["pump"], state: "cut" });
    expect((await read(id)).heldOpen).toEqual([{ what: "sole board", at: ["pump"] }]);
  });

  it("is laid out by rolls and rests and priced by the workshop's own list", async () => {
    const id = await made();
    const kit = async (): Promise<RefitKitOnFile> => {
      const reply = await me({ url: `/api/units/${home.unitId}/refits/${id}/kit` });
      expect(reply.statusCode, reply.body).toBe(200);
      return reply.json();
    };
    const bare = await kit();
    expect(bare.lines.find((l) => l.key === "kind:check-valve")?.count).toBe(2);
    expect(bare.sum).toBe(0);
    expect(bare.missing.length).toBe(bare.lines.length);
    const roll = bare.pipes[0]?.key ?? "";
    const put = (text: string) => me({ method: "PUT", url: "/api/prices", payload: { text } });
    const list = `key,price,roll m,rests m\nkind:check-valve,12.5,,\n${roll},30,25,9; 8\n`;
    expect((await put(list)).statusCode).toBe(200);
    const then = await kit();
    expect(then.lines.find((l) => l.key === "kind:check-valve")?.sum).toBe(25);
    // A rest piece that is long enough is used before a roll is bought.
    expect(then.pipes[0]?.plan.bought).toBe(0);
    const bad = await put("key,price\nkind:check-valve,dear\n");
    expect(bad.statusCode).toBe(422);
    expect(bad.body).toContain("line 2, price");
    expect((await kit()).sum).toBe(then.sum);
  });

  it("is installed piece by piece: the unit's map takes each, the rest stays proposed", async () => {
    const id = await made();
    const before = await mapNow();
    const pieces = piecesOf(before.map, withChecks(today)).map((p) => p.id);
    expect(pieces).toHaveLength(2);
    const adopt = (piece: string, basedOn: number, entry: string = randomUUID()) =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/refits/${id}/adopt`,
        payload: { id: entry, at: at(), pieces: [piece], basedOn },
      });
    const entry = randomUUID();
    const first = await adopt(pieces[0] ?? "", before.revision, entry);
    expect(first.statusCode, first.body).toBe(201);
    const once = await mapNow();
    expect(once.revision).toBe(before.revision + 1);
    expect(once.map.parts.filter((p) => p.kind === "check-valve").length).toBe(
      before.map.parts.filter((p) => p.kind === "check-valve").length + 1,
    );
    // Sent once more, nothing is saved twice; from an old map, it is refused.
    expect((await adopt(pieces[0] ?? "", before.revision, entry)).statusCode).toBe(201);
    expect((await mapNow()).revision).toBe(once.revision);
    expect((await adopt(pieces[1] ?? "", before.revision)).statusCode).toBe(409);
    expect((await adopt("ghost", once.revision)).statusCode).toBe(422);
    // What is corrected in between stays.
    const corrected = changePart(once.map, once.map.parts[0]?.id ?? "", { name: "Put right" });
    if (!corrected.ok) throw new Error(corrected.problem);
    await save(corrected.map, once.revision);
    const last = await adopt(pieces[1] ?? "", once.revision + 1);
    expect(last.statusCode, last.body).toBe(201);
    const end = await mapNow();
    expect(end.map.parts[0]?.name).toBe("Put right");
    expect(end.map.parts.length).toBe(before.map.parts.length + 2);
    expect((await read(id)).refit.adopted.map((a) => a.revision)).toEqual([
      before.revision + 1,
      end.revision,
    ]);
    today = end.map;
  });

  it("takes a piece as tested only by a test of this unit that passed and pressed it", async () => {
    const { map, revision } = await mapNow();
    const network = buildNetwork(map);
    const plan = planTest({
      network,
      target: { is: "pressure-side", source: pressureSources(network)[0]?.id ?? "" },
      by: "supply",
      gauge: { name: "Test gauge", stepPa: 700 },
    });
    const testId = randomUUID();
    const enter = (body: object) =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/tests/${testId}`,
        payload: { id: randomUUID(), at: at(), mapRevision: revision, body },
      });
    await enter({
      type: "begun",
      plan,
      instruments: instrumentsSchema.parse({ gauge: { stepPa: 700 } }),
      gauge: { name: "Test gauge" },
    });
    const id = await made(map);
    const pressed = plan.owners[0] ?? "";
    const dry = map.parts.find((p) => !plan.owners.includes(p.id))?.id ?? "";
    const tested = (of: string, test: string = testId) =>
      say(id, { type: "work", of: [of], state: "tested", testId: test });
    expect((await tested(pressed)).body).toContain("has not passed");
    const concluded = {
      verdict: "tight",
      why: "It held.",
      leak: { low: 0, mid: 0, high: 1e-10 },
      smallestDetectable: 1e-9,
      judge: "1",
    };
    expect((await enter({ type: "ended", name: "T. Ech", concluded })).statusCode).toBe(201);
    expect((await tested(pressed, randomUUID())).statusCode).toBe(422);
    expect((await tested(dry)).body).toContain("did not press all of it");
    expect((await tested(pressed)).statusCode).toBe(201);
    // Drawn otherwise since: the same test proves nothing more.
    const renamed = changePart(map, map.parts[0]?.id ?? "", { name: "Drawn again" });
    if (!renamed.ok) throw new Error(renamed.problem);
    expect((await save(renamed.map, revision)).statusCode).toBeLessThan(300);
    expect((await tested(plan.owners[1] ?? "")).body).toContain("test it again");
    const closed = await say(id, { type: "work", of: [dry], state: "closed" });
    expect(closed.statusCode).toBe(409);
    expect((await say(id, { type: "work", of: [pressed], state: "closed" })).statusCode).toBe(201);
  });

  it("half-way, with an end open, keeps the unit out of use until it is sound again", async () => {
    const { map, revision } = await mapNow();
    // Two pieces: a tap whose pipe is cut, and a check elsewhere.
    const tap = map.parts.find((p) => p.name === "Basin tap");
    const cut = map.runs.find(
      (r) => r.service === "cold" && [r.from.part, r.to.part].includes(tap?.id ?? ""),
    );
    const check = addOnPipeRun(
      map,
      "check-valve",
      map.runs.find((r) => r.service === "hot")?.id ?? "",
      0.5,
    );
    if (!check.ok || !cut) throw new Error("no tap");
    const proposed = { ...check.map, runs: check.map.runs.filter((r) => r.id !== cut.id) };
    const id = await made(proposed);
    const use = () =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/in-use`,
        payload: { id: randomUUID(), at: at() },
      });
    expect((await use()).statusCode).toBe(200);
    const half = piecesOf(map, proposed).find((p) => p.runs.includes(cut.id));
    const adopted = await me({
      method: "POST",
      url: `/api/units/${home.unitId}/refits/${id}/adopt`,
      payload: { id: randomUUID(), at: at(), pieces: [half?.id], basedOn: revision },
    });
    expect(adopted.statusCode, adopted.body).toBe(201);
    const refused = await use();
    expect(refused.statusCode).toBe(409);
    expect(refused.body).toContain("Half-way through");
    expect(refused.body).toContain("Basin tap");
    const now = await mapNow();
    expect(
      (await save({ ...now.map, runs: [...now.map.runs, cut] }, now.revision)).statusCode,
    ).toBe(201);
    expect((await use()).statusCode).toBe(200);
    today = (await mapNow()).map;
  });

  it.each([
    ["a map that is not sound", { document: { format: "x" } }, 400],
    ["a revision that never was", { basedOn: 999 }, 404],
    ["a field that nobody knows", { colour: "red" }, 400],
  ])("of %s is refused, and nothing of it kept", async (_, more, status) => {
    const id = randomUUID();
    const body = { type: "made", name: "x", from: "map", document: today, basedOn: 1, ...more };
    const reply = await say(id, body);
    expect(reply.statusCode, reply.body).toBe(status);
    expect((await me({ url: `/api/units/${home.unitId}/refits/${id}` })).statusCode).toBe(404);
  });

  it("is not installed by the way of an entry, nor read or written by another workshop", async () => {
    const id = await made();
    expect((await say(id, { type: "adopted", pieces: ["x"], revision: 3 })).statusCode).toBe(422);
    const away = await server.workshop("away");
    const them = await away.as("technician");
    for (const url of [
      `/api/units/${home.unitId}/refits/${id}`,
      `/api/units/${away.unitId}/refits/${id}`,
      `/api/units/${away.unitId}/refits/${id}/kit`,
    ])
      expect((await them({ url })).statusCode).toBe(404);
    const stolen = await them({
      method: "POST",
      url: `/api/units/${away.unitId}/refits/${id}`,
      payload: { id: randomUUID(), at: at(), body: { type: "note", text: "mine" } },
    });
    expect(stolen.statusCode).toBeGreaterThanOrEqual(400);
    expect((await them({ url: "/api/prices" })).json()).toEqual({ lines: [] });
  });

  it("kept by an earlier version of the map's format is read like every map", async () => {
    const id = await made();
    const older = randomUUID();
    const { workshop_id: workshopId, person_id: personId } = (
      await server.database.db.execute(
        sql`select workshop_id, person_id from refit_entries where refit_id = ${id}`,
      )
    ).rows[0] as { workshop_id: string; person_id: string };
    const { revision } = await mapNow();
    const body = {
      type: "drawn",
      document: { ...today, version: 2 },
      basedOn: revision,
      why: "of before",
    };
    await server.database.db.execute(
      sql`insert into refit_entries (id, workshop_id, refit_id, person_id, position, body, at)
          values (${older}, ${workshopId}, ${id}, ${personId}, 2, ${JSON.stringify(body)}::jsonb, now())`,
    );
    const kept = await read(id);
    expect(kept.withoutEffect).toEqual([]);
    expect(kept.document).toEqual(JSON.parse(JSON.stringify(today)));
  });

  it("withdrawn takes no more; with some of it in, it is not withdrawn", async () => {
    const id = await made();
    expect((await say(id, { type: "withdrawn", why: "too dear" })).statusCode).toBe(201);
    expect((await say(id, { type: "named", name: "again" })).statusCode).toBe(409);
    expect((await read(id)).withdrawnAt).not.toBeNull();
  });

  it("is offered with a visit's report, answered by its link, and stays as it was offered", async () => {
    const visitId = randomUUID();
    const visit = { id: visitId, unitId: home.unitId, startsAt: at(), minutes: 60, asked: "refit" };
    expect((await me({ method: "POST", url: "/api/visits", payload: visit })).statusCode).toBe(201);
    const editionId = randomUUID();
    await me({
      method: "POST",
      url: `/api/visits/${visitId}/editions`,
      payload: { id: editionId, how: "link" },
    });
    const linked = await me({
      method: "POST",
      url: `/api/visits/${visitId}/links`,
      payload: { id: randomUUID(), editionId },
    });
    const path = linked.json<{ links: { path: string }[] }>().links[0]?.path ?? "";
    const owner = (method: "GET" | "POST", url: string, payload?: object) =>
      server.app.inject({ method, url: `/api${path}${url}`, ...(payload ? { payload } : {}) });
    expect((await owner("GET", "/offers")).json()).toEqual({ offers: [] });
    const proposed = withChecks(today);
    const id = await made(proposed);
    const lines = ["Protections missing: 2 today, 1 then (better)."];
    const offer = { type: "offered", visitId, lines, cost: 140, today, proposed };
    expect((await say(id, { ...offer, visitId: randomUUID() })).statusCode).toBe(404);
    const offerId = randomUUID();
    expect((await say(id, offer, offerId)).statusCode).toBe(201);
    // Drawn otherwise afterwards: what was offered stays what it was.
    const { revision } = await mapNow();
    await say(id, { type: "drawn", document: today, basedOn: revision });
    const seen = (await owner("GET", "/offers")).json<{
      offers: { id: string; lines: string[]; proposed: unknown; cost: number }[];
    }>();
    expect(seen.offers).toMatchObject([{ id: offerId, lines, cost: 140 }]);
    expect(seen.offers[0]?.proposed).toEqual(JSON.parse(JSON.stringify(proposed)));
    // Nobody of the workshop answers for them, and a made-up offer has no answer.
    const own = await say(id, { type: "answered", offer: offerId, answer: "do-it", who: "me" });
    expect(own.statusCode).toBe(422);
    const answer = { id: randomUUID(), answer: "do-it", who: "S. Quennell" };
    expect((await owner("POST", `/offers/${randomUUID()}`, answer)).statusCode).toBe(404);
    expect((await owner("POST", `/offers/${offerId}`, { ...answer, who: " " })).statusCode).toBe(
      400,
    );
    expect((await owner("POST", `/offers/${offerId}`, answer)).statusCode).toBe(201);
    expect((await owner("POST", `/offers/${offerId}`, answer)).statusCode).toBe(201);
    expect((await read(id)).refit.offers).toMatchObject([
      { id: offerId, answer: { answer: "do-it", who: "S. Quennell" } },
    ]);
    // What is kept is only ever added to; an owner who asks for it is taken out by name.
    await expect(
      server.database.db.execute(
        sql`update refit_entries set by_name = 'x' where refit_id = ${id}`,
      ),
    ).rejects.toThrow();
    const lead = await home.as("lead");
    const { customers } = (await lead({ url: "/api/customers" })).json<{
      customers: { id: string; name: string }[];
    }>();
    const [customer] = customers;
    const erased = await lead({
      method: "POST",
      url: `/api/customers/${customer?.id}/erase`,
      payload: { name: customer?.name },
    });
    expect(erased.statusCode, erased.body).toBe(200);
    expect((await read(id)).refit.offers[0]?.answer?.who).toBe("erased on request");
    const forged = path.replace(/.$/u, (c) => (c === "A" ? "B" : "A"));
    const other = await server.app.inject({ url: `/api${forged}/offers` });
    expect(other.statusCode).toBe(410);
  });
});
