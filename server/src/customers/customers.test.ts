import type { Customer, RegisterOutcome, Unit, UnitList } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { openTestServer, type TestServer } from "../testing/bench.ts";

let server: TestServer;
let ask: Awaited<ReturnType<Awaited<ReturnType<TestServer["workshop"]>>["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  ask = await (await server.workshop(randomUUID())).as("technician");
});

// oxlint-disable-next-line typescript/no-unnecessary-type-parameters
const send = async <T>(
  method: "POST" | "PATCH",
  url: string,
  payload: object,
): Promise<{ status: number; body: T }> => {
  const reply = await ask({ method, url: `/api${url}`, payload });
  return { status: reply.statusCode, body: reply.json<T>() };
};
const get = async <T>(url: string): Promise<T> => (await ask({ url: `/api${url}` })).json<T>();
const names = async (find: string): Promise<string[]> =>
  (await get<UnitList>(`/units?find=${encodeURIComponent(find)}`)).units.map((u) => u.name);
const plover = EXAMPLE_MAPS.find((m) => m.id === "plover");
const take = async (more: object): Promise<Unit> =>
  (
    await send<Unit>("POST", "/units", {
      id: randomUUID(),
      name: "Bramble",
      craft: "river cabin boat",
      owner: "Ada Fell",
      document: plover,
      ...more,
    })
  ).body;

describe("the register", () => {
  it("finds a unit by every word of it: name, owner, phone however written, plate, hull number, place, part", async () => {
    const unit = await take({
      phone: "0555 0199",
      plate: "BR 12 X",
      hull: "HULL-77-Q",
      berth: "slip 4",
    });
    await take({ name: "Bracken", owner: "Ivo Lund", phone: "0555 0200" });
    await ask({
      method: "PATCH",
      url: `/api/units/${unit.id}/parts/pump`,
      payload: { serial: "SN-4411" },
    });
    for (const words of [
      "bramb",
      "fell ada",
      "0555-0199",
      "(0555) 0199",
      "br 12",
      "hull-77",
      "slip 4",
      "sn-4411",
    ])
      expect((await names(words)).at(0), words).toBe("Bramble");
    expect(await names("hand shower river")).toEqual(["Bracken", "Bramble"]);
    expect(await names("bra")).toEqual(["Bracken", "Bramble"]);
    expect(await names("0200")).toEqual(["Bracken"]);
    expect(await names("nothing of the kind")).toEqual([]);
    for (const odd of ["%", "_", "\\", "'; drop table units; --"])
      expect(await names(odd)).toEqual([]);
  });

  it("follows changes of unit and owner, and comes a page at a time", async () => {
    const unit = await take({});
    await send("PATCH", `/units/${unit.id}`, {
      name: "Bilberry",
      accessNote: "Key under the third fender",
    });
    await send("PATCH", `/customers/${unit.customerId}`, {
      name: "Ada Fell-Hughes",
      email: "ada@example.invalid",
    });
    expect(await names("bilberry hughes ada@example")).toEqual(["Bilberry"]);
    expect(await names("bramble")).toEqual([]);
    expect((await get<Unit>(`/units/${unit.id}`)).accessNote).toContain("fender");
    const page = await get<UnitList>("/units?limit=1&skip=1");
    expect([page.units.length, page.found, page.atLeast]).toEqual([1, 2, false]);
    expect((await ask({ url: "/api/units?limit=5000" })).statusCode).toBe(400);
  });
});

describe("doubles", () => {
  it("of a customer are put together: units move, every word still finds, nothing is lost, and once only", async () => {
    const one = await take({ owner: "Ada Fell", phone: "0555 0301" });
    const two = await take({ name: "Bracken", owner: "A. Fell", phone: "0555 0302" });
    await send("PATCH", `/customers/${two.customerId}`, {
      note: "Rings on Mondays",
      email: "fell@example.invalid",
    });
    const merged = await send<Customer>("POST", `/customers/${one.customerId}/merge`, {
      double: two.customerId,
    });
    expect(merged.body).toMatchObject({
      name: "Ada Fell",
      phone: "0555 0301",
      email: "fell@example.invalid",
      note: "Rings on Mondays",
      doubles: [{ name: "A. Fell", phone: "0555 0302" }],
    });
    expect(merged.body.units.map((u) => u.name)).toEqual(["Bracken", "Bramble"]);
    const found = await get<{ customers: Customer[] }>("/customers?find=0555+0302");
    expect(found.customers.map((c) => c.name)).toEqual(["Ada Fell"]);
    expect(await names("0555 0302")).toEqual(["Bracken", "Bramble"]);
    expect(
      (await send("POST", `/customers/${one.customerId}/merge`, { double: two.customerId })).status,
    ).toBe(409);
    expect(
      (await send("POST", `/customers/${one.customerId}/merge`, { double: one.customerId })).status,
    ).toBe(422);
  });

  it("of a unit are put together: the history of both is read as one, and both plates find it", async () => {
    const kept = await take({ plate: "KEPT 1" });
    const gone = await take({ name: "Bramble II", hull: "HULL-9" });
    const visit = {
      id: randomUUID(),
      unitId: gone.id,
      startsAt: "2026-10-01T09:00:00.000Z",
      minutes: 60,
      asked: "Look at the pump",
    };
    await send("POST", "/visits", visit);
    const finding = randomUUID();
    const body = { type: "found", what: "Pump weeps", severity: "unsafe" };
    await send("POST", `/units/${gone.id}/findings/${finding}`, {
      id: finding,
      at: visit.startsAt,
      mapRevision: 1,
      body,
    });
    const merged = await send<Unit>("POST", `/units/${kept.id}/merge`, { double: gone.id });
    expect(merged.body).toMatchObject({
      name: "Bramble",
      plate: "KEPT 1",
      hull: "HULL-9",
      openFindings: 1,
      unsafe: true,
    });
    expect(await names("bramble ii")).toEqual(["Bramble"]);
    const visits = await get<{ visits: { asked: string }[] }>(
      `/visits?from=2026-01-01T00:00:00Z&to=2027-01-01T00:00:00Z&unit=${kept.id}`,
    );
    expect(visits.visits.map((v) => v.asked)).toEqual(["Look at the pump"]);
    expect(
      (await get<{ findings: { id: string }[] }>(`/units/${kept.id}/findings`)).findings.map(
        (f) => f.id,
      ),
    ).toEqual([finding]);
    expect((await get<UnitList>("/units?only=unsafe")).units.map((u) => u.name)).toEqual([]);
    expect((await ask({ url: `/api/units/${gone.id}/map` })).statusCode).toBe(200);
  });
});

describe("the register in files", () => {
  const csv = (...lines: string[]): string =>
    ["owner,phone,email,unit,what it is,plate,lies at", ...lines].join("\r\n");
  const bring = (text: string, tryOnly: boolean, kind = "csv") =>
    send<RegisterOutcome>("POST", "/register", { kind, text, tryOnly });

  it("says what an import would do, does it, and a second time finds everything the same", async () => {
    await take({ owner: "Ada Fell", phone: "0555 0401", plate: "BR 1" });
    const text = csv(
      "Ada Fell,0555 0401,ada@example.invalid,Bramble,barge,BR 1,slip 9",
      "Nils Orme,+44 555 0402,,Thistle,slide-in truck camper,TH 2,",
    );
    const tried = await bring(text, true);
    const want = { newCustomers: 1, newUnits: 1, filled: 2, same: 0 };
    expect(tried.body).toMatchObject({ done: false, ...want });
    expect(tried.body.differs).toEqual([
      { line: 2, where: "unit's craft", here: "river cabin boat", file: "barge" },
    ]);
    expect(await names("thistle")).toEqual([]);
    expect((await bring(text, false)).body).toMatchObject({ done: true, ...want });
    expect(await names("thistle 445550402")).toEqual(["Thistle"]);
    expect(await names("slip 9 ada@example")).toEqual(["Bramble"]);
    expect((await bring(text, false)).body).toMatchObject({
      newCustomers: 0,
      newUnits: 0,
      filled: 0,
      same: 2,
    });
    const [thistle] = (await get<UnitList>("/units?find=thistle")).units;
    const map = await get<{ document: { parts: { kind: string }[] } }>(`/units/${thistle?.id}/map`);
    expect(map.document.parts.map((p) => p.kind)).toEqual(["unknown-part"]);
  });

  it("names every fault with its line, and changes nothing", async () => {
    const bad = await send<{ error: { fields: { where: string; problem: string }[] } }>(
      "POST",
      "/register",
      {
        kind: "csv",
        tryOnly: false,
        text: "owner,phone,colour\r\nAda,1,red\r\n",
      },
    );
    expect(bad.status).toBe(422);
    expect(bad.body.error.fields).toEqual([
      { where: "line 1, colour", problem: "is not a column of a register of customers and units." },
    ]);
    const worse = await bring(
      csv("Good One,0555,,Unit A,van,,", ",0555,not a mail,Unit B,van,,"),
      false,
    );
    expect(worse.status).toBe(422);
    expect((worse.body as unknown as typeof bad.body).error.fields.map((f) => f.where)).toEqual([
      "line 3, owner",
      "line 3, email",
    ]);
    expect((await get<{ customers: Customer[] }>("/customers?find=good")).customers).toEqual([]);
  });

  it("goes out and comes in again with nothing changed, as CSV and as vCards", async () => {
    const unit = await take({
      owner: "Žofie Ráb, heirs",
      phone: "+420 555 0501",
      berth: 'mooring "B"',
    });
    await send("PATCH", `/customers/${unit.customerId}`, {
      address: "Lock Lane 1; Upper Basin",
      note: "Line one\nline two",
    });
    const out = (await ask({ url: "/api/register/csv" })).body;
    expect((await bring(out, true)).body).toMatchObject({
      newCustomers: 0,
      newUnits: 0,
      filled: 0,
      differs: [],
      same: 2,
    });
    const cards = (await ask({ url: "/api/register/vcard" })).body;
    expect((await bring(cards, true, "vcard")).body).toMatchObject({
      newCustomers: 0,
      filled: 0,
      differs: [],
      same: 2,
    });
    // More than are read at once.
    const names = Array.from({ length: 620 }, (_, i) => `Owner ${String(i).padStart(3, "0")}`);
    const head = out.slice(0, out.indexOf("\r\n") + 2);
    const commas = ",".repeat(head.split(",").length - 1);
    await bring(`${head}${names.map((n) => `${n}${commas}\r\n`).join("")}`, false);
    const lines = (await ask({ url: "/api/register/csv" })).body.split("\r\n");
    expect(lines.filter((l) => l.startsWith("Owner ")).map((l) => l.split(",")[0])).toEqual(names);
    expect(lines.filter((l) => `${l}\r\n` === head)).toHaveLength(1);
    const strange =
      "BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Jo New\r\nTEL;TYPE=CELL:0555 0600\r\nBDAY:1980-01-01\r\nEND:VCARD\r\n";
    expect((await bring(strange, true, "vcard")).body).toMatchObject({
      newCustomers: 1,
      notTaken: ["Jo New: bday"],
    });
    expect((await bring("BEGIN:VCARD\r\nnonsense", true, "vcard")).status).toBe(422);
  });
});
