import type { EditionLine, OwnerLink, Picture, ReportData, Visit } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { demoWinterizing } from "../demo/winterizing.ts";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { testPicture } from "../testing/files.ts";
import { reportPdf } from "./pdf.ts";

/** A report is a paper of its day. */

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let visitId: string;
const AT = "2026-10-14T09:00:00.000Z";

beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  home = await server.workshop(randomUUID());
  me = await home.as("technician");
  visitId = randomUUID();
  await post("/visits", {
    id: visitId,
    unitId: home.unitId,
    startsAt: AT,
    minutes: 60,
    asked: "Walk-round",
  });
  await find("Pump weeps at its head", "wears");
});

const post = async <T = unknown>(url: string, payload: object): Promise<T> => {
  const reply = await me({ method: "POST", url: `/api${url}`, payload });
  // On a slow machine whoever waits is told to come again.
  if (reply.statusCode === 503) return post(url, payload);
  if (reply.statusCode >= 300) throw new Error(`${url}: ${reply.body}`);
  return reply.json<T>();
};
const get = async <T>(url: string): Promise<T> => (await me({ url: `/api${url}` })).json<T>();
const find = async (what: string, severity: string, at = AT): Promise<string> => {
  const id = randomUUID();
  const body = { type: "found", what, severity, partId: "pump" };
  await post(`/units/${home.unitId}/findings/${id}`, { id, at, visitId, mapRevision: 1, body });
  return id;
};
const take = async (about: string): Promise<Picture> =>
  (
    await me({
      method: "POST",
      url: `/api/units/${home.unitId}/pictures?id=${randomUUID()}&${about}&at=${AT}`,
      payload: await testPicture(),
      headers: { "content-type": "image/jpeg" },
    })
  ).json<Picture>();
const hand = (how: EditionLine["how"] = "pdf", id = randomUUID()): Promise<EditionLine> =>
  post(`/visits/${visitId}/editions`, { id, how });
const whatIn = (data: ReportData): string[] => data.findings.map((f) => f.what).toSorted();

describe("a report that was handed over", () => {
  it("says for ever what it said then; what comes later is in the next edition", async () => {
    const first = await hand();
    const then = await get<ReportData>(`/editions/${first.id}`);
    await find("Relief valve passes", "unsafe");
    await me({ method: "PATCH", url: `/api/units/${home.unitId}`, payload: { name: "Renamed" } });
    expect(await get(`/editions/${first.id}`)).toEqual(then);
    expect(whatIn(then)).toEqual(["Pump weeps at its head"]);
    const second = await hand();
    expect([first.number, second.number]).toEqual([1, 2]);
    expect(whatIn(await get<ReportData>(`/editions/${second.id}`))).toEqual([
      "Pump weeps at its head",
      "Relief valve passes",
    ]);
    expect(
      (await get<{ editions: EditionLine[] }>(`/visits/${visitId}/editions`)).editions.map(
        (e) => e.number,
      ),
    ).toEqual([2, 1]);
  });

  it("tells the winterizing of its visit once that is signed, in the words of its day, on screen and paper", async () => {
    const runId = randomUUID();
    await post("/runs", {
      id: runId,
      unitId: home.unitId,
      visitId,
      mapRevision: 1,
      setup: SETUP,
    });
    expect((await get<ReportData>(`/visits/${visitId}/report`)).winterizing).toBeNull();
    const map = EXAMPLE_MAPS[2];
    if (!map) throw new Error("no map");
    const by = { id: randomUUID(), name: "T. Ech", role: "technician" };
    const done = demoWinterizing(map, SETUP, runId, by, new Date(AT));
    await post(`/runs/${runId}/events`, {
      form: 2,
      events: done.map(({ by: _by, ...event }) => event),
    });
    // A picture of how it is left stands in the report and on the paper; one of another run does not.
    const left = await take(`about=run&aboutId=${runId}`);
    await take(`about=run&aboutId=${randomUUID()}`);
    const { winterizing, pictures } = await get<ReportData>(`/visits/${visitId}/report`);
    expect(pictures.map((p) => p.id)).toEqual([left.id]);
    expect(winterizing?.sections.map((s) => s.title)).toEqual(
      expect.arrayContaining(["What was done", "What was read", "What spring owes"]),
    );
    const edition = await hand();
    const data = await get<ReportData>(`/editions/${edition.id}`);
    expect(data.winterizing).toEqual(winterizing);
    const asked: string[] = [];
    const pdf = await reportPdf(data, (id) => {
      asked.push(id);
      return testPicture();
    });
    expect(asked).toEqual([left.id]);
    expect(Buffer.from(pdf).subarray(0, 4).toString()).toBe("%PDF");
    const without = await reportPdf({ ...data, winterizing: null }, () =>
      Promise.reject(new Error("no picture")),
    );
    expect(pdf.length).toBeGreaterThan(without.length);
  });

  it("is the same edition while nothing has changed, however often and by whatever way it is handed over", async () => {
    const id = randomUUID();
    const [first, again, printed] = [
      await hand("pdf", id),
      await hand("pdf", id),
      await hand("print"),
    ];
    expect([again.id, printed.id]).toEqual([first.id, first.id]);
  });

  it("is made once by many presses at once", async () => {
    const all = await Promise.all(Array.from({ length: 6 }, () => hand()));
    expect(new Set(all.map((e) => e.id)).size).toBe(1);
  });

  it("keeps its marks on pictures, however the picture is marked later", async () => {
    const finding = await find("Cap missing", "note");
    const { id } = await take(`about=finding&aboutId=${finding}`);
    const first = await hand();
    const marks = [{ kind: "ring", x: 0.5, y: 0.5, r: 0.2 }];
    await me({ method: "PATCH", url: `/api/pictures/${id}`, payload: { marks, caption: "here" } });
    expect((await get<ReportData>(`/editions/${first.id}`)).pictures[0]).toMatchObject({
      marks: [],
      caption: "",
    });
    expect((await get<ReportData>(`/visits/${visitId}/report`)).pictures[0]).toMatchObject({
      marks,
      caption: "here",
    });
  });

  it("cannot be changed in the database", async () => {
    const { id } = await hand();
    const change = server.database.db.execute(
      `update report_editions set data = '{}' where id = '${id}'`,
    );
    await expect(change).rejects.toThrow();
  });

  it("of a visit that has gone knows nothing that came after, handed over or not", async () => {
    const gone = await me({
      method: "PATCH",
      url: `/api/visits/${visitId}`,
      payload: { state: "gone" },
    });
    const { goneAt } = gone.json<Visit>();
    const { editions } = await get<{ editions: EditionLine[] }>(`/visits/${visitId}/editions`);
    expect(editions).toMatchObject([{ number: 1, how: "gone" }]);
    const later = new Date(Date.parse(goneAt ?? "") + 60_000).toISOString();
    await find("Relief valve passes", "unsafe", later);
    await post(`/units/${home.unitId}/notes`, { id: randomUUID(), text: "later" });
    // Found later, but learnt of by the server before its hour: by the server's clock it came after.
    const now = await get<ReportData>(`/visits/${visitId}/report`);
    expect(whatIn(now)).toEqual(["Pump weeps at its head"]);
    expect(now.asOf).toBe(goneAt);
  });
});

describe("an owner's link", () => {
  const link = async (editionId: string): Promise<OwnerLink> => {
    const id = randomUUID();
    const { links } = await post<{ links: OwnerLink[] }>(`/visits/${visitId}/links`, {
      id,
      editionId,
      days: 30,
    });
    const made = links.find((l) => l.id === id);
    if (!made) throw new Error("no link");
    return made;
  };
  const open = async (made: OwnerLink): Promise<ReportData> =>
    (await server.app.inject({ url: `/api${made.path}` })).json<ReportData>();

  it("shows the edition that it was made for, whatever was found since", async () => {
    const made = await link((await hand("link")).id);
    await find("Relief valve passes", "unsafe");
    await hand();
    expect(whatIn(await open(made))).toEqual(["Pump weeps at its head"]);
  });

  it("stays with the owner that it was made for when the unit is sold", async () => {
    const made = await link((await hand("link")).id);
    const buyer = await post<{ id: string }>("/customers", {
      id: randomUUID(),
      name: "N. Ewowner",
    });
    await me({
      method: "PATCH",
      url: `/api/units/${home.unitId}`,
      payload: { customerId: buyer.id },
    });
    const seen = await open(made);
    expect(seen.unit.owner).toBe("Owner");
    expect(JSON.stringify(seen)).not.toContain("N. Ewowner");
    const { links } = await get<{ links: OwnerLink[] }>(`/visits/${visitId}/links`);
    expect(links.map((l) => [l.owner, l.edition])).toEqual([["Owner", 1]]);
  });

  it("made twice is one, and none is made for another visit's edition", async () => {
    const { id: editionId } = await hand("link");
    const payload = { id: randomUUID(), editionId, days: 30 };
    await post(`/visits/${visitId}/links`, payload);
    expect(
      (await post<{ links: OwnerLink[] }>(`/visits/${visitId}/links`, payload)).links,
    ).toHaveLength(1);
    const other = randomUUID();
    await post("/visits", {
      id: other,
      unitId: home.unitId,
      startsAt: AT,
      minutes: 60,
      asked: "Look",
    });
    const reply = await me({
      method: "POST",
      url: `/api/visits/${other}/links`,
      payload: { ...payload, id: randomUUID() },
    });
    expect(reply.statusCode).toBe(404);
  });
});

describe("what a browser may keep", () => {
  it("of pictures and papers it asks each time, and gets them again only while it may", async () => {
    const { id } = await hand();
    const first = await me({ url: `/api/editions/${id}/report.pdf` });
    expect(first.headers).toMatchObject({
      "cache-control": "private, no-cache",
      vary: expect.stringContaining("cookie"),
    });
    const asking = { "if-none-match": String(first.headers["etag"]) };
    expect((await me({ url: `/api/editions/${id}/report.pdf`, headers: asking })).statusCode).toBe(
      304,
    );
    // Signed out, the same question is answered with nothing.
    expect(
      (await server.app.inject({ url: `/api/editions/${id}/report.pdf`, headers: asking }))
        .statusCode,
    ).toBe(401);
    const stranger = await (await server.workshop(randomUUID())).as("lead");
    expect(
      (await stranger({ url: `/api/editions/${id}/report.pdf`, headers: asking })).statusCode,
    ).toBe(404);
  });
});

describe("a PDF", () => {
  it("is made whatever letters people write: none of them is a failure", async () => {
    const edition = await get<ReportData>(`/editions/${(await hand()).id}`);
    const odd = [
      "ﬁ ligature ﷽ ﷺ",
      "שלום مرحبا עם",
      "👩‍🔧🛁🏴󠁧󠁢󠁳󠁣󠁴󠁿 🇬🇧",
      "e\u0301\u0302\u0303\u0304 z͑ͫ̓ͪ̂ͫ̽͏̴̙̤̞͉͚̯̞̠͍A̴̵̜̰͔ͫ͗͢L̠ͨͧͩ͘G",
      "\u202Eright to left\u202C \u200B\u200D\uFEFF\u2028\u2029",
      "\u0001\u0008\u001F\u007F\u0085 tab\tand\nline",
      "漢字かな交じり文 한국어 ไทย देवनागरी",
      "𝕬𝖓 old hand \u{10FFFD}\u{E000}",
      "{c:40} {m3:0.003} {pa:x} {} {{",
      " ".repeat(200),
      "W".repeat(300),
    ];
    for (const words of odd) {
      const [finding] = edition.findings;
      const look = {
        id: randomUUID(),
        key: "k",
        partId: null,
        pointId: "p",
        point: words,
        mark: "good" as const,
        note: words,
      };
      const data: ReportData = {
        ...edition,
        workshop: { ...edition.workshop, name: words, place: words },
        unit: { ...edition.unit, name: words, owner: words, craft: words, plate: words },
        visit: { ...edition.visit, asked: words, ownerSaid: words },
        looks: [{ ...look, readings: [], at: AT, by: words, visitId }],
        findings: finding
          ? [
              {
                ...finding,
                what: words,
                cause: words,
                advice: words,
                place: words,
                partsNeeded: words,
              },
            ]
          : [],
        report: {
          ...edition.report,
          places: [
            { place: words, lines: [{ name: words, point: words, mark: "good", note: words }] },
          ],
        },
      };
      const pdf = await reportPdf(data, () => Promise.reject(new Error("no picture")));
      expect(pdf.subarray(0, 5).toString(), words).toBe("%PDF-");
    }
  });
});
