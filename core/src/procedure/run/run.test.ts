import { describe, expect, it } from "vitest";
import { teasel } from "../../examples/index.ts";
import { networkOf } from "../../testing/variants.ts";
import { frostVerdict } from "../../contents/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import {
  applyEvent,
  looseEnds,
  replayRun,
  runsMovedNext,
  type RunEvent,
  type AskedBody,
  type RunState,
  standardSetup,
  summarize,
  verdictNow,
} from "./index.ts";

const network = networkOf(teasel);
const setup = standardSetup();
const START = Date.parse("2025-10-14T08:00:00Z");

/** The state of a run whose entries are all in effect. */
const whole = (events: readonly RunEvent[]): RunState => {
  const again = replayRun({ network, setup, events });
  if (!again.whole) throw new Error(again.astray.map((a) => a.problem).join("; "));
  return again.state;
};

const fresh = (): RunDevice => new RunDevice(network, setup);
const begun = (): RunDevice => {
  const device = fresh();
  device.do({ type: "as-found", lineup: {} });
  return device;
};

/** How cold one cell holds, by the contents and readings that were kept. */
const cellVerdict = ({ state }: RunDevice, cell: string): number =>
  frostVerdict(network, state.physical.contents, setup.basis, state.physical.measured).cells[
    network.cellIndex.get(cell) ?? -1
  ]?.holdsToC ?? 0;

describe("a run", () => {
  it("done as planned ends protected, with a loose end for what is left open, and can be signed off", () => {
    const device = begun();
    device.doUntil(() => false);
    expect(device.state.phase).toBe("as-left");
    expect(verdictNow(device.state).holdsToC).toBeLessThanOrEqual(-18);
    expect(device.refused({ type: "closed", name: "R. Amadi" })).toBe("out-of-order");
    expect(device.refused({ type: "as-left", lineup: {}, tagged: [] })).toBe("loose-end");
    const ends = looseEnds(network, device.state.physical, device.state.physical.lineup).filter(
      (e) => e.mustTag,
    );
    expect(ends.map((e) => e.id)).toEqual(["heater:plug"]);
    device.do({
      type: "as-left",
      lineup: {},
      tagged: [{ id: "heater:plug", tag: "heater empty" }],
    });
    device.do({ type: "closed", name: "R. Amadi" });
    expect(device.state.phase).toBe("closed");
    expect(device.refused({ type: "step-signed", stepId: "fill:jug" })).toBe("closed");
    expect(device.refused({ type: "countersigned", name: "A. Prentice" }, "apprentice")).toBe(
      "not-allowed",
    );
    // Whoever has signed it does not countersign it, whatever they are by then, and whatever name they give.
    expect(device.refused({ type: "countersigned", name: "L. Voss" })).toBe("not-allowed");
    device.do({ type: "countersigned", name: "L. Voss" }, "lead");
    expect(device.state.countersigned).toMatchObject({ name: "L. Voss", role: "lead" });
    expect(device.state.countersigned).not.toHaveProperty("dictated");
  });

  it("is signed by the person signed in; another name that was given is told as such", () => {
    const device = begun();
    device.doUntil(() => false);
    device.do({
      type: "as-left",
      lineup: {},
      tagged: device.looseEnds().map((id) => ({ id, tag: "empty" })),
    });
    device.do({ type: "closed", name: "O. Marchbank" }, "apprentice");
    expect(device.state.closed).toMatchObject({
      name: "A. Prentice",
      role: "apprentice",
      dictated: "O. Marchbank",
    });
  });

  it("is its events: folded again it is the same", () => {
    const device = begun();
    device.doUntil((s) => s.stage === "traps");
    const again = whole(device.events);
    expect(summarize(again)).toEqual(summarize(device.state));
    expect(again.physical).toEqual(device.state.physical);
  });

  it("takes the same event twice as once", () => {
    const device = begun();
    const event = device.events[0] as RunEvent;
    const applied = applyEvent(device.state, event);
    expect(applied).toEqual({ ok: true, state: device.state });
  });

  it("starts from the lineup as found: a heater found bypassed needs no valves turned", () => {
    const device = fresh();
    device.do({ type: "as-found", lineup: { v5: "shut", v6: "shut", v7: "open" } });
    expect(device.state.todo.some((s) => s.stage === "bypass")).toBe(false);
    expect(device.refused({ type: "as-found", lineup: { v5: "ajar" } })).toBe("unknown-part");
  });

  it("keeps interlocks: not signed before rows are ticked, needed readings in, the heater cool", () => {
    const device = begun();
    const first = device.step;
    expect(device.refused({ type: "step-signed", stepId: first.id })).toBe("not-ticked");
    expect(device.refused({ type: "step-signed", stepId: "drain:heater" })).toBe("out-of-order");
    device.doUntil((s) => s.id === "secure:heater:cool");
    device.tickAll();
    const stepId = "secure:heater:cool";
    expect(device.refused({ type: "step-signed", stepId })).toBe("reading-missing");
    device.do({ type: "reading", stepId, ask: "temperature:heater", si: 55, typed: "55 °C" });
    expect(device.refused({ type: "step-signed", stepId })).toBe("too-hot");
    device.do({ type: "reading", stepId, ask: "temperature:heater", si: 32, typed: "32 °C" });
    device.do({ type: "step-signed", stepId });
    expect(device.refused({ type: "step-signed", stepId })).toBe("already-signed");
  });

  it.each([
    ["a strength of 140 %", "fill:deck-shower:cold", "strength:deck-shower:cold", 1.4],
    ["a negative strength", "fill:deck-shower:cold", "strength:deck-shower:cold", -0.1],
    ["a negative volume", "drain:heater", "recovered:heater", -0.001],
    ["more than the heater holds", "drain:heater", "recovered:heater", 0.05],
    ["water at 300 °C", "secure:heater:cool", "temperature:heater", 300],
    ["no number", "drain:heater", "recovered:heater", Number.NaN],
  ])("refuses %s and changes nothing", (_, stepId, ask, si) => {
    const device = begun();
    device.doUntil((s) => s.id === stepId);
    expect(device.refused({ type: "reading", stepId, ask, si, typed: "?" })).toBe(
      "reading-impossible",
    );
  });

  it("plans again when the deck shower cannot be done: holds to 0 °C to the end, and says why", () => {
    const device = begun();
    device.doUntil((s) => s.id === "drain:lines");
    device.do({
      type: "step-cannot",
      stepId: "drain:lines",
      parts: ["deck-shower"],
      reason: "flap rusted shut",
    });
    expect(device.state.todo.flatMap((s) => s.parts)).not.toContain("deck-shower");
    expect(device.state.plan?.unprotected.map((u) => u.id)).toContain("deck-shower");
    device.doUntil(() => false);
    const verdict = verdictNow(device.state);
    expect(verdict.holdsToC).toBe(0);
    expect(verdict.weakest?.name).toContain("Deck shower");
    expect(device.state.cannot).toMatchObject([
      { reason: "flap rusted shut", title: "Open every tap, drain and inlet" },
    ]);
  });

  it("sends the technician back to an outlet that read too weak, and believes the second reading", () => {
    const device = begun();
    const stepId = "fill:galley:hot";
    device.doUntil((s) => s.id === stepId);
    device.do({ type: "reading", stepId, ask: "strength:galley:hot", si: 0.2, typed: "20 %" });
    device.tickAll();
    device.do({ type: "step-signed", stepId });
    expect(cellVerdict(device, "galley:hot")).toBeGreaterThan(-18);
    expect(device.step.id).toBe(`${stepId}~2`);
    device.doStep();
    expect(cellVerdict(device, "galley:hot")).toBeLessThan(-18);
    device.doUntil(() => false);
    expect(device.state.done.filter((d) => d.step.id.startsWith("secure:")).length).toBe(3);
  });

  it("believes the bucket: a heater that gave too little is not drained", () => {
    const device = begun();
    device.doUntil((s) => s.id === "drain:heater");
    device.do({
      type: "reading",
      stepId: "drain:heater",
      ask: "recovered:heater",
      si: 0.002,
      typed: "2 L",
    });
    device.tickAll();
    const id = device.events.findLast((e) => e.body.type === "reading")?.id ?? "";
    device.do({ type: "step-signed", stepId: "drain:heater" });
    const heater = () => verdictNow(device.state).owners.find((o) => o.id === "heater");
    expect(heater()).toMatchObject({ holdsToC: 0, source: "measured" });
    device.do({
      type: "corrected",
      event: id,
      reason: "read the wrong line of the bucket",
      si: 0.036,
      typed: "36 L",
    });
    expect(heater()).toMatchObject({ holdsToC: null });
    expect(device.state.readings.find((r) => r.event === id)?.earlier).toEqual([
      { typed: "2 L", reason: "read the wrong line of the bucket" },
    ]);
    expect(
      device.refused({ type: "corrected", event: id, reason: "again", si: -1, typed: "-1 L" }),
    ).toBe("reading-impossible");
  });

  it("a corrected strength counts from now on; one overtaken by a second reading does not", () => {
    const device = begun();
    const stepId = "fill:galley:hot";
    const holds = () => cellVerdict(device, "galley:hot");
    device.doUntil((s) => s.id === stepId);
    device.do({ type: "reading", stepId, ask: "strength:galley:hot", si: 0.2, typed: "20 %" });
    const first = device.events.at(-1)?.id ?? "";
    device.tickAll();
    device.do({ type: "step-signed", stepId });
    device.do({
      type: "reading",
      stepId: `${stepId}~2`,
      ask: "strength:galley:hot",
      si: 0.44,
      typed: "44 %",
    });
    const second = device.events.at(-1)?.id ?? "";
    device.tickAll();
    device.do({ type: "step-signed", stepId: `${stepId}~2` });
    const strong = holds();
    device.do({ type: "corrected", event: first, reason: "misread", si: 0.25, typed: "25 %" });
    expect(holds()).toBe(strong);
    device.do({ type: "corrected", event: second, reason: "misread too", si: 0.36, typed: "36 %" });
    expect(holds()).toBeGreaterThan(strong);
    expect(device.state.readings.map((r) => r.earlier.length).filter(Boolean)).toEqual([1, 1]);
  });

  it("cannot have more antifreeze left than was brought, typed at once or corrected later", () => {
    const device = begun();
    device.doUntil((s) => s.id === "fill:jug");
    device.do({
      type: "reading",
      stepId: "fill:jug",
      ask: "antifreeze-in",
      si: 0.015,
      typed: "15 L",
    });
    device.doUntil((s) => s.id === "button-up:count");
    const left = (si: number): AskedBody => ({
      type: "reading",
      stepId: "button-up:count",
      ask: "antifreeze-left",
      si,
      typed: `${si * 1000} L`,
    });
    expect(device.refused(left(0.016))).toBe("reading-impossible");
    expect(device.refused(left(-0.001))).toBe("reading-impossible");
    device.do(left(0.006));
    expect(summarize(device.state).antifreezeUsedM3).toBeCloseTo(0.009, 12);
    const event = device.events.at(-1)?.id ?? "";
    expect(device.refused({ type: "corrected", event, reason: "x", si: 0.02, typed: "20 L" })).toBe(
      "reading-impossible",
    );
    device.do({ type: "corrected", event, reason: "read again", si: 0.005, typed: "5 L" });
    expect(summarize(device.state).antifreezeUsedM3).toBeCloseTo(0.01, 12);
  });

  it("says in which pipes liquid will move in the step in hand: those on the way, no others", () => {
    const device = begun();
    expect(runsMovedNext(device.state).size).toBe(0);
    device.doUntil((s) => s.id === "fill:basin:hot");
    const moved = runsMovedNext(device.state);
    for (const id of [
      "r-pickup-out-v2-b",
      "r-pump-out-t-join-a",
      "r-v7-b-t-hh-b",
      "r-t-bh-b-basin-hot",
    ])
      expect(moved, id).toContain(id);
    for (const id of ["r-t-gh-b-galley-hot", "r-v5-b-heater-check-in", "r-fresh-tank-outlet-v2-a"])
      expect(moved, id).not.toContain(id);
  });

  it("keeps a clock for what runs by itself", () => {
    const device = begun();
    device.doUntil((s) => s.id === "drain:pump:dry");
    const [clock] = device.state.clocks;
    expect(clock?.label).toBe("Drain the fresh tank");
    expect(Date.parse(clock?.endsAt ?? "")).toBeGreaterThan(START);
  });

  it("leaves out what cannot be, and lists it", () => {
    const device = begun();
    const stray = device.make({ type: "step-signed", stepId: "no-such-step" });
    const again = replayRun({ network, setup, events: [...device.events, stray] });
    if (again.whole) throw new Error("nothing was astray");
    expect(again.astray.map((a) => [a.entry.id, a.code])).toEqual([[stray.id, "unknown-step"]]);
    expect(again.stateWithout.done).toHaveLength(0);
  });
});
