import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { plover, teasel } from "../examples/index.ts";
import { startPhysical } from "../procedure/physical.ts";
import { networkOf } from "../testing/variants.ts";
import {
  type Contents,
  drain,
  liquidIn,
  liquidVolume,
  pour,
  product,
  runDown,
  situationOf,
  strengthOf,
  sum,
  volumeOf,
  water,
} from "./index.ts";
import { cellAt } from "../watermap/index.ts";

const boat = networkOf(teasel);
const start = startPhysical(boat);
const at = (id: string): number => cellAt(boat, id);
const held = (contents: Contents, id: string): number => liquidVolume(contents[at(id)]);

describe("down the waste", () => {
  it("a splash is thinned by what stands in the trap: the overflow carries some away", () => {
    const splash = pour(
      situationOf(boat, start),
      start.contents,
      at("trap-galley"),
      product(0.0001, 0.5),
    );
    const strength = strengthOf(liquidIn(splash.contents[at("trap-galley")]));
    expect(strength).toBeCloseTo((0.0001 * 0.5) / 0.00035, 9);
    expect(held(splash.contents, "trap-galley")).toBeCloseTo(0.00025, 12);
    expect(held(splash.contents, "grey-tank")).toBeCloseTo(
      held(start.contents, "grey-tank") + 0.0001,
      12,
    );
    expect(splash.left).toEqual([]);
  });

  it("a tank that is full lets the rest run to the ground", () => {
    const result = runDown(situationOf(boat, start), start.contents, at("grey-tank"), water(0.1));
    expect(held(result.contents, "grey-tank")).toBeCloseTo(0.09, 12);
    expect(volumeOf(sum(result.left.map((s) => s.liquid)))).toBeCloseTo(
      0.1 - (0.09 - held(start.contents, "grey-tank")),
      12,
    );
  });

  it("a sink with a skin fitting runs overboard", () => {
    const network = networkOf(plover);
    const physical = startPhysical(network);
    const result = pour(
      situationOf(network, physical),
      physical.contents,
      cellAt(network, "trap-sink"),
      water(0.002),
    );
    expect(result.left).toMatchObject([{ to: "overboard" }]);
    expect(volumeOf(sum(result.left.map((s) => s.liquid)))).toBeCloseTo(0.002, 12);
  });

  it("nothing poured is nothing changed", () => {
    expect(pour(situationOf(boat, start), start.contents, at("trap-galley"), water(0))).toEqual({
      contents: start.contents,
      left: [],
    });
  });

  it("what a tap gives falls through its own trap, and a deck shower's to the ground", () => {
    const lineup = {
      ...start.lineup,
      "galley:cold": "open",
      "deck-shower:cold": "open",
      d1: "open",
    };
    const result = drain(situationOf(boat, { ...start, lineup }), start.contents);
    const ground = result.left
      .filter((s) => s.to === "ground")
      .reduce((all, s) => all + volumeOf(s.liquid), 0);
    expect(ground).toBeGreaterThan(0);
    for (const spill of result.left) expect(["d1:out", "deck-shower:head"]).toContain(spill.from);
  });
});

describe("drained again", () => {
  it("gives nothing more: once is enough while nothing is turned", () => {
    const lineup = {
      ...start.lineup,
      "galley:cold": "open",
      "galley:hot": "open",
      d1: "open",
      d2: "open",
      d3: "open",
    };
    const once = drain(situationOf(boat, { ...start, lineup }), start.contents);
    const twice = drain(situationOf(boat, { ...start, lineup }), once.contents);
    expect(twice.out.size).toBe(0);
    expect(twice.contents.map(liquidVolume)).toEqual(once.contents.map(liquidVolume));
  });

  it("says which parts keep their water and why", () => {
    const lineup = { ...start.lineup, d1: "open" };
    const { kept } = drain(situationOf(boat, { ...start, lineup }), start.contents);
    const why = (id: string) => kept.find((k) => k.cell === at(id))?.why;
    expect(why("galley:hot")).toBe("no way out");
    expect(why("r-t-gc-b-galley-cold")).toBe("no air can enter");
    expect(why("pump")).toBeDefined();
  });

  it("a tank high above a tap runs out by it, one below it does not", () => {
    const bench = (tankM: number) =>
      networkOf(
        compose(
          { id: "b", name: "Bench", craft: "bench" },
          [
            part("tank", "fresh-tank", "Tank", tankM, {
              params: { volumeL: 10, depthM: 0.2, level: 1 },
            }),
            part("tap", "single-tap", "Tap", 1),
          ],
          [run("tank.outlet", "tap.in", "pex-1/2", 1, "cold")],
        ),
      );
    const left = (tankM: number): number => {
      const network = bench(tankM);
      const physical = startPhysical(network, { tap: "open" });
      return liquidVolume(
        drain(situationOf(network, physical), physical.contents).contents[cellAt(network, "tank")],
      );
    };
    expect(left(2)).toBeLessThan(0.0015);
    expect(left(0)).toBeCloseTo(0.01, 9);
  });
});
