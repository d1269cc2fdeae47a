import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../../examples/index.ts";
import { RunDevice } from "../../testing/run-device.ts";
import { buildNetwork } from "../../watermap/index.ts";
import { standardSetup, tagWords } from "./index.ts";

const wordsOf = (id: string) => {
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(id);
  const device = new RunDevice(buildNetwork(map), standardSetup());
  device.do({ type: "as-found", lineup: {} });
  const before = tagWords(device.state);
  device.doUntil(() => false);
  return { before, after: tagWords(device.state) };
};

describe("a hanging tag", () => {
  it("locks out a heater that was emptied, and says that the lines hold antifreeze", () => {
    const { before, after } = wordsOf("teasel");
    expect(before.others.join()).not.toContain("Antifreeze");
    expect(after.lockOut).toEqual(["Heater is empty. Do not heat."]);
    expect(after.others[0]).toMatch(/Antifreeze in the lines/u);
  });

  it("locks out one that had to be filled with antifreeze", () => {
    expect(wordsOf("plover").after.lockOut).toEqual(["Heater holds antifreeze. Do not heat."]);
  });

  it("locks out every heater of several", () => {
    expect(wordsOf("turnstone").after.lockOut).toHaveLength(2);
  });
});
