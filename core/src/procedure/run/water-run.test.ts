import { describe, expect, it } from "vitest";
import { chlorineOf, liquidIn } from "../../contents/index.ts";
import { plover } from "../../examples/plover.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { networkOf } from "../../testing/variants.ts";
import { WATER_SETTINGS } from "../job.ts";
import {
  fallsShort,
  keptPlanSchema,
  runSetupSchema,
  standardSetup,
  summarize,
  tellRun,
} from "./index.ts";

const network = networkOf(plover);
const setup = {
  ...standardSetup(),
  job: "sanitize" as const,
  water: WATER_SETTINGS,
};
const HOURS = 3600;

/** A sanitizing up to the strip at the start. */
const toStrip = (): RunDevice => {
  const device = new RunDevice(network, setup);
  device.do({ type: "as-found", lineup: {} });
  device.doUntil((s) => s.id.startsWith("stand:strip"));
  return device;
};

const tankMgL = ({ state }: RunDevice): number =>
  chlorineOf(liquidIn(state.physical.contents[network.cellIndex.get("tank:tank") ?? -1]));

/** Signs the step in hand with a strip. */
const withStrip = (device: RunDevice, mgL: number): void => {
  const [ask] = device.step.asks;
  device.read(ask?.key ?? "", mgL);
  device.tickAll();
  device.do({ type: "step-signed", stepId: device.step.id });
};

describe("a sanitizing", () => {
  it("is not ended before it has stood, whatever is ticked; then its clocks go, and it can be rinsed and told", () => {
    const device = toStrip();
    withStrip(device, 50);
    expect(device.step.id).toBe("stand:clock");
    device.doStep();
    expect(device.state.clocks.map((c) => c.label)).toEqual([
      "Has stood long enough",
      "Out at the latest",
    ]);
    expect(device.step.id).toBe("stand:end");
    device.read(device.step.asks[0]?.key ?? "", 40);
    device.tickAll();
    const sign = { type: "step-signed", stepId: device.step.id } as const;
    expect(device.refused(sign)).toBe("too-soon");
    device.wait(4 * HOURS);
    device.do(sign);
    expect(device.state.clocks.map((c) => c.label)).toEqual(["Out at the latest"]);
    device.doUntil(() => false);
    expect(device.state.clocks).toEqual([]);
    device.do({ type: "as-left", lineup: {}, tagged: [] });
    device.do({ type: "closed", name: "R. Amadi" });
    const told = tellRun(device.state)
      ?.sections.flatMap((s) => s.lines)
      .join("\n");
    expect(told).toMatch(/Household bleach|household bleach/u);
    expect(told).toMatch(/50 at the start, 40 at the end/u);
    expect(fallsShort(summarize(device.state), -18)).toBe(false);
  });

  it("doses more where the strip says the bottle gave half, and thinks the bottle weaker from then on", () => {
    const device = toStrip();
    const before = tankMgL(device);
    const first = device.state.done.flatMap((d) => d.step.actions).find((a) => a.type === "dose");
    withStrip(device, 25);
    expect(tankMgL(device)).toBeLessThan(0.6 * before);
    const again = device.state.todo.flatMap((s) => s.actions).find((a) => a.type === "dose");
    // Half of it is lacking, of a bottle of half the strength: about as much again.
    expect((again?.bottleM3 ?? 0) / (first?.bottleM3 ?? 1)).toBeGreaterThan(0.7);
    expect(device.state.todo.some((s) => s.id.startsWith("stand:strip"))).toBe(true);
    device.doUntil((s) => s.id.startsWith("stand:strip"));
    withStrip(device, 50);
    expect(device.step.id).toMatch(/^stand:clock/u);
  });

  it("that did not hold is dosed again, with a clock of its own", () => {
    const device = toStrip();
    withStrip(device, 50);
    device.doStep();
    device.wait(5 * HOURS);
    withStrip(device, 8);
    expect(device.state.todo.some((s) => s.id.startsWith("dose:bleach"))).toBe(true);
    expect(device.state.todo.some((s) => s.id.startsWith("rinse:"))).toBe(true);
    device.doUntil((s) => s.id.startsWith("stand:strip"));
    withStrip(device, 52);
    device.doStep();
    expect(device.step.id).toBe("stand:end:2");
    device.read(device.step.asks[0]?.key ?? "", 45);
    device.tickAll();
    expect(device.refused({ type: "step-signed", stepId: device.step.id })).toBe("too-soon");
    device.wait(5 * HOURS);
    device.do({ type: "step-signed", stepId: device.step.id });
    expect(device.step.id).toMatch(/^rinse:/u);
  });

  it("a strip above the limit is not signed away", () => {
    const device = toStrip();
    withStrip(device, 50);
    device.doStep();
    device.wait(5 * HOURS);
    withStrip(device, 45);
    device.doUntil((s) => s.asks.some((a) => a.kind === "chlorine"));
    device.read(device.step.asks[0]?.key ?? "", 9);
    device.tickAll();
    expect(device.refused({ type: "step-signed", stepId: device.step.id })).toBe("too-much");
    device.read(device.step.asks[0]?.key ?? "", 2);
    device.do({ type: "step-signed", stepId: device.step.id });
  });

  it("its setup and its plan are kept whole, and read again to the word", () => {
    const device = toStrip();
    expect(runSetupSchema.parse(JSON.parse(JSON.stringify(setup)))).toEqual(setup);
    const plan = JSON.parse(JSON.stringify(device.state.plan));
    expect(keptPlanSchema.parse(plan)).toEqual(plan);
    expect(plan.water.lines.length).toBeGreaterThan(4);
  });
});

describe("a spring of a unit that nobody wrote down", () => {
  it("takes nothing for water, and has every outlet run and the heater proved", () => {
    const device = new RunDevice(network, {
      ...standardSetup(),
      job: "spring",
      water: WATER_SETTINGS,
    });
    device.do({ type: "as-found", lineup: {} });
    const ids = device.state.todo.map((s) => s.id);
    const outlets = network.controls.filter((c) => c.spec.role === "outlet").map((c) => c.key);
    for (const key of outlets) expect(ids).toContain(`flush:${key}`);
    expect(ids).toContain("heater:heater:fill");
    device.doUntil(() => false);
    expect(device.state.phase).toBe("as-left");
    const heat = device.state.done.at(-1)?.step.id;
    expect(heat).toBe("prove:heater:heat");
  });
});
