import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { NO_LIFE } from "@uppershed/core/formats";
import { type WaterMap } from "@uppershed/core/watermap";
import type { MapRevision, RegisteredPart, RevisionLine, Unit } from "@uppershed/contract";
import type { InjectOptions, LightMyRequestResponse } from "fastify";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { openTestServer, type TestServer } from "../testing/bench.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

const mapOf = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const plover = mapOf("plover");
let ask: (options: InjectOptions) => Promise<LightMyRequestResponse>;
let shops = 0;
const newShop = async (): Promise<void> => {
  ask = await (await server.workshop(`shop ${++shops}`)).as("technician");
};
beforeEach(newShop);
// oxlint-disable-next-line typescript/no-unnecessary-type-parameters
const call = async <T>(
  method: "GET" | "POST" | "PATCH",
  url: string,
  payload?: object,
): Promise<{ status: number; body: T }> => {
  const reply = await ask({ method, url: `/api${url}`, ...(payload ? { payload } : {}) });
  return { status: reply.statusCode, body: reply.json<T>() };
};
const take = async (more: object = {}): Promise<Unit> =>
  (
    await call<Unit>("POST", "/units", {
      id: randomUUID(),
      name: "Bramble",
      craft: "camper",
      owner: "T. Arkwright",
      document: plover,
      ...more,
    })
  ).body;
const renamed = (name: string): WaterMap => ({
  ...plover,
  parts: plover.parts.map((p) => (p.id === "pump" ? { ...p, name } : p)),
});

describe("taking in a unit", () => {
  it("makes the unit, its owner, revision 1 of its map and a line of the register for each part", async () => {
    const unit = await take({ phone: "0555 0199", plate: "BR 1", berth: "row D" });
    expect(unit).toMatchObject({
      name: "Bramble",
      owner: "T. Arkwright",
      phone: "0555 0199",
      mapRevision: 1,
      siblingOf: null,
    });
    const { body } = await call<MapRevision>("GET", `/units/${unit.id}/map`);
    expect(body).toMatchObject({ revision: 1, why: "Drawn at intake" });
    const parts = (await call<{ parts: RegisteredPart[] }>("GET", `/parts?unit=${unit.id}`)).body
      .parts;
    expect(
      parts
        .filter((p) => p.item === "")
        .map((p) => p.partId)
        .toSorted(),
    ).toEqual(plover.parts.map((p) => p.id).toSorted());
  });

  it("does not make an owner twice, and refuses a map that is not sound with every problem named, leaving nothing behind", async () => {
    await take();
    await take({ name: "Bracken" });
    const units = (await call<{ units: Unit[] }>("GET", "/units")).body.units;
    const bad = await call<{ error: { fields: { where: string }[] } }>("POST", "/units", {
      id: randomUUID(),
      name: "Bad",
      craft: "x",
      owner: "Nobody",
      document: { ...plover, colour: 1 },
    });
    expect(bad.status).toBe(422);
    expect(bad.body.error.fields.length).toBeGreaterThan(0);
    expect((await call<{ units: Unit[] }>("GET", "/units")).body.units).toEqual(units);
  });

  it("refuses a body with prototype keys, one of brackets and one over the limit; nothing is left of them and the server answers on", async () => {
    const units = async () => (await call<{ units: Unit[] }>("GET", "/units")).body.units;
    const before = await units();
    const send = async (payload: string) =>
      (
        await ask({
          method: "POST",
          url: "/api/units",
          payload,
          headers: { "content-type": "application/json" },
        })
      ).statusCode;
    const body = (document: string) =>
      `{"name":"B","craft":"c","owner":"o","document":${document}}`;
    expect(
      await send(body(JSON.stringify(plover).replace("{", '{"__proto__":{"admin":true},'))),
    ).toBe(400);
    expect(await send(body("[".repeat(1_000_000)))).toBe(400);
    expect(await send(body(JSON.stringify("x".repeat(3_000_000))))).toBe(413);
    expect(({} as { admin?: boolean }).admin).toBeUndefined();
    expect(await units()).toEqual(before);
  });

  it.each([
    ["no name", { name: " " }],
    ["no owner", { owner: "" }],
    ["a field that is not known", { colour: "green" }],
  ])("refuses %s", async (_, more) => {
    expect(
      (
        await call("POST", "/units", {
          id: randomUUID(),
          name: "B",
          craft: "c",
          owner: "o",
          document: plover,
          ...more,
        })
      ).status,
    ).toBe(400);
  });
});

describe("revisions", () => {
  it("are listed with who, when and why, and each can be read as it was", async () => {
    const unit = await take();
    const saved = await call<MapRevision>("POST", `/units/${unit.id}/map`, {
      basedOn: 1,
      why: "Pump renamed",
      document: renamed("Big pump"),
    });
    expect(saved.status).toBe(201);
    const { revisions } = (
      await call<{ revisions: RevisionLine[] }>("GET", `/units/${unit.id}/map/revisions`)
    ).body;
    expect(revisions.map((r) => [r.revision, r.why, r.parts])).toEqual([
      [2, "Pump renamed", plover.parts.length],
      [1, "Drawn at intake", plover.parts.length],
    ]);
    expect((await call<MapRevision>("GET", `/units/${unit.id}/map/1`)).body.document).toEqual(
      plover,
    );
  });

  it("a save on a revision that is no longer the newest changes nothing", async () => {
    const unit = await take();
    await call("POST", `/units/${unit.id}/map`, {
      basedOn: 1,
      why: "first",
      document: renamed("A"),
    });
    expect(
      (
        await call("POST", `/units/${unit.id}/map`, {
          basedOn: 1,
          why: "second",
          document: renamed("B"),
        })
      ).status,
    ).toBe(409);
    const { document } = (await call<{ document: WaterMap }>("GET", `/units/${unit.id}/map`)).body;
    expect(document.parts.find((p) => p.id === "pump")?.name).toBe("A");
  });
});

describe("the parts register", () => {
  const search = async (query: string): Promise<string[]> =>
    (await call<{ parts: RegisteredPart[] }>("GET", `/parts?${query}`)).body.parts.map(
      (p) => `${p.unitName}/${p.partId}${p.item ? `/${p.item}` : ""}`,
    );
  const burdock = mapOf("burdock");

  it("finds every steel heater with an anode over two years, and only those", async () => {
    const old = await take({ name: "Burdock", document: burdock });
    const young = await take({ name: "Bracken", document: burdock });
    await take({ name: "Plover" });
    const patch = (unitId: string, fittedOn: string) =>
      call("PATCH", `/units/${unitId}/parts/heater?item=anode`, { fittedOn });
    expect((await patch(old.id, "2020-01-01")).status).toBe(200);
    const lately = new Date().toISOString().slice(0, 10);
    await patch(young.id, lately);
    expect(await search("text=steel+heater+anode&fittedMonthsAgo=24")).toEqual([
      "Burdock/heater/anode",
    ]);
    expect(await search("text=steel+heater+anode")).toHaveLength(4);
    expect(await search("text=aluminium+heater")).toEqual(["Plover/heater"]);
  });

  it("keeps a part's life over revisions, marks what is taken out, and takes it up again when it comes back", async () => {
    const unit = await take();
    await call("PATCH", `/units/${unit.id}/parts/hand-shower`, {
      serial: "HS-1",
      condition: "watch",
      fittedOn: "2024-05-01",
      expectedLifeMonths: 12,
    });
    const without = {
      ...plover,
      parts: plover.parts.filter((p) => p.id !== "hand-shower"),
      runs: plover.runs.filter((r) => r.from.part !== "hand-shower" && r.to.part !== "hand-shower"),
    };
    await call("POST", `/units/${unit.id}/map`, {
      basedOn: 1,
      why: "shower out",
      document: without,
    });
    const life = async (query: string) =>
      (
        await call<{ parts: RegisteredPart[] }>(
          "GET",
          `/parts?unit=${unit.id}&text=hand+shower${query}`,
        )
      ).body.parts[0];
    expect(await life("")).toBeUndefined();
    expect(await life("&gone=yes")).toMatchObject({ onMap: false, life: { serial: "HS-1" } });
    await call("POST", `/units/${unit.id}/map`, {
      basedOn: 2,
      why: "and in again",
      document: plover,
    });
    expect(await life("")).toMatchObject({
      onMap: true,
      dueOn: "2025-05-01",
      life: { serial: "HS-1", condition: "watch" },
    });
  });

  it("takes an import's lives together with the map, or neither", async () => {
    const unit = await take();
    const life = { ...NO_LIFE, serial: "P-77" };
    const no = await call("POST", `/units/${unit.id}/map`, {
      basedOn: 1,
      why: "import",
      document: renamed("X"),
      lives: { nowhere: life },
    });
    expect(no.status).toBe(422);
    expect((await call<Unit>("GET", `/units/${unit.id}`)).body.mapRevision).toBe(1);
    await call("POST", `/units/${unit.id}/map`, {
      basedOn: 1,
      why: "import",
      document: renamed("X"),
      lives: { pump: life },
    });
    expect(
      (await call<{ parts: RegisteredPart[] }>("GET", "/parts?text=P-77")).body.parts[0],
    ).toMatchObject({
      name: "X",
      life: { serial: "P-77" },
    });
  });

  it("finds by due date and condition; signs in the words are words", async () => {
    const unit = await take();
    await call("PATCH", `/units/${unit.id}/parts/pump`, {
      fittedOn: "2020-01-31",
      expectedLifeMonths: 13,
      condition: "bad",
    });
    expect(await search("dueBy=2021-02-27")).toEqual([]);
    expect(await search("dueBy=2021-02-28")).toEqual(["Bramble/pump"]);
    expect(await search("condition=bad")).toEqual(["Bramble/pump"]);
    for (const odd of ["%25", "_", "%5C", "'; drop table parts; --"])
      expect(await search(`text=${odd}`)).toEqual([]);
  });

  it.each([
    ["a day that is none", "PATCH", { fittedOn: "soon" }, 400],
    ["a condition that is none", "PATCH", { condition: "splendid" }, 400],
    ["a field that is not known", "PATCH", { colour: "red" }, 400],
  ] as const)("refuses %s", async (_, method, payload, status) => {
    const unit = await take();
    expect((await call(method, `/units/${unit.id}/parts/pump`, payload)).status).toBe(status);
  });

  it("answers 404 for a part that is not there, and nothing of another workshop", async () => {
    const unit = await take();
    expect((await call("PATCH", `/units/${unit.id}/parts/nowhere`, { note: "x" })).status).toBe(
      404,
    );
    await newShop();
    expect((await call("PATCH", `/units/${unit.id}/parts/pump`, { note: "x" })).status).toBe(404);
    expect((await call("GET", `/units/${unit.id}/map/revisions`)).status).toBe(404);
    expect(await search("")).toEqual([]);
    expect(
      (
        await call("POST", "/units", {
          id: randomUUID(),
          name: "B",
          craft: "c",
          owner: "o",
          document: plover,
          siblingOf: unit.id,
        })
      ).status,
    ).toBe(404);
  });
});

describe("sister units", () => {
  it("know whose map was copied, and up to which revision its changes were brought over", async () => {
    const first = await take();
    const sister = await take({ name: "Bracken", siblingOf: first.id });
    expect(sister.siblingOf).toEqual({ unitId: first.id, name: "Bramble", revision: 1 });
    await call("POST", `/units/${first.id}/map`, { basedOn: 1, why: "x", document: renamed("A") });
    await call("POST", `/units/${sister.id}/map`, {
      basedOn: 1,
      why: "brought over",
      document: renamed("A"),
      siblingRevision: 2,
    });
    expect((await call<Unit>("GET", `/units/${sister.id}`)).body.siblingOf?.revision).toBe(2);
  });
});
