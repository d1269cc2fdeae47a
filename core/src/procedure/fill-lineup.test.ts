import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { teasel } from "../examples/index.ts";
import { networkOf, noBypass, singleValveBypass } from "../testing/variants.ts";
import type { Network } from "../watermap/index.ts";
import { findFillLineup, forcedReach, sideCells } from "./fill-lineup.ts";
import { situationOf } from "../contents/index.ts";
import { startPhysical } from "./physical.ts";
import { cellAt } from "../watermap/index.ts";

const valvesOf = (network: Network) =>
  network.controls.filter(
    (c) => (c.spec.role === "valve" || c.spec.role === "selector") && c.key !== "v2",
  );
const pumpOut = (network: Network): number => cellAt(network, "pump");

describe("the lineup for a fill", () => {
  it("goes round the heater where there is a way, by the fewest turns", () => {
    const network = networkOf(teasel);
    const found = findFillLineup(
      network,
      startPhysical(network),
      pumpOut(network),
      valvesOf(network),
    );
    expect(found.turns).toEqual({ v5: "shut", v6: "shut", v7: "open" });
    expect(found.heaters).toEqual([]);
  });

  it("takes the heater in when that is wanted", () => {
    const network = networkOf(teasel);
    const found = findFillLineup(
      network,
      startPhysical(network),
      pumpOut(network),
      valvesOf(network),
      true,
    );
    expect(found.turns).toMatchObject({ v5: "open", v6: "open" });
    expect(found.heaters).toEqual(["heater"]);
  });

  it("fills the heater where there is no way round it, sooner than leave the hot side dry", () => {
    const network = networkOf(noBypass());
    const found = findFillLineup(
      network,
      startPhysical(network),
      pumpOut(network),
      valvesOf(network),
    );
    expect(found.turns).toEqual({ v5: "open", v6: "open" });
    expect(found.heaters).toEqual(["heater"]);
  });

  it("turns one lever where one is all there is", () => {
    const network = networkOf(singleValveBypass());
    expect(
      findFillLineup(network, startPhysical(network), pumpOut(network), valvesOf(network)).turns,
    ).toMatchObject({ vb: "b" });
  });

  it("leaves alone what may not be turned", () => {
    const network = networkOf(teasel);
    const found = findFillLineup(network, startPhysical(network), pumpOut(network), []);
    expect(found.turns).toEqual({});
    expect(found.heaters).toEqual(["heater"]);
  });

  it("opens a dozen shut branch valves, one after another where they are too many to try in every combination", () => {
    const count = 12;
    const parts = [
      part("pump", "diaphragm-pump", "Pump", 0),
      part("tank", "fresh-tank", "Tank", 0),
    ];
    const runs = [run("tank.outlet", "pump.in", "hose-13", 1, "suction")];
    let from = "pump.out";
    for (let i = 0; i < count; i++) {
      parts.push(
        part(`t${i}`, "tee", `Tee ${i}`, 0),
        part(`b${i}`, "ball-valve", `Valve ${i}`, 0),
        part(`tap${i}`, "single-tap", `Tap ${i}`, 0),
      );
      runs.push(
        run(from, `t${i}.a`, "metric-15", 1, "cold"),
        run(`t${i}.b`, `b${i}.a`, "metric-15", 1, "cold"),
        run(`b${i}.b`, `tap${i}.in`, "metric-15", 1, "cold"),
      );
      from = `t${i}.c`;
    }
    const network = networkOf(
      compose(
        {
          id: "manifold",
          name: "Manifold",
          craft: "bench",
          lineup: Object.fromEntries(
            parts.filter((p) => p.kind === "ball-valve").map((p) => [p.id, "shut"]),
          ),
        },
        parts,
        runs,
      ),
    );
    const found = findFillLineup(
      network,
      startPhysical(network),
      cellAt(network, "pump"),
      valvesOf(network),
    );
    expect(found.outletCells).toBe(count);
    expect(Object.values(found.turns)).toEqual(Array.from({ length: count }, () => "open"));
  });
});

describe("forced reach", () => {
  it("stops at shut valves and at checks against it", () => {
    const network = networkOf(teasel);
    const reached = forcedReach(situationOf(network, startPhysical(network)), pumpOut(network));
    const has = (id: string): boolean => reached.has(cellAt(network, id));
    expect(has("galley:hot")).toBe(true);
    expect(has("shore-inlet")).toBe(false);
    expect(has("strainer")).toBe(false);
    expect(sideCells(network, "shower")).toHaveLength(3);
  });
});
