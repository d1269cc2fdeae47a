import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { PATTERNS, starterMap } from "../../patterns/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { networkOf } from "../../testing/variants.ts";
import type { WaterMap } from "../../watermap/index.ts";
import type { Method } from "../method.ts";
import { startRun } from "./begin-run.ts";
import { rowsOf, type Step } from "../step.ts";
import { standardSetup } from "./setup.ts";
import { verdictNow } from "./said-now.ts";
import { turnSays } from "./turn-says.ts";

/** Runs by the other methods: what locks, what is read, and what a second visit begins from. */

const demo = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};
const family = (id: string): WaterMap => {
  const found = PATTERNS.find((p) => p.id === id);
  if (!found) throw new Error(id);
  return starterMap(found);
};
const begun = (map: WaterMap, method: Method): RunDevice => {
  const device = new RunDevice(networkOf(map), { ...standardSetup(), method });
  device.do({ type: "as-found", lineup: {} });
  return device;
};
const tick = (step: Step, n: number) => ({
  type: "row-ticked" as const,
  stepId: step.id,
  row: rowsOf(step)[n]?.key ?? "",
  done: true,
});

describe("air", () => {
  it("is not let in while the gauge reads more than the house allows, nor is the hose off before it reads zero", () => {
    const device = begun(demo("burdock"), "air-antifreeze");
    device.doUntil((s) => s.id === "air:inlet:on");
    const { step } = device;
    const sign = { type: "step-signed" as const, stepId: step.id };
    device.tickAll();
    expect(device.refused(sign)).toBe("reading-missing");
    const read = (si: number, at: Step) =>
      device.do({
        type: "reading",
        stepId: at.id,
        ask: at.asks[0]?.key ?? "",
        si,
        typed: `${si / 1e5} bar`,
      });
    read(410_000, step);
    expect(device.refused(sign)).toBe("pressure");
    read(270_000, step);
    device.do(sign);
    device.doUntil((s) => s.id === "air:inlet:off");
    const off = device.step;
    device.tickAll();
    read(60_000, off);
    expect(device.refused({ ...sign, stepId: off.id })).toBe("pressure");
    read(0, off);
    device.do({ ...sign, stepId: off.id });
    device.doUntil(() => false);
    expect(verdictNow(device.state).holdsToC).toBeLessThanOrEqual(-18);
  });

  it("inside a step opens nothing before what must come first, and says what that is", () => {
    const device = begun(demo("burdock"), "air-antifreeze");
    device.doUntil((s) => s.id.includes(":leg:") && s.id.includes("plug=shut"));
    const { step } = device;
    const rows = rowsOf(step);
    const blow = rows.findIndex((r) => r.action.type === "blow");
    const out = rows.findIndex(
      (r) =>
        r.action.type === "set-valve" &&
        r.action.control === "heater:plug" &&
        r.action.position === "open",
    );
    expect(device.refused(tick(step, blow))).toBe("out-of-order");
    expect(device.refused(tick(step, out))).toBe("out-of-order");
    for (let i = 0; i < out; i++) device.do(tick(step, i));
    device.do(tick(step, out));
    // What was ticked may be taken back.
    device.do({ ...tick(step, out), done: false });
    expect(device.state.ticked).toHaveLength(out);
  });

  it("valves that matter to nothing but one another are ticked in any order", () => {
    const device = begun(demo("teasel"), "antifreeze");
    device.doUntil((s) => s.stage === "bypass");
    const { step } = device;
    device.do(tick(step, 2));
    device.do(tick(step, 0));
    expect(device.state.ticked).toHaveLength(2);
  });

  it("and the fill a week later begins from what it left: no tank, heater or line is drained again", () => {
    const map = demo("haywain");
    const network = networkOf(map);
    const first = begun(map, "air");
    first.doUntil(() => false);
    const said = first.state.unit;
    if (!said) throw new Error("nothing was said");
    expect(said.verdict.holdsToC).toBe(0);
    const second = new RunDevice(network, { ...standardSetup(), method: "antifreeze" });
    second.state = startRun(
      network,
      { ...standardSetup(), method: "antifreeze" },
      {
        from: "record",
        at: "2026-10-14T12:00:00.000Z",
        runId: null,
        lineup: { ...said.lineup },
        apart: [],
        contents: Object.fromEntries(
          [...said.contents].map(([id, held]) => [id, { ...held, plugs: [...held.plugs] }]),
        ),
        measured: {},
      },
    );
    second.do({ type: "as-found", lineup: { ...said.lineup } });
    const ids = second.state.todo.map((s) => s.id);
    expect(ids.filter((id) => /^drain:(tank|heater)/u.test(id))).toEqual([]);
    expect(ids.some((id) => id.startsWith("fill:"))).toBe(true);
    second.doUntil(() => false);
    expect(verdictNow(second.state).holdsToC).toBeLessThanOrEqual(-18);
  });
});

describe("before a valve is turned", () => {
  it("what would come of it is said: what runs out where, and antifreeze on its way into a heater", () => {
    const device = begun(demo("teasel"), "antifreeze");
    device.doUntil((s) => s.id === "drain:fresh-tank");
    expect(turnSays(device.state, rowsOf(device.step)[0]?.key ?? "").join(" ")).toMatch(
      /Water runs out at D3/u,
    );
    expect(turnSays(device.state, "nowhere")).toEqual([]);
    device.doUntil((s) => s.id.startsWith("fill:leg:"));
    const before = device.state;
    expect(turnSays(device.state, rowsOf(device.step)[0]?.key ?? "").join(" ")).toMatch(
      /Antifreeze goes into Heater/u,
    );
    expect(device.state).toBe(before);
  });
});

describe("a heater without a drain", () => {
  it("counts for what was sucked out of it: 8.5 of 10 L is safe, 0.5 L is not", () => {
    const by = (si: number) => {
      const device = begun(family("P04"), "suction");
      device.doUntil((s) => s.id === "drain:heater:suck");
      const { step } = device;
      device.do({
        type: "reading",
        stepId: step.id,
        ask: "recovered:heater",
        si,
        typed: `${si * 1000} L`,
      });
      device.tickAll();
      device.do({ type: "step-signed", stepId: step.id });
      return verdictNow(device.state).owners.find((o) => o.id === "heater");
    };
    expect(by(0.0085)).toMatchObject({ state: "room for ice", holdsToC: null });
    expect(by(0.0005)).toMatchObject({ state: "water", holdsToC: 0 });
  });
});
