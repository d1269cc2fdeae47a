import type { ProcedureRun, Unit, Visit } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import {
  antifreezeUse,
  doubtsNow,
  linesNow,
  type Plan,
  replayRun,
  standardSetup,
  type Step,
  summarize,
  verdictNow,
} from "@uppershed/core/procedure";
import { buildNetwork, readWaterMap } from "@uppershed/core/watermap";
import { RunDevice } from "@uppershed/core/testing";
import type { InjectOptions, LightMyRequestResponse } from "fastify";
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from "vitest";
import { loadDemo } from "../demo/load.ts";
import { openTestServer, type TestServer } from "../testing/bench.ts";
import { openRelease, type ReleaseServer, saidBy } from "../testing/release.ts";

/** What a planner and an engine of a later day would do otherwise. */
const later = vi.hoisted(() => ({
  steps: (steps: readonly unknown[]): readonly unknown[] => steps,
  holdsC: 0,
}));
vi.mock("../../../core/src/procedure/winterize/index.ts", async (load) => {
  const real = await load<typeof import("../../../core/src/procedure/winterize/index.ts")>();
  return {
    ...real,
    planWinterize: (request: Parameters<typeof real.planWinterize>[0]): Plan => {
      const plan = real.planWinterize(request);
      return { ...plan, steps: later.steps(plan.steps) as readonly Step[] };
    },
  };
});
vi.mock("../../../core/src/contents/frost.ts", async (load) => {
  const real = await load<typeof import("../../../core/src/contents/frost.ts")>();
  return {
    ...real,
    frostVerdict: (...args: Parameters<typeof real.frostVerdict>) => {
      const verdict = real.frostVerdict(...args);
      return later.holdsC === 0
        ? verdict
        : {
            ...verdict,
            holdsToC: later.holdsC,
            owners: verdict.owners.map((o) => ({ ...o, evidence: "otherwise" })),
          };
    },
  };
});
afterEach(() => {
  later.steps = (steps) => steps;
  later.holdsC = 0;
});

const each = (change: (s: Step, i: number) => Step) => (steps: readonly unknown[]) =>
  (steps as readonly Step[]).map(change);
const CHANGES: readonly (readonly [string, () => void])[] = [
  [
    "one step's id",
    () => (later.steps = each((s, i) => (i === 0 ? { ...s, id: "secure:another" } : s))),
  ],
  ["every step's id", () => (later.steps = each((s) => ({ ...s, id: `new/${s.id}` })))],
  [
    "one title",
    () => (later.steps = each((s, i) => (i === 3 ? { ...s, title: "Another title" } : s))),
  ],
  ["every title", () => (later.steps = each((s) => ({ ...s, title: "t", why: "w", expect: "e" })))],
  [
    "a row more",
    () =>
      (later.steps = each((s) => ({
        ...s,
        actions: [...s.actions, { type: "confirm", fact: "more", label: "More" }],
      }))),
  ],
  ["a row fewer", () => (later.steps = each((s) => ({ ...s, actions: s.actions.slice(1) })))],
  ["another order", () => (later.steps = (steps) => steps.toReversed())],
  ["a step fewer", () => (later.steps = (steps) => steps.slice(1))],
  ["nothing asked for", () => (later.steps = each((s) => ({ ...s, asks: [] })))],
  ["no plan at all", () => (later.steps = () => [])],
  ["an engine that says something else", () => (later.holdsC = -3)],
];

const NOW = new Date("2026-11-25T08:00:00Z");
const PASSWORD = "a demo password";
let old: ReleaseServer;
let fresh: TestServer;
const asked: ((options: InjectOptions) => Promise<LightMyRequestResponse>)[] = [];

/** Everything that is kept and closed, as it is told and as a device folds it. */
const everything = async (): Promise<unknown[]> => {
  const all: unknown[] = [];
  for (const me of asked) {
    const { units } = (await me({ url: "/api/units?limit=100" })).json<{ units: Unit[] }>();
    const { visits } = (
      await me({ url: "/api/visits?from=2023-01-01T00:00:00Z&to=2027-01-01T00:00:00Z" })
    ).json<{ visits: Visit[] }>();
    all.push(units, visits);
    for (const unit of units) {
      const { runs } = (await me({ url: `/api/units/${unit.id}/runs` })).json<{
        runs: { id: string }[];
      }>();
      for (const { id } of runs) {
        const run = (await me({ url: `/api/runs/${id}` })).json<ProcedureRun>();
        const map = readWaterMap(run.map);
        if (!map.ok) throw new Error("map");
        const again = replayRun({
          network: buildNetwork(map.map),
          setup: run.setup,
          begins: run.begins ?? undefined,
          events: run.events,
        });
        if (!again.whole) throw new Error(again.astray.map((a) => a.problem).join("; "));
        const { state } = again;
        const said = state.asFound
          ? [summarize(state), verdictNow(state), doubtsNow(state), linesNow(state)]
          : [];
        all.push(
          run,
          said,
          antifreezeUse(state),
          state.done,
          state.todo,
          state.readings,
          state.asFound,
          state.asLeft,
          state.closed,
        );
      }
    }
  }
  return all;
};

/** What is planned and said of a unit that is new to the house. */
const toDay = (): unknown => {
  const read = readWaterMap(EXAMPLE_MAPS[0]);
  if (!read.ok) throw new Error("map");
  const device = new RunDevice(buildNetwork(read.map), standardSetup());
  device.do({ type: "as-found", lineup: {} });
  return [device.state.todo, verdictNow(device.state)];
};

beforeAll(async () => {
  old = await openRelease("release-2");
  fresh = await openTestServer();
  await loadDemo(fresh.database.db, PASSWORD, NOW);
  for (const [{ app }, name, password] of [
    [old, "lead", (saidBy("release-2") as { password: string }).password],
    [fresh, "amadi", PASSWORD],
  ] as const) {
    const reply = await app.inject({
      method: "POST",
      url: "/api/sign-in",
      payload: { name, password },
    });
    expect(reply.statusCode).toBe(200);
    const cookies = Object.fromEntries(reply.cookies.map((c) => [c.name, c.value]));
    asked.push((options) => app.inject({ ...options, cookies }));
  }
});
afterAll(async () => {
  await old.close();
  await fresh.close();
});

describe("records of an earlier release and of a fresh demo", () => {
  it("say exactly what they said, whatever planner and engine do otherwise", async () => {
    const before = await everything();
    expect(JSON.stringify(before).length).toBeGreaterThan(500_000);
    const today = toDay();
    for (const [what, change] of CHANGES) {
      change();
      expect(toDay(), `${what} is a change`).not.toEqual(today);
      expect(await everything(), what).toEqual(before);
    }
  });
});
