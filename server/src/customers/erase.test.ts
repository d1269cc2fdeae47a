import type { Customer, FindingOnFile, ReportData, Unit } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
});
afterAll(() => server.close());

const NAME = "Quennell of the Lower Lock";

/** A customer with a unit, a visit, an answer, a report handed over and a link to it. */
const customer = async () => {
  const lead = await home.as("lead");
  const post = (url: string, payload: object) => lead({ method: "POST", url, payload });
  const id = randomUUID();
  await post("/api/customers", { id, name: NAME, phone: "0555 77", email: "q@example.org" });
  const { document } = (await lead({ url: `/api/units/${home.unitId}/map` })).json<{
    document: unknown;
  }>();
  const unitId = randomUUID();
  await post("/api/units", {
    id: unitId,
    name: "Sedge",
    craft: "boat",
    owner: NAME,
    customerId: id,
    document,
  });
  const visitId = randomUUID();
  await post("/api/visits", {
    id: visitId,
    unitId,
    startsAt: new Date().toISOString(),
    minutes: 60,
    asked: "Winterize",
    ownerSaid: `${NAME} says it leaks`,
  });
  const findingId = randomUUID();
  const say = (body: object) =>
    post(`/api/units/${unitId}/findings/${findingId}`, {
      id: randomUUID(),
      at: new Date().toISOString(),
      mapRevision: 1,
      visitId,
      body,
    });
  await say({ type: "found", what: "Weeps", severity: "wears" });
  await say({ type: "answered", answer: "later", who: NAME });
  const editionId = randomUUID();
  await post(`/api/visits/${visitId}/editions`, { id: editionId, how: "link" });
  const links = (await post(`/api/visits/${visitId}/links`, { id: randomUUID(), editionId })).json<{
    links: { path: string }[];
  }>().links;
  await post("/api/runs", {
    id: randomUUID(),
    unitId,
    visitId: null,
    mapRevision: 1,
    setup: SETUP,
  });
  return { lead, id, unitId, visitId, editionId, path: links[0]?.path ?? "" };
};

const erase = (by: Awaited<ReturnType<TestWorkshop["as"]>>, id: string, name: string) =>
  by({ method: "POST", url: `/api/customers/${id}/erase`, payload: { name } });

describe("a customer who is erased", () => {
  it("is nowhere any more as a person, and the units' technical record stays", async () => {
    const { lead, id, unitId, visitId, editionId, path } = await customer();
    expect((await server.app.inject(`/api${path}`)).statusCode).toBe(200);
    expect((await erase(lead, id, NAME)).json<Customer>()).toMatchObject({
      name: "erased on request",
      phone: "",
      email: "",
      units: [{ name: "Sedge" }],
    });
    const edition = await lead({ url: `/api/editions/${editionId}` });
    expect(edition.json<ReportData>()).toMatchObject({
      unit: { name: "Sedge", owner: "erased on request" },
      findings: [{ what: "Weeps", answer: { answer: "later", who: "erased on request" } }],
    });
    const { findings } = (await lead({ url: `/api/units/${unitId}/findings` })).json<{
      findings: FindingOnFile[];
    }>();
    expect(findings).toMatchObject([{ what: "Weeps", answer: { who: "erased on request" } }]);
    expect((await lead({ url: `/api/units/${unitId}` })).json<Unit>().name).toBe("Sedge");
    expect(
      (await lead({ url: `/api/units/${unitId}/runs` })).json<{ runs: [] }>().runs,
    ).toHaveLength(1);
    expect((await server.app.inject(`/api${path}`)).statusCode).not.toBe(200);
    for (const url of [
      "/api/customers",
      "/api/units?find=quennell",
      `/api/visits/${visitId}`,
      `/api/visits/${visitId}/report`,
      "/api/register/csv",
    ])
      expect((await lead({ url })).body, url).not.toMatch(/quennell|0555 77/iu);
  });

  it("is named again by whoever erases, and is erased by nobody else", async () => {
    const { lead, id } = await customer();
    expect((await erase(lead, id, "Quennell")).statusCode).toBe(409);
    expect((await erase(await home.as("technician"), id, NAME)).statusCode).toBe(403);
    expect((await lead({ url: `/api/customers/${id}` })).json<Customer>().name).toBe(NAME);
  });

  it("leaves records that cannot be changed otherwise", async () => {
    const { editionId } = await customer();
    await expect(
      server.database.db.execute(
        `update report_editions set data = '{}' where id = '${editionId}'`,
      ),
    ).rejects.toThrow();
  });
});
