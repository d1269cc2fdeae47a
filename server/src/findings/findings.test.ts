import type { FindingOnFile } from "@uppershed/contract";
import { sql } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { findingEntries, parts } from "../schema/index.ts";
import { scopeFor } from "../scope.ts";
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
  me({
    method: "POST",
    url: `/api/units/${home.unitId}/findings/${finding}`,
    payload: { id, at: AT, mapRevision: 1, body },
  });
const found = async (more: object = {}): Promise<string> => {
  const id = randomUUID();
  const reply = await entry(
    id,
    { type: "found", what: "Hose cracked", severity: "will-fail", ...more },
    id,
  );
  expect(reply.statusCode).toBe(201);
  return id;
};

describe("findings", () => {
  it("are told by their entries: found, changed, answered, mended with its proof", async () => {
    const id = await found({ partId: "pump", place: "bow", advice: "Renew it" });
    await entry(id, { type: "changed", severity: "unsafe", minutes: 30 });
    await entry(id, { type: "answered", answer: "do-it", who: "Owner, by phone" });
    const mended = await entry(id, {
      type: "mended",
      how: "New hose, two clips",
      proof: "ten minutes under pressure, dry",
    });
    const finding = mended.json<FindingOnFile>();
    expect(finding).toMatchObject({
      severity: "unsafe",
      minutes: 30,
      state: "mended",
      answer: { answer: "do-it", who: "Owner, by phone" },
      mended: { proof: "ten minutes under pressure, dry", by: "T. Ech" },
      foundBy: "T. Ech",
    });
    expect(finding.entries.map((e) => e.body.type)).toEqual([
      "found",
      "changed",
      "answered",
      "mended",
    ]);
  });

  it("keep an entry sent twice once, and refuse what cannot be, with nothing changed", async () => {
    const id = await found({ severity: "unsafe" });
    const twice = randomUUID();
    await entry(id, { type: "answered", answer: "no", who: "Owner" }, twice);
    const again = await entry(id, { type: "answered", answer: "no", who: "Owner" }, twice);
    expect(again.json<FindingOnFile>().entries).toHaveLength(2);
    expect((await entry(id, { type: "found", what: "again", severity: "note" })).statusCode).toBe(
      409,
    );
    expect((await entry(id, { type: "reopened", why: "x" })).statusCode).toBe(409);
    expect((await entry(id, { type: "mended", how: "glue", proof: "" })).statusCode).toBe(400);
    expect((await entry(randomUUID(), { type: "mended", how: "a", proof: "b" })).statusCode).toBe(
      409,
    );
    await expect(
      server.database.db.execute("update finding_entries set position = 9"),
    ).rejects.toThrow();
  });

  it("with an entry that has no effect, or that cannot be read, stay in every list, with that entry and its reason", async () => {
    const id = await found({ what: "Odd" });
    const lost = await found({ what: "Lost" });
    const [again, strange] = [randomUUID(), randomUUID()];
    const person = (await me({ url: "/api/me" })).json<{ person: { id: string } }>().person.id;
    const add = (entryId: string, findingId: string, position: number, body: object) =>
      scopeFor(server.database.db, home.id).add(findingEntries, {
        id: entryId,
        findingId,
        personId: person,
        byName: "T. Ech",
        position,
        body: body as never,
        at: new Date(AT),
      });
    await add(again, id, 2, { type: "found", what: "twice", severity: "note" });
    await add(strange, id, 3, { type: "of a later day", how: 1 });
    const onlyStrange = randomUUID();
    await server.database.db.execute(sql`alter table finding_entries disable trigger all`);
    await server.database.db.execute(
      sql`update finding_entries set body = '{"type":"of a later day"}' where finding_id = ${lost}`,
    );
    await server.database.db.execute(sql`alter table finding_entries enable trigger all`);
    const { findings } = (await me({ url: `/api/findings?unit=${home.unitId}` })).json<{
      findings: FindingOnFile[];
    }>();
    const odd = findings.find((f) => f.id === id);
    expect(odd).toMatchObject({ what: "Odd", state: "open" });
    const listed = new Map(odd?.withoutEffect?.map((e) => [e.id, e.type]));
    expect(listed).toEqual(
      new Map([
        [again, "found"],
        [strange, "of a later day"],
      ]),
    );
    // Of one whose first entry cannot be read, its own row still tells what it was.
    expect(findings.find((f) => f.id === lost)).toMatchObject({
      what: "Lost",
      foundBy: "T. Ech",
      withoutEffect: [{ type: "of a later day" }],
    });
    // Work on it goes on.
    expect(
      (await entry(id, { type: "mended", how: "a", proof: "b" }, onlyStrange)).json<FindingOnFile>()
        .state,
    ).toBe("mended");
    expect(
      (await entry(lost, { type: "answered", answer: "later", who: "Owner" })).statusCode,
    ).toBe(201);
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

  it("say in the list what they touch, by what their part is on the unit's map", async () => {
    await server.database.db.insert(parts).values({
      workshopId: home.id,
      unitId: home.unitId,
      partId: "pump",
      kind: "diaphragm-pump",
      name: "Pump",
      onMap: true,
    });
    const [hot, nowhere] = [
      await found({ partId: "pump", what: "Weeps at its head", severity: "unsafe" }),
      await found({ what: "Smell in the bilge", severity: "note" }),
    ];
    const { findings } = (await me({ url: `/api/findings?unit=${home.unitId}` })).json<{
      findings: FindingOnFile[];
    }>();
    expect(findings.find((f) => f.id === hot)?.touches).toEqual(["people", "water"]);
    expect(findings.find((f) => f.id === nowhere)?.touches).toEqual([]);
  });

  it("come most urgent first", async () => {
    await found({ severity: "note", what: "Scratch" });
    const all = (await me({ url: `/api/units/${home.unitId}/findings` })).json<{
      findings: FindingOnFile[];
    }>().findings;
    const order = ["unsafe", "will-fail", "wears", "note"];
    const ranks = all.map((f) => order.indexOf(f.severity));
    expect(ranks).toEqual(ranks.toSorted((a, b) => a - b));
    expect(new Set(ranks).size).toBeGreaterThan(1);
  });
});
