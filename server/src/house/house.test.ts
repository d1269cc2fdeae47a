import type { KitItem, Place, Rules, RulesChanged, Unit, Waiting } from "@uppershed/contract";
import { setupBy } from "@uppershed/core/procedure";
import type { LightMyRequestResponse } from "fastify";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { scopeFor } from "../scope.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { takeFromKit } from "./kit.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

let count = 0;
const fresh = (): Promise<TestWorkshop> => server.workshop(`house${++count}`);
type Person = Awaited<ReturnType<TestWorkshop["as"]>>;

const change = async (
  by: Person,
  basedOn: number,
  values: Record<string, unknown>,
  why = "it froze last year",
) =>
  by({
    method: "POST",
    url: "/api/rules",
    payload: { id: randomUUID(), basedOn, why, values },
  });
const rulesOf = async (by: Person): Promise<Rules> => (await by({ url: "/api/rules" })).json();
const begin = (by: Person, unitId: string, setup: unknown) =>
  by({
    method: "POST",
    url: "/api/runs",
    payload: { id: randomUUID(), unitId, visitId: null, mapRevision: 1, setup },
  });
const problemOf = (reply: LightMyRequestResponse): string =>
  reply.json<{ error: { message: string } }>().error.message;

describe("the house rules", () => {
  it("are those that were shipped, until somebody changes them; each change is a revision with its reason", async () => {
    const lead = await (await fresh()).as("lead");
    expect((await rulesOf(lead)).now).toMatchObject({ revision: 0, values: {} });
    expect((await change(lead, 0, { "heater.openAt": 35 })).statusCode).toBe(200);
    const { now, before } = await rulesOf(lead);
    expect(now).toMatchObject({
      revision: 1,
      values: { "heater.openAt": 35 },
      by: "L. Ead",
      why: "it froze last year",
    });
    expect(before.map((r) => r.revision)).toEqual([1, 0]);
  });

  it("sent twice are one revision; made from an older one they are refused, and nothing is changed", async () => {
    const lead = await (await fresh()).as("lead");
    const payload = { id: randomUUID(), basedOn: 0, why: "why", values: { "frost.margin": 3 } };
    for (let i = 0; i < 2; i++)
      expect((await lead({ method: "POST", url: "/api/rules", payload })).statusCode).toBe(200);
    const late = await change(lead, 0, { "frost.margin": 9 });
    expect(late.statusCode).toBe(409);
    expect(problemOf(late)).toContain("changed the rules since");
    expect((await rulesOf(lead)).now).toMatchObject({ revision: 1, values: { "frost.margin": 3 } });
  });

  it.each([
    [{ "heater.openAt": 80 }],
    [{ "air.ceiling": 9e5 }],
    [{ "no.such": 1 }],
    [{ "frost.basis": "hope" }],
    [{ "supply.low": 340_000, "supply.good": 280_000 }],
    [{ "sanitize.soak": 86_400, "sanitize.latest": 3600 }],
  ])("that cannot be are refused: %j", async (values) => {
    const lead = await (await fresh()).as("lead");
    expect((await change(lead, 0, values)).statusCode).toBe(400);
    expect((await rulesOf(lead)).now.revision).toBe(0);
  });

  it("are the lead's to change", async () => {
    const technician = await (await fresh()).as("technician");
    expect((await change(technician, 0, { "frost.margin": 1 })).statusCode).toBe(403);
  });

  it("once kept are never changed, not even in the database", async () => {
    const workshop = await fresh();
    await change(await workshop.as("lead"), 0, { "frost.margin": 3 });
    await expect(
      server.database.db.execute(`update rule_revisions set "values" = '{}'`),
    ).rejects.toThrow();
  });
});

describe("a run", () => {
  it("keeps the rules of its day, whatever becomes of them", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    await change(lead, 0, { "heater.openAt": 35, "frost.margin": 3 });
    const rules = { revision: 1, values: { "heater.openAt": 35, "frost.margin": 3 } };
    const begun = await begin(lead, workshop.unitId, setupBy(rules, { from: "x", celsius: -18 }));
    expect(begun.statusCode).toBe(201);
    await change(lead, 1, { "heater.openAt": 45 });
    const { id } = begun.json<{ id: string }>();
    const { setup } = (await lead({ url: `/api/runs/${id}` })).json<{
      setup: ReturnType<typeof setupBy>;
    }>();
    expect(setup.house?.openAtC).toBe(35);
    expect(setup.rules).toMatchObject({ revision: 1, departures: [] });
    expect(setup.rules?.values["heater.openAt"]).toBe(35);
  });

  it("planned by rules that have changed since is refused until it was looked at again", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    await change(lead, 0, { "frost.margin": 3 });
    const old = setupBy({ revision: 0, values: {} }, { from: "x", celsius: -18 });
    const reply = await begin(lead, workshop.unitId, old);
    expect(reply.statusCode).toBe(409);
    expect(problemOf(reply)).toContain("Look at the plan again");
  });

  it("that departs from them asks why, and keeps name and reason of whoever is signed in", async () => {
    const workshop = await fresh();
    const technician = await workshop.as("technician");
    const house = setupBy({ revision: 0, values: {} }, { from: "x", celsius: -18 });
    const warmer = { ...house, winterLowC: -8 };
    const refused = await begin(technician, workshop.unitId, warmer);
    expect(refused.statusCode).toBe(400);
    expect(problemOf(refused)).toContain("−18 °C");
    const begun = await begin(technician, workshop.unitId, {
      ...warmer,
      rules: {
        ...house.rules,
        departures: [{ key: "winterLow", name: "Somebody Else", reason: "a heated hall" }],
      },
    });
    expect(begun.json<{ setup: unknown }>().setup).toMatchObject({
      winterLowC: -8,
      rules: {
        departures: [{ key: "winterLow", name: "T. Ech", reason: "a heated hall" }],
      },
    });
  });

  it("of a device of before is told where it departed", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    const begun = await begin(lead, workshop.unitId, { ...SETUP, marginC: 1 });
    expect(begun.json<{ setup: { rules: unknown } }>().setup.rules).toMatchObject({
      departures: [{ key: "frost.margin", name: "L. Ead" }],
    });
  });
});

const yard = (more: object = {}) => ({
  id: randomUUID(),
  name: "Upper yard",
  kind: "yard",
  winterLowC: -22,
  ...more,
});
const addPlace = (by: Person, payload: object) =>
  by({ method: "POST", url: "/api/places", payload });

describe("places", () => {
  it("set the winter low of the plans of what stands there", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    const payload = yard({ firstFrost: "10-14", heightM: 180 });
    expect((await addPlace(lead, payload)).statusCode).toBe(200);
    const unit = (
      await lead({
        method: "PATCH",
        url: `/api/units/${workshop.unitId}`,
        payload: { placeId: payload.id },
      })
    ).json<Unit>();
    expect(unit.place).toEqual({ placeId: payload.id, name: "Upper yard", winterLowC: -22 });
    const own = setupBy({ revision: 0, values: {} }, { from: "x", celsius: -18 });
    expect((await begin(lead, workshop.unitId, own)).statusCode).toBe(409);
    const here = setupBy({ revision: 0, values: {} }, { from: "Upper yard", celsius: -22 });
    const begun = await begin(lead, workshop.unitId, here);
    expect(begun.json<{ setup: { rules: unknown } }>().setup.rules).toMatchObject({
      winterLow: { from: "Upper yard", celsius: -22 },
    });
  });

  it("are given up, not lost; two of one name are refused", async () => {
    const lead = await (await fresh()).as("lead");
    const payload = yard();
    await addPlace(lead, payload);
    expect((await addPlace(lead, yard({ name: "upper YARD" }))).statusCode).toBe(409);
    const given = await lead({
      method: "PATCH",
      url: `/api/places/${payload.id}`,
      payload: { givenUp: true },
    });
    expect(given.json<{ places: Place[] }>().places).toMatchObject([
      { name: "Upper yard", givenUp: true, units: 0 },
    ]);
  });

  it.each([[{ winterLowC: 4 }], [{ winterLowC: -80 }], [{ firstFrost: "13-40" }], [{ name: "" }]])(
    "that cannot be are refused: %j",
    async (more) => {
      const lead = await (await fresh()).as("lead");
      expect((await addPlace(lead, yard(more))).statusCode).toBe(400);
    },
  );

  it("are the lead's to change, and nobody's of another workshop", async () => {
    const [home, other] = [await fresh(), await fresh()];
    expect((await addPlace(await home.as("desk"), yard())).statusCode).toBe(403);
    const theirs = yard();
    await addPlace(await other.as("lead"), theirs);
    const stolen = await (
      await home.as("lead")
    )({
      method: "PATCH",
      url: `/api/units/${home.unitId}`,
      payload: { placeId: theirs.id },
    });
    expect(stolen.statusCode).toBe(404);
  });
});

const GLYCOL = { kind: "antifreeze", base: "propylene-glycol", strength: 0.5, jugsM3: [0.005] };
const addKit = (by: Person, name: string, facts: object) =>
  by({ method: "POST", url: "/api/kit", payload: { id: randomUUID(), name, facts } });

describe("the kit", () => {
  it("takes what may go into drinking water, and refuses the rest in words", async () => {
    const technician = await (await fresh()).as("technician");
    expect((await addKit(technician, "Pink", GLYCOL)).statusCode).toBe(200);
    for (const [base, words] of [
      ["ethylene-glycol", "poison"],
      ["unknown", "Read the label first"],
    ] as const) {
      const reply = await addKit(technician, "Blue", { ...GLYCOL, base });
      expect(reply.statusCode).toBe(400);
      expect(reply.body).toContain(words);
    }
    const list = (await technician({ url: "/api/kit" })).json<{ kit: KitItem[] }>().kit;
    expect(list.map((k) => k.name)).toEqual(["Pink"]);
  });

  it("warns of alcohol, and of a bottle opened longer ago than the rules allow", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    await addKit(lead, "Blend", { ...GLYCOL, base: "alcohol" });
    const opened = new Date(Date.now() - 150 * 86_400_000).toISOString().slice(0, 10);
    await addKit(lead, "Bleach", { kind: "bleach", strength: 0.06, openedOn: opened });
    const warned = async (): Promise<Record<string, string[]>> =>
      Object.fromEntries(
        (await lead({ url: "/api/kit" }))
          .json<{ kit: KitItem[] }>()
          .kit.map((k) => [k.name, k.warnings]),
      );
    expect((await warned())["Blend"]?.[0]).toContain("rubber seals");
    expect((await warned())["Bleach"]).toEqual([]);
    await change(lead, 0, { "bleach.age": 3 });
    expect((await warned())["Bleach"]?.[0]).toContain("lost strength");
  });

  it("is counted, less what closed runs used of it, and says what is to be bought", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    const id = randomUUID();
    await lead({
      method: "POST",
      url: "/api/kit",
      payload: { id, name: SETUP.product.name, here: 10, least: 9, facts: GLYCOL },
    });
    const item = async () =>
      (await lead({ url: "/api/kit" })).json<{ kit: KitItem[] }>().kit.find((k) => k.id === id);
    expect(await item()).toMatchObject({ here: 10, warnings: [] });
    await takeFromKit(
      scopeFor(server.database.db, workshop.id),
      { name: SETUP.product.name, jugM3: 0.005 },
      0.0079,
    );
    const left = await item();
    expect(left?.here).toBeCloseTo(8.42, 5);
    expect(left?.warnings).toEqual(["8.4 here, fewer than 9: to be bought."]);
    await takeFromKit(
      scopeFor(server.database.db, workshop.id),
      { name: "Another", jugM3: 0.005 },
      0.1,
    );
    expect((await item())?.here).toBeCloseTo(8.42, 5);
  });

  it("is changed by kind: a bottle does not become a gauge", async () => {
    const lead = await (await fresh()).as("lead");
    const [item] = (await addKit(lead, "Pink", GLYCOL)).json<{ kit: KitItem[] }>().kit;
    const reply = await lead({
      method: "PATCH",
      url: `/api/kit/${item?.id}`,
      payload: { facts: { kind: "socket", size: "27 mm" } },
    });
    expect(reply.statusCode).toBe(409);
  });
});

const waitingOf = async (by: Person): Promise<Waiting> =>
  (await by({ url: "/api/waiting" })).json();
const answer = (by: Person, id: string | undefined, how: string) =>
  by({ method: "POST", url: `/api/waiting/${id}`, payload: { answer: how } });

describe("where the rules say so", () => {
  it("a change of them waits for somebody else, and nobody countersigns their own", async () => {
    const workshop = await fresh();
    const [lead, owner] = [await workshop.as("lead"), await workshop.as("owner")];
    await change(lead, 0, { "countersign.rules": "yes" });
    const asked = await change(lead, 1, { "countersign.rules": "yes", "frost.margin": 2 }, "less");
    expect(asked.json<RulesChanged>()).toMatchObject({ waits: true, now: { revision: 1 } });
    const [waits] = (await waitingOf(owner)).proposals;
    expect(waits?.what).toContain("less");
    expect((await answer(lead, waits?.id, "countersign")).statusCode).toBe(403);
    expect((await answer(await workshop.as("technician"), waits?.id, "withdraw")).statusCode).toBe(
      403,
    );
    expect((await answer(owner, waits?.id, "countersign")).statusCode).toBe(200);
    expect((await rulesOf(lead)).now).toMatchObject({
      revision: 2,
      by: "L. Ead",
      countersignedBy: "O. Wner",
      values: { "frost.margin": 2 },
    });
    expect((await waitingOf(lead)).proposals).toEqual([]);
    expect((await answer(owner, waits?.id, "countersign")).statusCode).toBe(409);
  });

  it("units are put together only when somebody else has countersigned it", async () => {
    const workshop = await fresh();
    const [lead, technician] = [await workshop.as("lead"), await workshop.as("technician")];
    await change(lead, 0, { "countersign.merges": "yes" });
    const { document } = (await lead({ url: `/api/units/${workshop.unitId}/map` })).json<{
      document: unknown;
    }>();
    const double = randomUUID();
    await lead({
      method: "POST",
      url: "/api/units",
      payload: { id: double, name: "Double", craft: "boat", owner: "Owner", document },
    });
    const merge = () =>
      technician({
        method: "POST",
        url: `/api/units/${workshop.unitId}/merge`,
        payload: { double },
      });
    for (let i = 0; i < 2; i++) {
      const reply = await merge();
      expect(reply.statusCode).toBe(409);
      expect(reply.json<{ error: { code: string } }>().error.code).toBe("waits");
    }
    const { proposals } = await waitingOf(lead);
    expect(proposals).toHaveLength(1);
    expect((await lead({ url: `/api/units/${double}` })).json<Unit>().name).toBe("Double");
    expect((await answer(lead, proposals[0]?.id, "countersign")).statusCode).toBe(200);
    const all = (await lead({ url: "/api/units" })).json<{ units: Unit[] }>().units;
    expect(all.map((u) => u.id)).toEqual([workshop.unitId]);
  });

  it("nobody shuts a workshop in which only they could countersign", async () => {
    const workshop = await fresh();
    const lead = await workshop.as("lead");
    const { people } = (await lead({ url: "/api/people" })).json<{
      people: { id: string; role: string }[];
    }>();
    const owner = people.find((p) => p.role === "owner");
    const leave = { url: `/api/people/${owner?.id}`, payload: { left: true } };
    await (
      await workshop.as("owner")
    )({ method: "PATCH", ...leave });
    const reply = await change(lead, 0, { "countersign.rules": "yes" });
    expect(reply.statusCode).toBe(409);
    expect(problemOf(reply)).toContain("Only one person here");
  });
});
