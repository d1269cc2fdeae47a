import type { ClockList, ProcedureRun, ReportData, Unit, Visit } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { jobSetupBy, type RunSetup } from "@uppershed/core/procedure";
import { RunDevice } from "@uppershed/core/testing";
import { buildNetwork } from "@uppershed/core/watermap";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

/** De-winterizing and sanitizing on the server: begun from what was left, waiting while it stands, told in the report. */

const [, , plover] = EXAMPLE_MAPS;
if (!plover) throw new Error("no plover");
const network = buildNetwork(plover);
const RULES = { revision: 0, values: {} };

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
let visitId: string;
let setup: (job: "spring" | "sanitize") => RunSetup;

beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());
beforeEach(async () => {
  const label = randomUUID();
  home = await server.workshop(label);
  me = await home.as("technician");
  visitId = randomUUID();
  setup = (job) => jobSetupBy(RULES, { from: label, celsius: -18 }, job);
  await (
    await home.as("desk")
  )({
    method: "POST",
    url: "/api/visits",
    payload: {
      id: visitId,
      unitId: home.unitId,
      startsAt: new Date().toISOString(),
      minutes: 120,
      asked: "Sanitize",
      jobs: ["sanitize"],
    },
  });
});

const begin = async (wanted: RunSetup): Promise<{ id: string; reply: number; body: string }> => {
  const id = randomUUID();
  const reply = await me({
    method: "POST",
    url: "/api/runs",
    payload: { id, unitId: home.unitId, visitId, mapRevision: 1, setup: wanted },
  });
  return { id, reply: reply.statusCode, body: reply.body };
};
const deviceFor = async (id: string): Promise<RunDevice> => {
  const run = (await me({ url: `/api/runs/${id}` })).json<ProcedureRun>();
  const device = new RunDevice(network, run.setup, 0, run.begins ?? undefined);
  device.do({ type: "as-found", lineup: {} });
  return device;
};
/** Sends what a device has made since, under ids of this test. */
const sent = new WeakMap<RunDevice, { count: number; ids: Map<string, string> }>();
const send = async (id: string, device: RunDevice): Promise<void> => {
  const known = sent.get(device) ?? { count: 0, ids: new Map<string, string>() };
  sent.set(device, known);
  const own = (made: string): string => {
    const there = known.ids.get(made) ?? randomUUID();
    known.ids.set(made, there);
    return there;
  };
  const events = device.events.slice(known.count).map(({ by: _by, ...event }) => ({
    ...event,
    id: own(event.id),
    ...(event.body.type === "planned"
      ? { body: { ...event.body, because: own(event.body.because) } }
      : {}),
  }));
  known.count = device.events.length;
  const reply = await me({
    method: "POST",
    url: `/api/runs/${id}/events`,
    payload: { form: 2, events },
  });
  expect(reply.statusCode, reply.body.slice(0, 400)).toBe(200);
};
const visit = async (): Promise<Visit> => (await me({ url: `/api/visits/${visitId}` })).json();
const strip = (device: RunDevice, mgL: number): void => {
  device.read(device.step.asks[0]?.key ?? "", mgL);
  device.tickAll();
  device.do({ type: "step-signed", stepId: device.step.id });
};

describe("a sanitizing", () => {
  it("without what it goes by is not begun; a departure from the house's dose asks why", async () => {
    const { water: _water, ...bare } = setup("sanitize");
    expect((await begin(bare as RunSetup)).reply).toBe(400);
    const whole = setup("sanitize");
    const strong = {
      ...whole,
      water: whole.water && {
        ...whole.water,
        chlorine: { ...whole.water.chlorine, targetMgL: 100 },
      },
    } as RunSetup;
    const refused = await begin(strong);
    expect([refused.reply, refused.body]).toEqual([400, expect.stringContaining("How strong")]);
    const told = {
      ...strong,
      rules: strong.rules && {
        ...strong.rules,
        departures: [{ key: "sanitize.target", name: "x", reason: "slime in the tank" }],
      },
    } as RunSetup;
    const { id, reply } = await begin(told);
    expect(reply).toBe(201);
    const run = (await me({ url: `/api/runs/${id}` })).json<ProcedureRun>();
    expect(run.setup.rules?.departures).toEqual([
      { key: "sanitize.target", name: "T. Ech", reason: "slime in the tank" },
    ]);
    expect(run.setup.rules?.values["sanitize.target"]).toBe(50);
  });

  it("while it stands the visit waits until its hour; read again it is in work, signed it is ready, and the report tells it", async () => {
    const { id } = await begin(setup("sanitize"));
    const device = await deviceFor(id);
    device.doUntil((s) => s.id.startsWith("stand:strip"));
    strip(device, 50);
    device.doStep();
    await send(id, device);
    const waiting = await visit();
    expect(waiting).toMatchObject({ state: "waiting", waitingFor: "soaking" });
    expect(waiting.run?.summary.clocks.map((c) => c.label)).toEqual([
      "Has stood long enough",
      "Out at the latest",
    ]);
    const { clocks } = (await me({ url: "/api/clocks" })).json<ClockList>();
    expect(clocks.map((c) => [c.runId, c.label])).toEqual([
      [id, "Has stood long enough"],
      [id, "Out at the latest"],
    ]);
    const other = await (await server.workshop(randomUUID())).as("technician");
    expect((await other({ url: "/api/clocks" })).json<ClockList>().clocks).toEqual([]);
    expect(waiting.waitingUntil).toBe(waiting.run?.summary.clocks[0]?.endsAt);
    device.wait(13 * 3600);
    strip(device, 40);
    await send(id, device);
    expect((await visit()).state).toBe("in-work");
    device.doUntil(() => false);
    device.do({ type: "as-left", lineup: {}, tagged: [] });
    device.do({ type: "closed", name: "T. Ech" });
    await send(id, device);
    expect((await me({ url: "/api/clocks" })).json<ClockList>().clocks).toEqual([]);
    const ready = await visit();
    expect([ready.state, ready.short]).toEqual(["ready", null]);
    const unit = (await me({ url: `/api/units/${home.unitId}` })).json<Unit>();
    expect(unit.state).toMatchObject({ kind: "as-left", job: "sanitize", runId: id });
    const report = (await me({ url: `/api/visits/${visitId}/report` })).json<ReportData>();
    expect(report.winterizing).toBeNull();
    expect(report.waterWork).toMatchObject([{ job: "sanitize" }]);
    expect(JSON.stringify(report.waterWork)).toMatch(/It stood 13\.\d h: 50 at the start, 40/u);
    expect(report.handover.map((s) => s.title)).toContain("The heater");
    const editionId = randomUUID();
    await me({
      method: "POST",
      url: `/api/visits/${visitId}/editions`,
      payload: { id: editionId, how: "pdf" },
    });
    const pdf = await me({ url: `/api/editions/${editionId}/report.pdf` });
    expect(pdf.headers["content-type"]).toBe("application/pdf");
  });

  it("what arrives of it when the visit has gone already is kept all the same", async () => {
    const { id } = await begin(setup("sanitize"));
    const device = await deviceFor(id);
    device.doUntil((s) => s.id.startsWith("stand:clock"));
    await send(id, device);
    const lead = await home.as("lead");
    const gone = await lead({
      method: "PATCH",
      url: `/api/visits/${visitId}`,
      payload: { state: "gone" },
    });
    expect(gone.statusCode).toBe(200);
    device.doStep();
    await send(id, device);
    expect((await visit()).state).toBe("gone");
  });
});

describe("a spring", () => {
  it("begins from how its winterizing left it, and what comes after begins from the spring", async () => {
    const { rules: _rules, ...winter } = jobSetupBy(RULES, { from: "", celsius: -18 }, "winterize");
    const own = setup("spring");
    const autumn = await begin(winter);
    expect(autumn.reply, autumn.body).toBe(201);
    const left = await deviceFor(autumn.id);
    left.doUntil(() => false);
    left.do({
      type: "as-left",
      lineup: {},
      tagged: left.looseEnds().map((end) => ({ id: end, tag: "red" })),
    });
    left.do({ type: "closed", name: "T. Ech" });
    await send(autumn.id, left);
    const { id, reply, body } = await begin(own);
    expect(reply, body).toBe(201);
    const run = (await me({ url: `/api/runs/${id}` })).json<ProcedureRun>();
    expect(run.begins).toMatchObject({ from: "record", runId: autumn.id });
    const device = await deviceFor(id);
    const closes = device.state.todo.filter((s) => s.stage === "close").map((s) => s.id);
    expect(closes).toContain("close:drains");
    device.doUntil(() => false);
    device.do({ type: "as-left", lineup: {}, tagged: [] });
    device.do({ type: "closed", name: "T. Ech" });
    await send(id, device);
    // Sanitizing follows by the house's rule: the visit is not ready yet.
    expect((await visit()).state).toBe("in-work");
    const next = await begin(setup("sanitize"));
    const after = (await me({ url: `/api/runs/${next.id}` })).json<ProcedureRun>();
    expect(after.begins).toMatchObject({ from: "record", runId: id });
    const standing = (await me({ url: `/api/units/${home.unitId}/standing` })).json<{
      turnedLast: string[];
    }>();
    expect(standing.turnedLast.length).toBeGreaterThan(1);
  });
});
