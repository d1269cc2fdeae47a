import type { FindingOnFile } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
});
afterAll(() => server.close());

const AT = "2026-10-14T09:00:00.000Z";
const entry = async (finding: string, body: object, id = randomUUID()) =>
  me({ method: "POST", url: `/api/units/${home.unitId}/findings/${finding}`, payload: { id, at: AT, mapRevision: 1, body } });
const found = async (more: object = {}): Promise<string> => {
  const id = randomUUID();
  const reply = await entry(id, { type: "found", what: "Hose cracked", severity: "will-fail", ...more }, id);
  expect(reply.statusCode).toBe(201);
  return id;
};

describe("findings", () => {
  it("are told by their entries: found, changed, answered, mended with its proof", async () => {
    const id = await found({ partId: "pump", place: "bow", advice: "Renew it" });
    await entry(id, { type: "changed", severity: "unsafe", minutes: 30 });
    await entry(id, { type: "answered", answer: "do-it", who: "Owner, by phone" });
    const mended = await entry(id, { type: "mended", how: "New hose, two clips", proof: "ten minutes under pressure, dry" });
    const finding = mended.json<FindingOnFile>();
    expect(finding).toMatchObject({
      severity: "unsafe",
      minutes: 30,
      state: "mended",
      answer: { answer: "do-it", who: "Owner, by phone" },
      mended: { proof: "ten minutes under pressure, dry", by: "T. Ech" },
      foundBy: "T. Ech",
    });
    expect(finding.entries.map((e) => e.body.type)).toEqual(["found", "changed", "answered", "mended"]);
  });

  it("keep an entry sent twice once, and refuse what cannot be, with nothing changed", async () => {
    const id = await found({ severity: "unsafe" });
    const twice = randomUUID();
    await entry(id, { type: "answered", answer: "no", who: "Owner" }, twice);
    const again = await entry(id, { type: "answered", answer: "no", who: "Owner" }, twice);
    expect(again.json<FindingOnFile>().entries).toHaveLength(2);
    expect((await entry(id, { type: "found", what: "again", severity: "note" })).statusCode).toBe(409);
    expect((await entry(id, { type: "reopened", why: "x" })).statusCode).toBe(409);
    expect((await entry(id, { type: "mended", how: "glue", proof: "" })).statusCode).toBe(400);
    expect((await entry(randomUUID(), { type: "mended", how: "a", proof: "b" })).statusCode).toBe(409);
    await expect(server.database.db.execute("update finding_entries set position = 9")).rejects.toThrow();
  });

  it("that are unsafe are not accepted before the owner has said no, and stay on the unit's sheets after it", async () => {
    const id = await found({ severity: "unsafe", what: "Flue blocked" });
    expect((await entry(id, { type: "accepted", why: "later" })).statusCode).toBe(409);
    await entry(id, { type: "answered", answer: "no", who: "Owner" });
    expect((await entry(id, { type: "accepted", why: "owner will not" })).statusCode).toBe(201);
    const open = await me({ url: `/api/findings?state=open&find=flue&unit=${home.unitId}` });
    expect(open.json<{ findings: FindingOnFile[] }>().findings.map((f) => f.id)).toEqual([id]);
    const unit = (await me({ url: `/api/units/${home.unitId}` })).json<{ unsafe: boolean }>();
    expect(unit.unsafe).toBe(true);
  });

  it("come most urgent first", async () => {
    await found({ severity: "note", what: "Scratch" });
    const all = (await me({ url: `/api/units/${home.unitId}/findings` })).json<{ findings: FindingOnFile[] }>().findings;
    const order = ["unsafe", "will-fail", "wears", "note"];
    const ranks = all.map((f) => order.indexOf(f.severity));
    expect(ranks).toEqual(ranks.toSorted((a, b) => a - b));
    expect(new Set(ranks).size).toBeGreaterThan(1);
  });
});
