import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { fillIn } from "../../quantity/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { buildNetwork } from "../../watermap/index.ts";
import type { Method } from "../method.ts";
import { standardSetup, tellRun } from "./index.ts";

const network = (id: string) => {
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(id);
  return buildNetwork(map);
};

/** A run done as asked, with what cannot be done answered first, and signed. */
const closed = (
  id: string,
  before: (device: RunDevice) => void = () => undefined,
  method: Method = "antifreeze",
) => {
  const device = new RunDevice(network(id), { ...standardSetup(), method });
  device.do({ type: "as-found", lineup: {} });
  before(device);
  device.doUntil(() => false);
  const tagged = device.looseEnds().map((end) => ({ id: end, tag: "red tag" }));
  device.do({ type: "as-left", lineup: {}, tagged });
  device.do({ type: "closed", name: "R. Amadi" });
  return device.state;
};
const linesOf = (state: ReturnType<typeof closed>, title: string): string =>
  tellRun(state)
    ?.sections.find((s) => s.title === title)
    ?.lines.join("\n") ?? "";

describe("a winterizing told to its owner", () => {
  it("is nothing while the run is open", () => {
    const device = new RunDevice(network("teasel"), standardSetup());
    device.do({ type: "as-found", lineup: {} });
    expect(tellRun(device.state)).toBeUndefined();
  });

  it("says what was done and with what, how cold it holds and what is weakest, how it was left, and what spring owes", () => {
    const state = closed("teasel");
    const told = tellRun(state);
    expect(told?.holdsToC).toBeLessThan(-18);
    expect(linesOf(state, "What was done")).toMatch(/Propylene glycol antifreeze, 50 %/u);
    expect(linesOf(state, "What was done")).toMatch(
      /It holds to \{c:-2\d[^}]*\}.*weakest part is/su,
    );
    expect(linesOf(state, "How it was left")).not.toBe("");
    expect(linesOf(state, "What spring owes")).toContain("Do not switch the heater on");
    expect(linesOf(state, "What spring owes")).toContain("Turn back");
    const shown = (told?.sections ?? []).flatMap((s) => s.lines).map((l) => fillIn(l, "us"));
    for (const line of shown) expect(line).not.toMatch(/[{}]|undefined|NaN/u);
  });

  it("says by which method, and never of antifreeze in lines that were only blown", () => {
    const said = (method: Method): string =>
      linesOf(closed("wagtail", undefined, method), "What was done");
    expect(said("antifreeze")).toContain("Drained by gravity, then filled with antifreeze: ");
    expect(said("air-antifreeze")).toContain("blown out with air, then filled with antifreeze: ");
    expect(said("air")).toContain("blown out with air, antifreeze in the traps only: ");
    expect(said("dry")).toContain("left dry, antifreeze in the traps only: ");
    expect(linesOf(closed("wagtail", undefined, "air"), "What was read")).toContain("as expected");
  });

  it("names what was not done with its reason, and what is not protected for it", () => {
    const state = closed("teasel", (device) => {
      device.doUntil((step) => step.title.startsWith("Deck shower"));
      const step = device.state.todo[0];
      device.do({
        type: "step-cannot",
        stepId: step?.id ?? "",
        parts: ["deck-shower"],
        reason: "seized",
      } as never);
    });
    expect(linesOf(state, "What was not done")).toContain("seized");
    expect(linesOf(state, "What was not done")).toMatch(
      /Not protected: Deck shower.*holds to \{c:0\}/u,
    );
  });
});
