import type { PressureTestOnFile, TestLine } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { instrumentsSchema, planTest, pressureSources, type TestBody } from "@uppershed/core/hold";
import { buildNetwork } from "@uppershed/core/watermap";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
const teasel = EXAMPLE_MAPS[0];
if (!teasel) throw new Error("no map");
const network = buildNetwork(teasel);
const gauge = { name: "Test gauge", stepPa: 700 };
const plan = planTest({
  network,
  target: { is: "pressure-side", source: pressureSources(network)[0]?.id ?? "" },
  by: "supply",
  gauge,
});
const begun = {
  type: "begun",
  plan,
  instruments: instrumentsSchema.parse({ gauge: { stepPa: gauge.stepPa } }),
  gauge: { name: gauge.name, certificate: "" },
  holdPoints: ["panel"],
  holdAt: [],
} as const satisfies TestBody;

beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
  const reply = await me({
    method: "POST",
    url: `/api/units/${home.unitId}/map`,
    payload: {
      basedOn: 1,
      why: "as it is",
      document: { ...teasel, id: home.unitId.slice(0, 20) },
    },
  });
  expect(reply.statusCode, reply.body).toBeLessThan(300);
});
afterAll(() => server.close());

// After the map was drawn: what is drawn later opens what was tested.
const at = (minutes: number): string => new Date(Date.now() + minutes * 60_000).toISOString();

const say = (testId: string, body: object, more: object = {}) =>
  me({
    method: "POST",
    url: `/api/units/${home.unitId}/tests/${testId}`,
    payload: {
      id: randomUUID(),
      at: at(1),
      mapRevision: 2,
      body,
      ...more,
    },
  });
const read = async (testId: string): Promise<PressureTestOnFile> =>
  (await me({ url: `/api/units/${home.unitId}/tests/${testId}` })).json<PressureTestOnFile>();
const list = async (): Promise<TestLine[]> =>
  (await me({ url: `/api/units/${home.unitId}/tests` })).json<{ tests: TestLine[] }>().tests;

describe("a pressure test", () => {
  it("is begun, read and signed, and stays as it was signed", async () => {
    const id = randomUUID();
    expect((await say(id, begun)).statusCode).toBe(201);
    expect((await list()).find((t) => t.id === id)?.outcome).toBe("running");
    const readings = [0, 600, 1200].map((atS) => ({ atS, pressurePa: 310_000 }));
    await say(id, {
      type: "readings",
      from: "file",
      beginsAt: at(1),
      readings,
    });
    const end = at(30);
    const concluded = {
      verdict: "tight",
      why: "It stands.",
      leak: { low: 0, mid: 0, high: 1e-9 },
      smallestDetectable: 1e-9,
      judge: "1",
    };
    const ended = await say(id, { type: "ended", name: "T. Ech", concluded }, { at: end });
    expect(ended.statusCode, ended.body).toBe(201);
    expect((await list()).find((t) => t.id === id)).toMatchObject({
      outcome: "tight",
      endedAt: end,
      openedSince: null,
      holdPoints: ["panel"],
      retestOf: null,
    });
    const late = await say(id, { type: "reading", reading: { pressurePa: 1 } });
    expect(late.statusCode).toBe(409);
    expect((await read(id)).entries).toHaveLength(3);
  });

  it("that was passed says when something of it was opened since", async () => {
    const id = randomUUID();
    await say(id, begun);
    await say(id, { type: "ended", name: "T. Ech", byEye: "tight" }, { at: at(90) });
    const finding = randomUUID();
    const mended = at(92);
    const part = plan.owners[0] ?? "";
    const find = (body: object, at: string, entry: string = randomUUID()) =>
      me({
        method: "POST",
        url: `/api/units/${home.unitId}/findings/${finding}`,
        payload: { id: entry, at, mapRevision: 2, body },
      });
    await find({ type: "found", what: "weeps", severity: "wears", partId: null }, at(91), finding);
    await find({ type: "mended", how: "new ring", proof: "eyes", undone: [part] }, mended);
    expect((await list()).find((t) => t.id === id)).toMatchObject({
      outcome: "tight",
      openedSince: mended,
    });
  });

  it("of a visit stands in its report, in words, as of its day", async () => {
    const made = await me({
      method: "POST",
      url: "/api/visits",
      payload: {
        id: randomUUID(),
        unitId: home.unitId,
        startsAt: at(0),
        minutes: 60,
        asked: "leak",
      },
    });
    expect(made.statusCode, made.body).toBe(201);
    const { id: visitId } = made.json<{ id: string }>();
    const id = randomUUID();
    await say(id, begun, { visitId });
    const concluded = {
      verdict: "leaking",
      why: "It fell.",
      leak: { low: 1e-8, mid: 2e-8, high: 3e-8 },
      smallestDetectable: 1e-9,
      judge: "1",
    };
    await say(id, { type: "ended", name: "T. Ech", concluded }, { visitId });
    const report = await me({ url: `/api/visits/${visitId}/report` });
    const { tests } = report.json<{ tests: { lines: string[] }[] }>();
    expect(tests.map((t) => t.lines.join(" "))).toEqual([
      expect.stringMatching(
        /: leaking\. It lost between \{m3:0\.00086\} a day and \{m3:0\.0026\} a day of water/u,
      ),
    ]);
  });

  it("has its certificate as a PDF file, another one with every entry, for its own workshop only", async () => {
    const id = randomUUID();
    await say(id, { ...begun, holdAt: [teasel.parts[0]?.id ?? ""] });
    const url = `/api/units/${home.unitId}/tests/${id}/certificate.pdf`;
    const first = await me({ url });
    expect(first.statusCode, first.body).toBe(200);
    expect(first.headers["content-type"]).toBe("application/pdf");
    expect(first.rawPayload.subarray(0, 5).toString()).toBe("%PDF-");
    const same = await me({ url, headers: { "if-none-match": String(first.headers.etag) } });
    expect(same.statusCode).toBe(304);
    await say(id, { type: "ended", name: "T. Ech", byEye: "tight" }, { at: at(90) });
    expect((await me({ url })).headers.etag).not.toBe(first.headers.etag);
    const away = await server.workshop("no papers");
    const them = await away.as("technician");
    expect((await them({ url })).statusCode).toBe(404);
    expect((await list()).find((t) => t.id === id)?.holdAt).toEqual([teasel.parts[0]?.id]);
  });

  it("sent twice is kept once", async () => {
    const id = randomUUID();
    const entry = { id: randomUUID() };
    await say(id, begun, entry);
    expect((await say(id, begun, entry)).statusCode).toBe(201);
    expect((await read(id)).entries).toHaveLength(1);
  });

  it.each([
    ["a plan that was refused", { ...begun, plan: { ...plan, refused: "no limit is known" } }, 409],
    ["something behind a panel that the map has not", { ...begun, holdAt: ["ghost"] }, 422],
    ["a part that the map has not", { ...begun, plan: { ...plan, owners: ["ghost"] } }, 422],
    ["a gauge below zero", { type: "reading", reading: { pressurePa: -5 } }, 400],
    [
      "a temperature of −400",
      { type: "reading", reading: { pressurePa: 5, temperatureC: -400 } },
      400,
    ],
    ["a field that is not known", { ...begun, colour: "red" }, 400],
    ["nothing begun", { type: "note", text: "hm" }, 409],
  ])("with %s is refused, and nothing of it kept", async (_, body, status) => {
    const id = randomUUID();
    const reply = await say(id, body);
    expect(reply.statusCode, reply.body).toBe(status);
    expect((await me({ url: `/api/units/${home.unitId}/tests/${id}` })).statusCode).toBe(404);
  });

  it("of another workshop is neither read nor written", async () => {
    const id = randomUUID();
    await say(id, begun);
    const away = await server.workshop("away");
    const them = await away.as("technician");
    expect((await them({ url: `/api/units/${home.unitId}/tests/${id}` })).statusCode).toBe(404);
    expect((await them({ url: `/api/units/${away.unitId}/tests/${id}` })).statusCode).toBe(404);
    expect((await them({ url: "/api/tests/running" })).json()).toEqual({ tests: [] });
  });
});
