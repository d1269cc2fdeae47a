import { frostVerdict, type OwnerVerdict, startingContents } from "@uppershed/core/contents";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { buildNetwork } from "@uppershed/core/watermap";
import { describe, expect, it } from "vitest";
import { hang, placeOn, scaleFor, spread } from "./ladder-marks.ts";

const owner = (id: string, holdsToC: number | null, rank = 0): OwnerVerdict => ({
  id,
  name: id,
  state: "water",
  holdsToC,
  evidence: "",
  source: "assumed",
  strength: 0,
  part: true,
  rank,
});

describe("the frost ladder", () => {
  const scale = scaleFor([-34, -12], -18);

  it("has a scale that takes in the winter low and the coldest part", () => {
    expect(scale.footC).toBeLessThanOrEqual(-36);
    expect(scale.ticks[0]).toBe(0);
    expect(placeOn(scale, scale.topC)).toBe(0);
    expect(placeOn(scale, scale.footC)).toBe(1);
    expect(placeOn(scale, -100)).toBe(1);
  });

  it("gathers neighbours, leaves out what has no limit, and names the highest rank first", () => {
    const marks = hang(
      [owner("a pipe", 0), owner("the heater", 0, 2), owner("a tap", -26), owner("dry", null)],
      scale,
      0.08,
    );
    expect(marks.map((m) => m.owners.map((o) => o.id))).toEqual([
      ["the heater", "a pipe"],
      ["a tap"],
    ]);
  });

  it("pushes the words of close marks apart, and only those", () => {
    const marks = hang([owner("a", 0), owner("b", -3), owner("c", -30)], scale, 0.1);
    const [a, b, c] = marks;
    expect((b?.textAt ?? 0) - (a?.textAt ?? 0)).toBeCloseTo(0.1, 9);
    expect(c?.textAt).toBe(c?.at);
  });

  it("places words of unlike height one below the other, and up from the foot where they would run over it", () => {
    expect(spread([0.1, 0.2, 0.8], [0.05, 0.05, 0.05])).toEqual([0.1, 0.2, 0.8]);
    const [first = 0, second = 0, last = 0] = spread([0.1, 0.12, 0.98], [0.3, 0.1, 0.1]);
    expect(first).toBeCloseTo(0.1, 9);
    expect(second).toBeCloseTo(0.4, 9);
    expect(last).toBeCloseTo(0.9, 9);
    const crowded = spread([0.7, 0.8, 0.9], [0.2, 0.2, 0.2]);
    expect(crowded.map((at) => Number(at.toFixed(9)))).toEqual([0.4, 0.6, 0.8]);
  });

  it("hangs every part of a demo boat once, few marks for many parts", () => {
    for (const map of EXAMPLE_MAPS) {
      const network = buildNetwork(map);
      const { owners } = frostVerdict(network, startingContents(network));
      const marks = hang(owners, scale, 0.08);
      expect(marks.flatMap((m) => m.owners)).toHaveLength(
        owners.filter((o) => o.holdsToC !== null).length,
      );
      expect(marks.length).toBeLessThanOrEqual(3);
    }
  });
});
