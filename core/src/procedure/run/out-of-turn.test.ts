import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { networkOf } from "../../testing/variants.ts";
import { rowsOf } from "../step.ts";
import { standardSetup } from "./setup.ts";
import { verdictNow } from "./said-now.ts";

const teasel = (): RunDevice => {
  const map = EXAMPLE_MAPS.find((m) => m.id === "teasel");
  if (!map) throw new Error("no Teasel");
  const device = new RunDevice(networkOf(map), standardSetup());
  device.do({ type: "as-found", lineup: {} });
  return device;
};
const bring = (stepId: string) => ({ type: "step-brought" as const, stepId });

describe("a later step", () => {
  it("is done now where nothing comes out otherwise, and the rest keeps its order", () => {
    const device = teasel();
    const before = device.state.todo.map((s) => s.id);
    device.do(bring("drain:grey-tank"));
    expect(device.state.todo.map((s) => s.id)).toEqual([
      "drain:grey-tank",
      ...before.filter((id) => id !== "drain:grey-tank"),
    ]);
    device.doUntil(() => false);
    const plain = teasel();
    plain.doUntil(() => false);
    expect(verdictNow(device.state).holdsToC).toBeCloseTo(verdictNow(plain.state).holdsToC ?? 0, 6);
  });

  it("waits for what it needs, by name", () => {
    const device = teasel();
    expect(device.refused(bring("drain:heater"))).toBe("out-of-order");
    expect(device.refused(bring("nowhere"))).toBe("unknown-step");
    expect(
      device.refused({ type: "row-ticked", stepId: "drain:heater", row: "0:confirm", done: true }),
    ).toBe("out-of-order");
  });

  it("is refused where it would come to something else: antifreeze drawn while the lines are full of water", () => {
    const device = teasel();
    device.doUntil((s) => s.id === "drain:lines");
    expect(device.state.todo.map((s) => s.id)).toContain("fill:jug");
    expect(device.refused(bring("fill:jug"))).toBe("out-of-order");
    // A trap may be dosed before: nothing runs through it any more that would thin it.
    device.doUntil((s) => s.stage === "traps");
    const last = device.state.todo.findLast((s) => s.stage === "traps");
    expect(device.refused(bring(last?.id ?? ""))).toBe("taken");
  });

  it("is refused while rows of the step in hand are ticked", () => {
    const device = teasel();
    const { step } = device;
    device.do({ type: "row-ticked", stepId: step.id, row: rowsOf(step)[0]?.key ?? "", done: true });
    expect(device.refused(bring("drain:grey-tank"))).toBe("out-of-order");
  });

  it("comes to the same whatever is brought forward wherever that is allowed", () => {
    const device = teasel();
    let brought = 0;
    for (let n = 0; device.state.todo.length > 0; n++) {
      const wish = device.state.todo[(n * 7) % device.state.todo.length];
      if (wish && device.refused(bring(wish.id)) === "taken" && wish !== device.state.todo[0]) {
        device.do(bring(wish.id));
        brought++;
      }
      device.doStep();
    }
    expect(brought).toBeGreaterThan(1);
    const verdict = verdictNow(device.state);
    expect(verdict.holdsToC).toBeLessThanOrEqual(-18);
  });
});
