import { describe, expect, it } from "vitest";
import { EXAMPLE_MAPS } from "../examples/index.ts";
import { huntsOn } from "../testing/hunts.ts";
import { networkOf } from "../testing/variants.ts";
import { jointsIn, pressedCells, pressureSources, shutForTest, testSections } from "./index.ts";

const demos = EXAMPLE_MAPS.map((m) => [m.name, m] as const);

describe("where it leaks", () => {
  it.each(demos)("on %s is found by halving, wherever it is put", (_, map) => {
    const found = huntsOn(networkOf(map));
    if (!found) return;
    expect(found.worst).toBeLessThanOrEqual(found.bound);
    expect(found.worst).toBeLessThanOrEqual(Math.max(found.worstInOrder, found.bound - 1));
  });

  it("is sooner found by halving than by trying one valve after another", () => {
    const cruiser = EXAMPLE_MAPS.find((m) => m.id === "turnstone");
    if (!cruiser) throw new Error("no Turnstone");
    const found = huntsOn(networkOf(cruiser));
    expect(found?.sections).toBeGreaterThan(10);
    expect(found?.worst ?? 99).toBeLessThan(found?.worstInOrder ?? 0);
  });

  it.each(demos)(
    "on %s no joint of what is pressed is in no section, and none in two",
    (_, map) => {
      const network = networkOf(map);
      for (const source of pressureSources(network)) {
        const pressed = pressedCells(network, shutForTest(network), source.cell);
        const all = jointsIn(network, pressed).map((j) => j.id);
        const bySection = testSections(network, pressed).flatMap((s) =>
          jointsIn(network, new Set(s.cells)).map((j) => j.id),
        );
        expect(new Set(bySection).size).toBe(bySection.length);
        const ids = testSections(network, pressed).map((section) => section.id);
        expect(new Set(ids).size).toBe(ids.length);
        // What stands in a valve's own ball is of neither side; every other joint is swept.
        expect(all.filter((id) => !bySection.includes(id))).toEqual([]);
      }
    },
  );
});
