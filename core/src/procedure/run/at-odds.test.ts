import { describe, expect, it } from "vitest";
import { teasel } from "../../examples/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { networkOf } from "../../testing/variants.ts";
import { atOdds, standardSetup } from "./index.ts";

const begun = (): RunDevice => {
  const device = new RunDevice(networkOf(teasel), standardSetup());
  device.do({ type: "as-found", lineup: {} });
  return device;
};
/** Reads something at the step in hand, does the rest of it and signs. */
const reading = (device: RunDevice, kind: string, si: number): void => {
  const { step } = device;
  const ask = step.asks.find((a) => a.kind === kind);
  if (!ask) throw new Error(`no ${kind} is asked at ${step.id}`);
  device.do({ type: "reading", stepId: step.id, ask: ask.key, si, typed: `${si}` });
  device.tickAll();
  device.do({ type: "step-signed", stepId: step.id });
};
const readAt = (stepId: string, si: number): RunDevice => {
  const device = begun();
  device.doUntil((s) => s.id === stepId);
  reading(device, "strength", si);
  return device;
};
const jugs = (broughtM3: number, leftM3: number): RunDevice => {
  const device = begun();
  device.doUntil((s) => s.asks.some((a) => a.kind === "antifreeze-in"));
  reading(device, "antifreeze-in", broughtM3);
  device.doUntil((s) => s.asks.some((a) => a.kind === "antifreeze-left"));
  reading(device, "antifreeze-left", leftM3);
  return device;
};

describe("what was read and cannot all be true", () => {
  it("is nothing where it all agrees", () => {
    const device = begun();
    device.doUntil(() => false);
    expect(device.state.unit?.odds).toEqual([]);
    const usedM3 = device.state.physical.drawnM3;
    expect(jugs(0.03, 0.03 - usedM3).state.unit?.odds).toEqual([]);
  });

  it("is a strength beyond the product's", () => {
    // The product has 50 %, the instrument reads to two points.
    expect(readAt("fill:basin:hot", 0.52).state.unit?.odds).toEqual([]);
    expect(readAt("fill:basin:hot", 0.53).state.unit?.odds).toEqual([
      expect.stringMatching(/^Up to 53 % was read \(Basin tap, hot\), and the product has 50 %/u),
    ]);
  });

  it("counts for no more than the product has", () => {
    const device = readAt("fill:basin:hot", 0.6);
    const measured = [...device.state.physical.measured].find(
      ([cell]) => device.state.network.cells[cell]?.id === "basin:hot",
    )?.[1];
    expect(measured).toBe(0.5);
    expect(device.state.readings.find((r) => r.stepId === "fill:basin:hot")?.si).toBe(0.6);
  });

  it("is nothing at all where plenty should have arrived", () => {
    expect(readAt("fill:basin:hot", 0.01).state.unit?.odds).toEqual([
      expect.stringContaining("nothing of it has arrived"),
    ]);
  });

  it("is said at once, before the step is signed", () => {
    const device = begun();
    device.doUntil((s) => s.id === "fill:basin:hot");
    device.do({
      type: "reading",
      stepId: "fill:basin:hot",
      ask: device.step.asks[0]?.key ?? "",
      si: 0.6,
      typed: "60 %",
    });
    expect(atOdds(device.state)).toHaveLength(1);
  });

  it("is less out of the jugs than the unit is said to hold, and more than can be accounted for", () => {
    expect(jugs(0.03, 0.028).state.unit?.odds).toEqual([
      expect.stringContaining("{m3:0.002} left the jugs, but by readings and volumes"),
    ]);
    expect(jugs(0.06, 0.02).state.unit?.odds).toEqual([
      expect.stringContaining("{m3:0.04} left the jugs"),
    ]);
  });

  it("stays with the record, and goes when the reading is corrected", () => {
    const device = jugs(0.03, 0.028);
    device.doUntil(() => false);
    expect(device.state.unit?.odds).toHaveLength(1);
    const left = device.state.readings.find((r) => r.kind === "antifreeze-left");
    device.do({
      type: "corrected",
      event: left?.event ?? "",
      si: 0.018,
      typed: "18 L",
      reason: "slip of the pen",
    });
    expect(device.state.unit?.odds).toEqual([]);
  });
});
