import type { EditionLine, OwnerLink, Picture, ReportData, Visit } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ownerLinks } from "../schema/index.ts";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { testPicture } from "../testing/files.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let visit: Visit;
let picture: Picture;
let elsewhere: Picture;
const AT = "2026-10-14T09:00:00.000Z";

beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
  const post = async <T>(url: string, payload: object): Promise<T> =>
    (await me({ method: "POST", url: `/api${url}`, payload })).json<T>();
  visit = await post<Visit>("/visits", {
    id: randomUUID(),
    unitId: home.unitId,
    startsAt: AT,
    minutes: 60,
    asked: "Walk-round",
    ownerSaid: "Pump runs on.",
  });
  const finding = randomUUID();
  await post(`/units/${home.unitId}/findings/${finding}`, {
    id: finding,
    at: AT,
    visitId: visit.id,
    mapRevision: 1,
    body: {
      type: "found",
      what: "Pump weeps at its head",
      severity: "unsafe",
      partId: "pump",
      advice: "Renew the seal",
    },
  });
  await post(`/units/${home.unitId}/looks`, {
    looks: [
      {
        id: randomUUID(),
        key: "pump/mounts-firm",
        partId: "pump",
        pointId: "mounts-firm",
        point: "Mounts firm",
        mark: "good",
        at: AT,
        visitId: visit.id,
      },
    ],
  });
  const take = async (about: string, aboutId: string): Promise<Picture> =>
    (
      await me({
        method: "POST",
        url: `/api/units/${home.unitId}/pictures?id=${randomUUID()}&about=${about}&aboutId=${aboutId}&at=${AT}`,
        payload: await testPicture(),
        headers: { "content-type": "image/jpeg" },
      })
    ).json<Picture>();
  picture = await take("finding", finding);
  elsewhere = await take("unit", "unit");
});
afterAll(() => server.close());

const edition = async (): Promise<EditionLine> =>
  (
    await me({
      method: "POST",
      url: `/api/visits/${visit.id}/editions`,
      payload: { id: randomUUID(), how: "link" },
    })
  ).json<EditionLine>();
const link = async (): Promise<OwnerLink> => {
  const id = randomUUID();
  const payload = { id, editionId: (await edition()).id, days: 30 };
  const reply = await me({ method: "POST", url: `/api/visits/${visit.id}/links`, payload });
  const made = reply.json<{ links: OwnerLink[] }>().links.find((l) => l.id === id);
  if (!made?.path) throw new Error("no link");
  return made;
};
/** As an owner: no cookie at all. */
const open = (path: string) => server.app.inject({ url: `/api${path}` });

describe("a visit's report", () => {
  it("has what was looked at, what was found and its pictures", async () => {
    const data = (await me({ url: `/api/visits/${visit.id}/report` })).json<ReportData>();
    expect(data.looks.map((l) => l.point)).toEqual(["Mounts firm"]);
    expect(data.findings.map((f) => [f.what, f.entries.length])).toEqual([
      ["Pump weeps at its head", 1],
    ]);
    expect(data.pictures.map((p) => p.id)).toEqual([picture.id]);
  });

  it("is a PDF file with the finding's words in it, and its picture", async () => {
    const reply = await me({ url: `/api/editions/${(await edition()).id}/report.pdf` });
    expect(reply.headers["content-type"]).toBe("application/pdf");
    expect(reply.rawPayload.subarray(0, 5).toString()).toBe("%PDF-");
    // One picture of the finding, one of the map.
    expect(
      reply.rawPayload.toString("latin1").match(/\/Subtype \/Image/gu)?.length,
    ).toBeGreaterThanOrEqual(2);
  });
});

describe("an owner's link", () => {
  it("opens without sign-in, shows that one visit and nothing that was said inside the house", async () => {
    const { path } = await link();
    const data = (await open(path ?? "")).json<ReportData>();
    expect(data.visit.id).toBe(visit.id);
    expect(data.findings[0]).toMatchObject({ what: "Pump weeps at its head", entries: [] });
    expect((await open(`${path}/pictures/${picture.id}`)).headers["content-type"]).toBe(
      "image/jpeg",
    );
    // A picture of the same unit that the report does not show.
    expect((await open(`${path}/pictures/${elsewhere.id}`)).statusCode).toBe(404);
    expect((await open(`${path}/report.pdf`)).headers["content-type"]).toBe("application/pdf");
    // It opens nothing else.
    expect((await open(`/units/${home.unitId}`)).statusCode).toBe(401);
  });

  it("opens nothing when it is withdrawn, over, or changed by a letter", async () => {
    const made = await link();
    const path = made.path ?? "";
    const [head = "", signature = ""] = path.split(".");
    for (const other of [
      `${head}.${signature.slice(0, -2)}xx`,
      head,
      `${head}.${signature}.x`,
      "/owner/AAAAAAAAAAAAAAAAAAAAAA.x",
    ])
      expect((await open(other)).statusCode, other).toBe(410);
    const later = await link();
    // An end moved in the database no longer fits the signature, and an end that is past is past.
    await server.database.db
      .update(ownerLinks)
      .set({ expiresAt: new Date("2020-01-01") })
      .where(eq(ownerLinks.id, later.id));
    expect((await open(later.path ?? "")).statusCode).toBe(410);
    expect((await open(path)).statusCode).toBe(200);
    const after = await me({ method: "POST", url: `/api/links/${made.id}/withdraw` });
    expect(after.json<{ links: OwnerLink[] }>().links.find((l) => l.id === made.id)).toMatchObject({
      path: null,
    });
    for (const part of ["", `/pictures/${picture.id}`, "/report.pdf"])
      expect((await open(path + part)).statusCode).toBe(410);
  });
});

describe("readings and the spring look", () => {
  it("readings are kept once, those of a look with it, newest first", async () => {
    const id = randomUUID();
    const one = {
      id,
      spot: "supply",
      kind: "still",
      label: "Supply, still",
      dimension: "pressure",
      value: 4e5,
      typed: "4 bar",
      at: AT,
    };
    const post = () =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/readings`,
        payload: { readings: [one] },
      });
    await post();
    await post();
    const look = {
      id: randomUUID(),
      key: "acc/precharge-with-the-water-pressure-at-zero",
      partId: "acc",
      pointId: "precharge-with-the-water-pressure-at-zero",
      point: "Precharge with the water pressure at zero",
      mark: "good",
    };
    await me({
      method: "POST",
      url: `/api/units/${home.unitId}/looks`,
      payload: { looks: [{ ...look, readings: [1.9e5], at: "2026-10-15T09:00:00.000Z" }] },
    });
    const got = (await me({ url: `/api/units/${home.unitId}/readings` })).json<{
      readings: { key: string; value: number }[];
    }>();
    expect(got.readings.map((r) => [r.key, r.value])).toEqual([
      ["acc/precharge-with-the-water-pressure-at-zero/pressure", 1.9e5],
      ["unit/supply/still", 4e5],
    ]);
  });

  it("the spring look takes pass, fail and not looked at, and knows its list", async () => {
    const mark = (item: string, to: string, at = AT) =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/spring`,
        payload: { id: randomUUID(), item, mark: to, at },
      });
    await mark("battery", "fail");
    const reply = await mark("battery", "pass", "2026-10-15T09:00:00.000Z");
    expect(reply.json<{ looks: { item: string; mark: string }[] }>().looks).toMatchObject([
      { item: "battery", mark: "pass" },
    ]);
    expect((await mark("engine", "pass")).statusCode).toBe(422);
    expect((await mark("battery", "good")).statusCode).toBe(400);
  });
});
