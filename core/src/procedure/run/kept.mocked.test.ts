import fc from "fast-check";
import { afterEach, describe, expect, it, vi } from "vitest";
import { burdock, plover, teasel } from "../../examples/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { networkOf } from "../../testing/variants.ts";
import { buildNetwork } from "../../watermap/index.ts";
import { rowsOf, type Step } from "../step.ts";
import type { Plan } from "../plan.ts";
import {
  antifreezeUse,
  doubtsNow,
  newRunEventSchema,
  planOf,
  replayRun,
  type RunBegins,
  type RunEvent,
  type RunState,
  standardSetup,
  startRun,
  summarize,
  verdictNow,
} from "./index.ts";

/** What a planner of a later day would do otherwise. */
const later = vi.hoisted(() => ({
  change: (steps: readonly unknown[]): readonly unknown[] => steps,
}));
vi.mock("../winterize/index.ts", async (load) => {
  const real = await load<typeof import("../winterize/index.ts")>();
  return {
    ...real,
    planWinterize: (request: Parameters<typeof real.planWinterize>[0]): Plan => {
      const plan = real.planWinterize(request);
      return { ...plan, steps: later.change(plan.steps) as readonly Step[] };
    },
  };
});
const asIs = (steps: readonly unknown[]): readonly unknown[] => steps;
afterEach(() => {
  later.change = asIs;
});

const setup = standardSetup();

/** Everything that a record shows. */
const record = (state: RunState): unknown => ({
  summary: summarize(state),
  verdict: verdictNow(state),
  doubts: doubtsNow(state),
  use: antifreezeUse(state),
  planned: state.firstPlan?.antifreeze,
  unprotected: state.plan?.unprotected,
  done: state.done.map((d) => [d.step, d.signed]),
  todo: state.todo,
  ticked: state.ticked,
  cannot: state.cannot,
  readings: state.readings,
  notes: state.notes,
  asFound: state.asFound,
  asLeft: state.asLeft,
  closed: state.closed,
  contents: state.physical.contents,
});

const kept = (map: typeof teasel, events: readonly RunEvent[]): unknown => {
  const stored = (JSON.parse(JSON.stringify(events)) as RunEvent[]).map((e) => ({
    ...newRunEventSchema.parse(without(e)),
    by: e.by,
  }));
  const again = replayRun({ network: networkOf(map), setup, events: stored });
  if (!again.whole)
    throw new Error(again.astray.map((a) => `${a.entry.id}: ${a.problem}`).join("; "));
  return record(again.state);
};
const without = ({ by: _by, ...event }: RunEvent): object => event;

/** A winterizing with a step that could not be done, a reading that was too weak, and a correction. */
const eventful = (): RunDevice => {
  const device = new RunDevice(networkOf(teasel), setup);
  device.do({ type: "as-found", lineup: { v5: "shut" }, note: "Cold." });
  device.doUntil((s) => s.id === "drain:lines");
  device.do({
    type: "step-cannot",
    stepId: "drain:lines",
    parts: ["deck-shower"],
    reason: "flap rusted shut",
  });
  device.doUntil((s) => s.id === "fill:galley:hot");
  device.do({
    type: "reading",
    stepId: device.step.id,
    ask: "strength:galley:hot",
    si: 0.2,
    typed: "20 %",
  });
  device.tickAll();
  device.do({ type: "step-signed", stepId: device.step.id });
  device.doUntil((s) => s.stage === "traps");
  const read = device.state.readings.findLast((r) => r.kind === "strength")?.event ?? "";
  device.do({ type: "corrected", event: read, reason: "lens fogged", si: 0.41, typed: "41 %" });
  return device;
};

const closed = (device: RunDevice): RunDevice => {
  device.doUntil(() => false);
  const tagged = device.state.network.controls.map((c) => ({ id: c.key, tag: "red tag" }));
  device.do({ type: "as-left", lineup: {}, tagged: tagged.slice(0, 90) });
  device.do({ type: "closed", name: "R. Amadi" });
  return device;
};

const step = (change: (s: Step, i: number) => Step) => (steps: readonly unknown[]) =>
  (steps as readonly Step[]).map(change);
const CHANGES: readonly (readonly [string, (steps: readonly unknown[]) => readonly unknown[]])[] = [
  ["one step's id", step((s, i) => (i === 0 ? { ...s, id: "secure:another" } : s))],
  ["every step's id", step((s) => ({ ...s, id: `new/${s.id}` }))],
  ["one title", step((s, i) => (i === 3 ? { ...s, title: "Another title" } : s))],
  ["every title, why and expectation", step((s) => ({ ...s, title: "t", why: "w", expect: "e" }))],
  [
    "a row more",
    step((s, i) =>
      i === 2
        ? { ...s, actions: [...s.actions, { type: "confirm", fact: "more", label: "More" }] }
        : s,
    ),
  ],
  ["a row fewer", step((s) => ({ ...s, actions: s.actions.slice(1) }))],
  ["another order", (steps) => steps.toReversed()],
  ["a step fewer", (steps) => steps.slice(1)],
  ["nothing asked for", step((s) => ({ ...s, asks: [] }))],
  ["no plan at all", () => []],
];

describe("what was signed stays signed", () => {
  const half = eventful();
  const stopped = half.events.length;
  const done = closed(eventful());
  const doubtful = new RunDevice(
    buildNetwork({
      ...burdock,
      parts: burdock.parts.map((p) =>
        p.kind === "check-valve" ? { ...p, unknown: { of: "fitted" as const } } : p,
      ),
    }),
    setup,
  );
  doubtful.do({ type: "as-found", lineup: {} });

  it("a run keeps its plans: one after it was found, one after each time that it was planned again", () => {
    const plans = done.events.flatMap((e) => (e.body.type === "planned" ? [e.body] : []));
    expect(plans).toHaveLength(3);
    expect(plans.map((p) => done.events.find((e) => e.id === p.because)?.body.type)).toEqual([
      "as-found",
      "step-cannot",
      "step-signed",
    ]);
    for (const { plan, planner } of plans) {
      expect(planner).toMatch(/^\d+$/u);
      expect(plan.steps.every((s) => s.actions.length > 0 && s.title !== "")).toBe(true);
    }
    for (const e of done.events)
      if (e.body.type === "step-signed") expect(e.said?.engine).toMatch(/^\d+$/u);
  });

  it.each(CHANGES)("whatever the planner does otherwise: %s", (_, change) => {
    const before = [record(half.state), record(done.state)];
    const planned = (): unknown => {
      const device = new RunDevice(networkOf(teasel), setup);
      device.do({ type: "as-found", lineup: {} });
      return device.state.todo;
    };
    const today = planned();
    later.change = change;
    expect(planned(), "the change is one").not.toEqual(today);
    expect([kept(teasel, half.events), kept(teasel, done.events)]).toEqual(before);
    expect(half.events).toHaveLength(stopped);
  });

  it("a half-done run is gone on with, with the step that was in hand, by whatever planner there is then", () => {
    const device = eventful();
    const inHand = device.step.id;
    later.change = step((s) => ({ ...s, id: `new/${s.id}` }));
    device.doStep();
    expect(device.state.done.at(-1)?.step.id).toBe(inHand);
    device.do({
      type: "step-cannot",
      stepId: device.step.id,
      parts: ["galley"],
      reason: "shut in by a shelf",
    });
    expect(device.step.id).toMatch(/^new\//u);
  });

  it("what was in doubt on the day is kept in its words", () => {
    expect(doubtsNow(doubtful.state).length).toBeGreaterThan(0);
    const again = replayRun({ network: networkOf(burdock), setup, events: doubtful.events });
    expect(again.whole && doubtsNow(again.state)).toEqual(doubtsNow(doubtful.state));
  });

  it("a cell that the record does not speak of is taken as full of water, not as dry", () => {
    const [found, ...rest] = done.events as [RunEvent, ...RunEvent[]];
    const { "pump:head": _pump, ...contents } = found.said?.contents ?? {};
    const silent = rest.map((e) => {
      const { "pump:head": _gone, ...others } = e.said?.contents ?? {};
      return e.said ? { ...e, said: { ...e.said, contents: others } } : e;
    });
    const again = replayRun({
      network: networkOf(teasel),
      setup,
      events: [
        { ...found, said: { ...(found.said as NonNullable<RunEvent["said"]>), contents } },
        ...silent,
      ],
    });
    const state = again.whole ? again.state : again.stateWithout;
    const cell = state.network.cellIndex.get("pump:head") ?? -1;
    expect(state.physical.contents[cell]).toEqual({
      plugs: [{ waterM3: state.network.cells[cell]?.capacityM3, glycolM3: 0 }],
      source: "assumed",
    });
  });

  it("begins from how the unit was left: what is done already asks for no step", () => {
    const { unit, asLeft } = done.state;
    const begins: RunBegins = {
      from: "record",
      at: "2025-10-14T12:00:00.000Z",
      runId: "00000000-0000-4000-8000-00000000000a",
      lineup: { ...asLeft?.lineup },
      apart: [],
      contents: Object.fromEntries(
        [...(unit?.contents ?? [])].map(([id, held]) => [
          id,
          { ...held, plugs: held.plugs.map((p) => ({ ...p })) },
        ]),
      ),
      measured: Object.fromEntries(unit?.measured ?? []),
    };
    const again = startRun(networkOf(teasel), setup, begins);
    expect(verdictNow(again).holdsToC).toBe(verdictNow(done.state).holdsToC);
    expect(again.physical.lineup["heater:plug"]).toBe("open");
    const filled = planOf({ ...again, phase: "to-plan" }, "x").plan.steps.filter(
      (s) => s.stage === "traps",
    );
    expect(filled).toEqual([]);
  });
});

describe("an entry that has no effect", () => {
  it("is refused when its plan was made for another state of the work, or has a step twice", () => {
    const device = new RunDevice(networkOf(plover), setup);
    device.do({ type: "as-found", lineup: {} });
    const [found, planned] = device.events as [RunEvent, RunEvent];
    const again = new RunDevice(networkOf(plover), setup, 500);
    again.apply(found);
    expect(again.state.phase).toBe("to-plan");
    if (planned.body.type !== "planned") throw new Error("no plan");
    const [first] = planned.body.plan.steps;
    const twice = { ...planned.body.plan, steps: [first, first] as Step[] };
    expect(again.apply({ ...planned, body: { ...planned.body, plan: twice } })).toBe(
      "unknown-step",
    );
    expect(again.apply({ ...planned, body: { ...planned.body, because: planned.id } })).toBe(
      "out-of-order",
    );
    expect(again.refused({ type: "step-signed", stepId: first?.id ?? "" })).toBe("out-of-order");
    expect(again.apply(planned)).toBe("taken");
    expect(again.apply(planned)).toBe("taken");
    expect(
      again.apply({ ...planned, body: { type: "note", text: "another thing under the same id" } }),
    ).toBe("unknown-event");
    expect(again.apply({ ...planned, id: "00000000-0000-4000-8000-0000000000ff" })).toBe(
      "out-of-order",
    );
    expect(again.state.todo).toEqual(planned.body.plan.steps);
    expect(again.state.events.filter((e) => e.id === planned.id)).toHaveLength(1);
  });

  it("is refused when it does not say what the unit holds after it", () => {
    const device = eventful();
    for (const row of rowsOf(device.step))
      device.do({ type: "row-ticked", stepId: device.step.id, row: row.key, done: true });
    expect(device.apply(device.make({ type: "step-signed", stepId: device.step.id }))).toBe(
      "not-whole",
    );
  });

  it("or one that cannot be read is listed: of any log, every entry is in effect or named with its reason (any logs)", () => {
    const { events } = closed(eventful());
    const network = networkOf(teasel);
    const log = fc
      .array(
        fc.record({
          at: fc.nat({ max: events.length - 1 }),
          how: fc.constantFrom("drop", "twice", "swap", "foreign", "bare"),
        }),
        {
          maxLength: 12,
        },
      )
      .map((changes) => {
        let made = [...events];
        for (const { at, how } of changes) {
          const event = made[at % made.length] as RunEvent;
          const i = made.indexOf(event);
          if (how === "drop") made = made.filter((e) => e !== event);
          else if (how === "twice") made = [...made, event];
          else if (how === "swap")
            made = [...made.slice(0, i), ...made.slice(i + 1, i + 3), event, ...made.slice(i + 3)];
          else if (how === "bare") made[i] = { ...event, said: undefined };
          else
            made.splice(i, 0, {
              ...event,
              id: `${event.id.slice(0, -4)}${String(at).padStart(4, "f")}`,
            });
        }
        return made;
      });
    const unread = {
      id: "u",
      at: "2025-10-14T08:00:00.000Z",
      type: "sung",
      by: { id: "p", name: "P", role: "lead" },
      problem: "unknown",
    };
    fc.assert(
      fc.property(log, fc.boolean(), (made, strange) => {
        const again = replayRun({ network, setup, events: made, unread: strange ? [unread] : [] });
        const state = again.whole ? again.state : again.stateWithout;
        const named = new Set(again.whole ? [] : again.astray.map((a) => a.entry.id));
        const inEffect = new Set(state.events.map((e) => e.id));
        for (const e of made) expect(inEffect.has(e.id) || named.has(e.id)).toBe(true);
        expect(named.has("u")).toBe(strange);
        if (!again.whole) for (const a of again.astray) expect(a.problem).toMatch(/\S/u);
      }),
      { numRuns: 60, seed: 1 },
    );
  });
});
