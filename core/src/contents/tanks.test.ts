import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { networkOf } from "../testing/variants.ts";
import { cellAt, inUseLineup } from "../watermap/index.ts";
import { levelTanks, linkedTanks } from "./tanks.ts";
import { sum, volumeOf, water } from "./index.ts";

/** Two tanks of 100 L and 0.5 m on one floor, joined at a height. */
const pair = (linkM: number) =>
  networkOf(
    compose(
      { id: "pair", name: "Pair", craft: "bench" },
      [
        part("a", "fresh-tank", "A", 0, { params: { volumeL: 100, depthM: 0.5 } }),
        part("b", "fresh-tank", "B", 0, { params: { volumeL: 100, depthM: 0.5 } }),
        part("link", "coupling", "Link", linkM),
      ],
      [
        run("a.link", "link.a", "hose-19", 0.5, "suction"),
        run("link.b", "b.link", "hose-19", 0.5, "suction"),
      ],
    ),
  );

const levelled = (linkM: number, aL: number, bL: number): number[] => {
  const network = pair(linkM);
  const at = ["a", "b"].map((id) => cellAt(network, id));
  const held = network.cells.map((_, i) =>
    at.includes(i) ? [water((i === at[0] ? aL : bL) / 1000)] : [],
  );
  const groups = linkedTanks({ network, lineup: inUseLineup(network), apart: [] });
  levelTanks(network, groups, held);
  return at.map((i) => 1000 * volumeOf(sum(held[i] ?? [])));
};

describe("linked tanks", () => {
  it("stand level, and nothing is lost", () => {
    const [a, b] = levelled(0, 80, 20);
    expect(a).toBeCloseTo(50, 6);
    expect(b).toBeCloseTo(50, 6);
  });

  it("that hold more than both can keep what is over in the first, and nothing is lost", () => {
    const [a = 0, b = 0] = levelled(0, 130, 95);
    expect(a + b).toBeCloseTo(225, 6);
    expect(b).toBeCloseTo(100, 6);
  });

  it("give only what stands over the highest place between them", () => {
    // The link's hump at 0.25 m: half of each tank stays in it.
    const [a, b] = levelled(0.25, 80, 0);
    expect(a).toBeCloseTo(50, 6);
    expect(b).toBeCloseTo(30, 6);
    expect(levelled(0.25, 40, 0)).toEqual([40, 0]);
  });
});
