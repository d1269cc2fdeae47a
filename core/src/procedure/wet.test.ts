import { cellAt } from "../watermap/index.ts";
import { describe, expect, it } from "vitest";
import { product, water } from "../contents/index.ts";
import { EXAMPLE_MAPS, teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { startPhysical } from "./physical.ts";
import { waterInLines } from "./wet.ts";
import { planWinterize, standardRequest } from "./winterize/index.ts";

const network = networkOf(teasel);
const start = startPhysical(network);
const holding = (id: string, liquid: ReturnType<typeof water>) => ({
  contents: network.cells.map((cell) => ({
    plugs: cell.id === network.cells[cellAt(network, id)]?.id ? [liquid] : [],
    source: "worked out" as const,
  })),
});

describe("water in the lines", () => {
  it.each(EXAMPLE_MAPS.map((m) => [m.name, m] as const))(
    "of %s in use is what they hold, but for the capped pickup hose, the filler, the outlets' air and what an accumulator keeps of it",
    (_, map) => {
      const taken = networkOf(map);
      const wet = waterInLines(taken, startPhysical(taken));
      const dry = taken.cells
        .filter((c) => c.form === "pipe" || c.form === "fitting")
        .reduce((sum, c) => sum + c.capacityM3 * (1 - c.inUseFraction), 0);
      expect(wet.totalM3).toBeCloseTo(wet.capacityM3 - dry, 9);
    },
  );

  it("adds up over where it is", () => {
    const wet = waterInLines(network, start);
    expect(wet.suctionM3 + wet.coldM3 + wet.hotM3 + wet.bodiesM3).toBeCloseTo(wet.totalM3, 12);
    for (const part of [wet.suctionM3, wet.coldM3, wet.hotM3, wet.bodiesM3])
      expect(part).toBeGreaterThan(0);
  });

  it("is told apart by service, and does not count tanks, heaters, traps and waste pipes", () => {
    const litre = water(1e-4);
    expect(waterInLines(network, holding("r-t-gh-b-galley-hot", litre))).toMatchObject({
      hotM3: 1e-4,
      totalM3: 1e-4,
    });
    expect(waterInLines(network, holding("r-strainer-out-pump-in", litre))).toMatchObject({
      suctionM3: 1e-4,
    });
    expect(waterInLines(network, holding("pump", water(5e-5)))).toMatchObject({ bodiesM3: 5e-5 });
    for (const id of ["fresh-tank", "heater", "trap-galley", "r-galley-waste-trap-galley-in"])
      expect(waterInLines(network, holding(id, litre)).totalM3, id).toBe(0);
  });

  it("does not count antifreeze, and does count water with a trace of it", () => {
    expect(waterInLines(network, holding("pump", product(5e-5, 0.3))).totalM3).toBe(0);
    expect(waterInLines(network, holding("pump", product(5e-5, 0.01))).totalM3).toBeCloseTo(
      5e-5,
      12,
    );
  });

  it("goes down to films and drops by the plan", () => {
    const after = waterInLines(network, planWinterize(standardRequest(network, start)).after);
    expect(after.totalM3).toBeLessThan(0.01 * waterInLines(network, start).totalM3);
  });
});
