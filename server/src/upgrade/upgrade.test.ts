import type { ProcedureRun, ReportData, Unit, UnitStandingTold } from "@uppershed/contract";
import { liquidIn, volumeOf } from "@uppershed/core/contents";
import {
  antifreezeUse,
  doubtsNow,
  linesNow,
  type Replayed,
  replayRun,
  rowsOf,
  type RunState,
  type Step,
  verdictNow,
} from "@uppershed/core/procedure";
import { buildNetwork, type Network, readWaterMap } from "@uppershed/core/watermap";
import { createHash, randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import type { InjectOptions, LightMyRequestResponse } from "fastify";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openRelease, type ReleaseServer, saidBy } from "../testing/release.ts";
import { frozenPlanner, thaw } from "../run-log/frozen.ts";

/** Databases of earlier releases, held against what those releases said of every record in them. */

interface SaidStep {
  readonly id: string;
  readonly title: string;
  readonly rows: readonly string[];
}
interface SaidRun {
  readonly name: string;
  readonly id: string;
  readonly unit: string;
  readonly summary: Record<string, unknown>;
  readonly phase: string;
  readonly holdsToC: number | null;
  readonly weakest: { readonly name: string; readonly evidence: string } | null;
  readonly owners: readonly {
    readonly id: string;
    readonly name: string;
    readonly holdsToC: number | null;
    readonly evidence: string;
  }[];
  readonly doubts: readonly unknown[];
  readonly cannot: readonly unknown[];
  readonly done: readonly (SaidStep & { readonly signed: unknown })[];
  readonly todo: readonly SaidStep[];
  readonly ticked: readonly string[];
  readonly readings: readonly {
    readonly typed: string;
    readonly si: number;
    readonly label: string;
    readonly earlier: readonly unknown[];
  }[];
  readonly notes: readonly unknown[];
  readonly use: unknown;
  readonly planned: {
    readonly medianM3: number;
    readonly p90M3: number;
    readonly holdsToC: number | null;
  };
  readonly plan: { readonly holdsToC: number | null; readonly unprotected: unknown };
  readonly asFound?: {
    readonly by: unknown;
    readonly note: string | null;
    readonly turns: readonly unknown[];
  };
  readonly asLeft?: {
    readonly by: unknown;
    readonly note: string | null;
    readonly tagged: unknown;
    readonly turns: readonly unknown[];
  };
  readonly looseEnds: readonly unknown[];
  readonly closed: unknown;
  readonly countersigned: unknown;
  readonly clocks: readonly unknown[];
  readonly lines: { readonly totalM3: number };
  readonly contents: readonly [
    id: string,
    source: string,
    ...plugs: (readonly [number, number])[],
  ][];
}
interface SaidRelease {
  readonly password: string;
  readonly units: Readonly<Record<string, string>>;
  readonly visits: Readonly<Record<string, string>>;
  readonly runs: readonly SaidRun[];
  readonly states: Readonly<
    Record<
      string,
      {
        readonly kind: string;
        readonly holdsToC: number | null;
        readonly weakestPart: string | null;
      }
    >
  >;
  readonly papers: null | {
    readonly looks: {
      looks: { key: string; point: string; mark: string; note: string; readings: number[] }[];
    };
    readonly findings: { findings: Record<string, unknown>[] };
    readonly readings: { readings: { id: string; label: string; value: number; typed: string }[] };
    readonly notes: { notes: unknown[] };
    readonly snapshots: { snapshots: { kind: string }[] };
    readonly spring: { looks: unknown[] };
    readonly report: { findings: { what: string }[]; looks: { point: string }[] };
    readonly ownerPath: string;
  };
}

const inOrder = (rows: readonly unknown[]): string[] =>
  rows.map((r) => JSON.stringify(r)).toSorted();
const hyphens = (words: string): string => words.replaceAll(" ", "-");
const close = (a: unknown, b: unknown): unknown =>
  typeof a === "number" &&
  typeof b === "number" &&
  Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a))
    ? b
    : a;
/** The same to the last figure that a computer's arithmetic can be trusted with. */
const near = (a: unknown, b: unknown): unknown => {
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null)
    return close(a, b);
  if (Array.isArray(a)) return a.map((x, i) => near(x, (b as unknown[])[i]));
  return Object.fromEntries(
    Object.entries(a).map(([k, v]) => [k, near(v, (b as Record<string, unknown>)[k])]),
  );
};
const expectSame = (now: unknown, then: unknown, what: string): void =>
  expect(JSON.parse(JSON.stringify(near(now, then) ?? null)), what).toEqual(then ?? null);

const stateOf = (replayed: Replayed): RunState => {
  if (!replayed.whole)
    throw new Error(replayed.astray.map((a) => `${a.entry.id}: ${a.problem}`).join("; "));
  return replayed.state;
};

const networkOf = (run: ProcedureRun): Network => {
  const map = readWaterMap(run.map);
  if (!map.ok) throw new Error("map");
  return buildNetwork(map.map);
};

/** Whether everything that a record shows is what it was. */
const expectRecord = (run: ProcedureRun, then: SaidRun): void => {
  const state = stateOf(
    replayRun({
      network: networkOf(run),
      setup: run.setup,
      begins: run.begins ?? undefined,
      events: run.events,
      unread: run.unread,
    }),
  );
  const phase = then.phase === "steps" && then.todo.length > 0 ? "steps" : then.phase;
  expect(state.phase, then.name).toBe(phase);
  const verdict = verdictNow(state);
  const same = (now: unknown, was: unknown, what: string): void =>
    expectSame(now, was, `${then.name}: ${what}`);
  same(verdict.holdsToC, then.holdsToC, "holds to");
  same(
    verdict.weakest && { name: verdict.weakest.name, evidence: verdict.weakest.evidence },
    then.weakest,
    "weakest part",
  );
  same(
    verdict.owners.map((o) => ({
      id: o.id,
      name: o.name,
      state: o.state,
      holdsToC: o.holdsToC,
      evidence: o.evidence,
      source: o.source,
    })),
    then.owners,
    "every part",
  );
  same(doubtsNow(state), then.doubts, "doubts");
  same(state.cannot, then.cannot, "what could not be done");
  const step = (s: Step): SaidStep => ({
    id: s.id,
    title: s.title,
    rows: rowsOf(s).map((r) => r.key),
  });
  const bare = ({ id, title, rows }: SaidStep): SaidStep => ({ id, title, rows });
  same(
    state.done.map((d) => ({ ...step(d.step), signed: d.signed })),
    then.done.map((d) => ({ ...bare(d), signed: d.signed })),
    "steps done",
  );
  same(state.ticked, then.ticked, "rows ticked");
  same(
    state.readings.map(({ cell: _cell, ...r }) => r),
    then.readings,
    "readings",
  );
  same(state.notes, then.notes, "notes");
  same(antifreezeUse(state), then.use, "antifreeze");
  same(state.closed, then.closed, "signature");
  same(state.countersigned, then.countersigned, "countersignature");
  same(state.clocks, then.clocks, "clocks");
  same(linesNow(state), then.lines, "water in the lines");
  if (then.asFound) {
    same(state.todo.map(step), then.todo.map(bare), "steps to do");
    const { medianM3, p90M3 } = state.firstPlan?.antifreeze ?? { medianM3: 0, p90M3: 0 };
    same(
      { medianM3, p90M3, holdsToC: state.firstPlan?.holdsToC },
      then.planned,
      "what was planned first",
    );
    same(
      { holdsToC: state.plan?.holdsToC, unprotected: state.plan?.unprotected },
      then.plan,
      "the plan in force",
    );
    same(
      { by: state.asFound?.by, note: state.asFound?.note ?? null },
      { by: then.asFound.by, note: then.asFound.note },
      "as found",
    );
    const turned = (turns: RunState["asFound"]): unknown =>
      turns?.turns.map(({ control, now, inUse }) => ({ key: control, now, inUse }));
    same(turned(state.asFound), then.asFound.turns, "turns as found");
    // A cell was named by its part alone where the part had but one.
    // The neck before a check or a pump holds nothing and was not told then.
    const held = state.network.cells.flatMap((cell, i) => {
      if (cell.capacityM3 <= 0) return [];
      const only =
        state.network.cells.filter((c) => c.ownerId === cell.ownerId && c.capacityM3 > 0).length ===
        1;
      const { source, plugs } = state.physical.contents[i] ?? { source: "", plugs: [] };
      return [
        [only ? cell.ownerId : cell.id, source, ...plugs.map((p) => [p.waterM3, p.glycolM3])],
      ];
    });
    same(held, then.contents, "what every cell holds");
  }
  if (then.asLeft) {
    same(
      { by: state.asLeft?.by, note: state.asLeft?.note ?? null, tagged: state.asLeft?.tagged },
      { by: then.asLeft.by, note: then.asLeft.note, tagged: then.asLeft.tagged },
      "as left",
    );
    same(
      state.asLeft?.turns.map(({ control, now, inUse }) => ({ key: control, now, inUse })),
      then.asLeft.turns,
      "turns as left",
    );
    same(state.asLeft?.ends, then.looseEnds, "loose ends");
  }
};

describe.each(["release-1", "release-2"])("a database of %s", (release) => {
  const said = saidBy(release) as SaidRelease;
  let server: ReleaseServer;
  let me: (options: InjectOptions) => Promise<LightMyRequestResponse>;
  const get = async <T>(url: string): Promise<T> => {
    const reply = await me({ url: `/api${url}` });
    expect(reply.statusCode, url).toBe(200);
    return reply.json<T>();
  };
  beforeAll(async () => {
    server = await openRelease(release);
    const reply = await server.app.inject({
      method: "POST",
      url: "/api/sign-in",
      payload: { name: "lead", password: said.password },
    });
    const cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
    me = (options) => server.app.inject({ ...options, cookies });
  });
  afterAll(() => server.close());

  it.each(said.runs.map((r) => [r.name, r] as const))(
    "says of the run %s what it said",
    async (_, then) => {
      const run = await get<ProcedureRun>(`/runs/${then.id}`);
      expectRecord(run, then);
      expect([run.unitName, run.startedBy]).toEqual([then.unit, expect.any(String)]);
      // New since: whether it waits, which is told of the record's own signatures.
      const {
        waits,
        measuredUseM3: _use,
        workedOutM3: _worked,
        minutes: _took,
        strength: _of,
        ...summary
      } = run.summary;
      const signed = (type: string) => run.events.find((e) => e.body.type === type);
      expect(waits).toBe(
        signed("closed")?.by.role === "apprentice" && signed("countersigned") === undefined,
      );
      expectSame(
        summary,
        { ...then.summary, cannotTell: then.summary["cannotTell"] ?? [] },
        "summary",
      );
    },
  );

  it("shows the Bench and every unit, with the states that they had", async () => {
    const { units } = await get<{ units: Unit[] }>("/units");
    expect(units.length).toBe(Object.keys(said.units).length);
    for (const [key, then] of Object.entries(said.states)) {
      const unit = await get<Unit>(`/units/${said.units[key]}`);
      const { kind, holdsToC, weakestPart } = unit.state;
      expectSame(
        { kind, holdsToC, weakestPart },
        { kind: hyphens(then.kind), holdsToC: then.holdsToC, weakestPart: then.weakestPart },
        key,
      );
      await get<UnitStandingTold>(`/units/${unit.id}/standing`);
      await get(`/units/${unit.id}/runs`);
      await get(`/units/${unit.id}/map`);
    }
    const { visits } = await get<{ visits: { state: string }[] }>(
      "/visits?from=2025-10-01T00:00:00Z&to=2025-11-01T00:00:00Z&here=yes",
    );
    expect(visits.length).toBe(Object.keys(said.visits).length);
  });

  it("lets a half-done run be gone on with, and finished", async () => {
    const half = said.runs.find((r) => r.name === "half done");
    const run = await get<ProcedureRun>(`/runs/${half?.id}`);
    const [step] = half?.todo ?? [];
    const event = (body: object) => ({
      id: randomUUID(),
      seq: 900,
      at: new Date().toISOString(),
      body,
    });
    const rows = (step?.rows ?? []).map((row) =>
      event({ type: "row-ticked", stepId: step?.id, row, done: true }),
    );
    const events = [...rows, event({ type: "step-signed", stepId: step?.id })];
    const sent = await me({
      method: "POST",
      url: `/api/runs/${run.id}/events`,
      payload: { form: 2, events },
    });
    expect(sent.statusCode, sent.body).toBe(200);
    expect(sent.json<{ summary: { stepsDone: number } }>().summary.stepsDone).toBe(
      (half?.done.length ?? 0) + 1,
    );
  });

  it("takes what a device of then had put aside, with the planner of then, also where it was planned again", async () => {
    const waiting = said.runs.find((r) => r.name === "not begun");
    const run = await get<ProcedureRun>(`/runs/${waiting?.id}`);
    const version = release === "release-1" ? "1" : "2";
    const frozen = await frozenPlanner(version);
    // What a device of then would have done without a signal: found, the first steps, one that could not be done.
    const document = run.map as object;
    const { modes: _modes, ...first } = run.map as { modes: unknown };
    const old =
      version === "1" ? { ...first, version: 1 } : { ...document, version: 2, contents: {} };
    const at = (n: number): string =>
      new Date(Date.parse("2025-10-15T08:00:00Z") + n * 60_000).toISOString();
    const events: { id: string; seq: number; at: string; body: object }[] = [];
    const add = (body: object): void =>
      void events.push({ id: randomUUID(), seq: events.length + 1, at: at(events.length), body });
    const by = { id: randomUUID(), name: "T. Ech", role: "technician" };
    const stepsNow = (): {
      id: string;
      title: string;
      actions: { type: string }[];
      asks: { key: string; kind: string; required: boolean }[];
    }[] => {
      const read = frozen.readWaterMap(old);
      if (!read.ok) throw new Error("map");
      let state = frozen.startRun(frozen.buildNetwork(read.map), run.setup);
      for (const e of events) {
        const applied = frozen.applyEvent(state, { ...e, by });
        if (!applied.ok) throw new Error(applied.problem);
        state = applied.state;
      }
      return state.todo as never;
    };
    add({ type: "as-found", lineup: {} });
    for (let i = 0; i < 4; i++) {
      const [step] = stepsNow();
      if (!step) throw new Error("no step");
      for (const ask of step.asks.filter((a) => a.required))
        add({
          type: "reading",
          stepId: step.id,
          ask: ask.key,
          si: ask.kind === "temperature" ? 20 : 0.01,
          typed: "as read",
        });
      for (const [n, action] of step.actions.entries())
        if (action.type !== "drain")
          add({ type: "row-ticked", stepId: step.id, row: `${n}:${action.type}`, done: true });
      add({ type: "step-signed", stepId: step.id });
    }
    const [stuck] = stepsNow();
    add({
      type: "step-cannot",
      stepId: stuck?.id,
      parts: ["deck-shower"],
      reason: "flap rusted shut",
    });
    add({ type: "note", text: "written without a signal" });
    const planned = thaw(
      frozen,
      version,
      old,
      run.setup,
      events.map((e) => ({ ...e, by })) as never,
    ).filter((t) => t.planned).length;
    const sent = await me({
      method: "POST",
      url: `/api/runs/${run.id}/events`,
      payload: { events },
    });
    expect(sent.json<{ outcomes: { outcome: string }[] }>().outcomes.map((o) => o.outcome)).toEqual(
      events.map(() => "kept"),
    );
    const after = await get<ProcedureRun>(`/runs/${run.id}`);
    expect(after.events.filter((e) => e.body.type === "planned")).toHaveLength(planned);
    expect(after.events.filter((e) => e.body.type !== "planned").map((e) => e.id)).toEqual(
      events.map((e) => e.id),
    );
    expect(
      replayRun({ network: networkOf(after), setup: after.setup, events: after.events }).whole,
    ).toBe(true);
    // Sent twice, it is once.
    const again = await me({
      method: "POST",
      url: `/api/runs/${run.id}/events`,
      payload: { events },
    });
    expect(
      new Set(again.json<{ outcomes: { outcome: string }[] }>().outcomes.map((o) => o.outcome)),
    ).toEqual(new Set(["already kept"]));
  });

  const { papers } = said;
  it.skipIf(!papers)(
    "reads the papers of every other kind: looks, findings, readings, notes, snapshots, spring list, report, owner's link",
    async () => {
      if (!papers) return;
      const unit = said.units["plover"];
      const visit = said.visits["plover"];
      const looks = (
        await get<{
          looks: { key: string; point: string; mark: string; note: string; readings: number[] }[];
        }>(`/units/${unit}/looks`)
      ).looks;
      const told = ({
        point,
        mark,
        note,
        readings,
      }: {
        point: string;
        mark: string;
        note: string;
        readings: number[];
      }) => [point, hyphens(mark), note, readings];
      expect(inOrder(looks.map(told))).toEqual(inOrder(papers.looks.looks.map(told)));
      expect(looks.map((l) => l.key).toSorted()).toEqual([
        "heater/anode-thickness-at-three-places",
        "pump/mounts-firm",
        "pump/stops-when-every-tap-is-shut",
      ]);
      const { findings } = await get<{ findings: Record<string, unknown>[] }>(
        `/units/${unit}/findings`,
      );
      expect(findings.map((f) => [f["what"], f["state"], f["foundBy"]])).toEqual(
        papers.findings.findings.map((f) => [f["what"], f["state"], f["foundBy"]]),
      );
      const { readings } = await get<{
        readings: {
          id: string;
          label: string;
          value: number;
          typed: string;
          key: string;
          partId: string | null;
        }[];
      }>(`/units/${unit}/readings`);
      const measured = (r: { id: string; label: string; value: number; typed: string }) => [
        r.id,
        r.label,
        r.value,
        r.typed,
      ];
      expect(inOrder(readings.map(measured))).toEqual(
        inOrder(papers.readings.readings.map(measured)),
      );
      const keyOf = (label: string): string[] => [
        ...new Set(readings.filter((r) => r.label === label).map((r) => r.key)),
      ];
      // All outlets shared one key once: now each is followed by itself.
      expect(keyOf("Strength at the outlet").length).toBeGreaterThan(1);
      expect(readings.every((r) => r.key.split("/").length === 3)).toBe(true);
      expect((await get<{ notes: unknown[] }>(`/units/${unit}/notes`)).notes).toEqual(
        papers.notes.notes,
      );
      const snapshots = (await get<{ snapshots: { kind: string }[] }>(`/visits/${visit}/snapshots`))
        .snapshots;
      expect(snapshots.map((s) => s.kind)).toEqual(
        papers.snapshots.snapshots.map((s) => hyphens(s.kind)),
      );
      expect((await get<{ looks: unknown[] }>(`/units/${unit}/spring`)).looks).toEqual(
        papers.spring.looks,
      );
      const report = await get<ReportData>(`/visits/${visit}/report`);
      expect(report.findings.map((f) => f.what).toSorted()).toEqual(
        papers.report.findings.map((f) => f.what).toSorted(),
      );
      const owner = await server.app.inject({ url: `/api${papers.ownerPath}` });
      expect(owner.statusCode).toBe(200);
      expect(owner.json<ReportData>().edition?.number).toBe(1);
    },
  );
});

describe("planners of then", () => {
  it("are never edited", () => {
    const of = (n: number): string =>
      createHash("sha256")
        .update(readFileSync(new URL(`../../drizzle/frozen/planner-${n}.mjs`, import.meta.url)))
        .digest("hex");
    expect([of(1), of(2)]).toEqual([
      "2b24248b6e043a53a5da3c4aa9d41ae9d870120f95cb102a1f0d058f3f3590a2",
      "6d5548ae76adfe529e3a1f2b62fe9a8bc8311acf6a52342adb3e65e4cf38271a",
    ]);
  });

  it("say litres as they did: what is kept adds up", async () => {
    const frozen = await frozenPlanner("2");
    expect(Object.keys(frozen)).toContain("applyEvent");
    expect(volumeOf(liquidIn({ plugs: [{ waterM3: 1, glycolM3: 0.5 }], source: "measured" }))).toBe(
      1.5,
    );
  });
});

describe("a database in which two runs were open on one unit", () => {
  it("keeps both: the one that was worked on last goes on, the other is set aside with everything in it", async () => {
    const said = saidBy("release-2") as SaidRelease;
    const second = randomUUID();
    const server = await openRelease("release-2", async (client) => {
      await client.query(
        "insert into runs (id, workshop_id, unit_id, map_revision, setup, summary, person_id, started_at) select $1, workshop_id, unit_id, map_revision, setup, summary, person_id, '2020-01-01' from runs where id = $2",
        [second, said.runs.find((r) => r.name === "half done")?.id],
      );
    });
    const reply = await server.app.inject({
      method: "POST",
      url: "/api/sign-in",
      payload: { name: "lead", password: said.password },
    });
    const cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
    const set = (
      await server.app.inject({ url: `/api/runs/${second}`, cookies })
    ).json<ProcedureRun>();
    expect(set.setAsideAt).not.toBeNull();
    const unit = (
      await server.app.inject({ url: `/api/units/${said.units["burdock"]}`, cookies })
    ).json<Unit>();
    expect(unit.state).toMatchObject({
      kind: "in-work",
      runId: said.runs.find((r) => r.name === "half done")?.id,
    });
    await server.close();
  });
});
