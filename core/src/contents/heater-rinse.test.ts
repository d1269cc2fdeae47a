import { describe, expect, it } from "vitest";
import { burdock, plover } from "../examples/index.ts";
import { rinsedInEpanet } from "../testing/epanet.ts";
import { networkOf } from "../testing/variants.ts";
import { heatersOf, inUseLineup, type WaterMap } from "../watermap/index.ts";
import { type Drive, findFlow, push, startingContents, strengthOf, water } from "./index.ts";

const STEP_M3 = 0.0005;
const STRENGTH = 0.3;
const HEATER_VOLUMES = 4;

/** Clean water from the tank through a heater to a hot tap, all on the way filled with a tracer before: what comes, step by step. */
const rinsed = (map: WaterMap, tap: string) => {
  const network = networkOf(map);
  const [heater] = heatersOf(network);
  const pump = network.controls.find((c) => c.spec.role === "switch");
  if (!heater || !pump) throw new Error("no heater, or no pump");
  const lineup = { ...inUseLineup(network), [tap]: "open", [pump.key]: "on" };
  const situation = { network, lineup, apart: [] };
  const drive: Drive = { kind: "pump", switchKey: pump.key };
  const found = findFlow(situation, drive);
  if (!found.ok) throw new Error("nothing flows");
  const watch = found.flow.opening.find((o) => o.at.use === "outlet" && o.share > 0.9)?.at.id ?? "";
  const cells = network.cells;
  const order = found.flow.order.filter((c) => cells[c]?.kind?.role.vessel !== "fresh");
  const at = order.indexOf(heater.cell);
  const capacity = (all: readonly number[]): number =>
    all.reduce((s, c) => s + (cells[c]?.capacityM3 ?? 0), 0);
  let contents = startingContents(network).map((held, i) => {
    const volumeM3 = cells[i]?.capacityM3 ?? 0;
    if (cells[i]?.kind?.role.vessel === "fresh") return { ...held, plugs: [water(volumeM3)] };
    return order.includes(i) && volumeM3 > 0
      ? {
          ...held,
          plugs: [{ waterM3: volumeM3 * (1 - STRENGTH), glycolM3: volumeM3 * STRENGTH }],
        }
      : held;
  });
  const throughM3 = (cells[heater.cell]?.capacityM3 ?? 0) * HEATER_VOLUMES;
  const shares: number[] = [];
  for (let done = 0; done < throughM3 - STEP_M3 / 2; done += STEP_M3) {
    const result = push(situation, contents, { drive, productStrength: 0, watch, maxM3: STEP_M3 });
    contents = [...result.contents];
    shares.push(strengthOf(result.watched) / STRENGTH);
  }
  return {
    shares,
    asked: {
      beforeM3: capacity(order.slice(0, at)),
      vesselM3: cells[heater.cell]?.capacityM3 ?? 0,
      afterM3: capacity(order.slice(at + 1)),
      throughM3,
      stepM3: STEP_M3,
    },
  };
};

describe("what a heater holds thins as in EPANET 2.3's tank of complete mixing (by epanet-js)", () => {
  it.each([
    ["Plover", plover, "sink:hot"],
    ["Burdock", burdock, "sink:hot"],
  ] as const)("%s: within two in a hundred all along", async (_, map, tap) => {
    const { shares, asked } = rinsed(map, tap);
    expect(asked.vesselM3).toBeGreaterThan(0.005);
    const theirs = await rinsedInEpanet(asked);
    expect(theirs.length).toBe(shares.length);
    // It begins full of the tracer, and ends with little of it.
    expect(shares[0]).toBeGreaterThan(0.95);
    expect(shares.at(-1)).toBeLessThan(0.05);
    shares.forEach((share, i) => {
      // Ours is the mean of a step, theirs the end of it.
      const [from, to] = [theirs[i - 1] ?? 1, theirs[i] ?? 0];
      expect(Math.abs(share - (from + to) / 2)).toBeLessThan(0.02);
    });
  });
});
