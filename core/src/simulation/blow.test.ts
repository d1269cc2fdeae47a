import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { networkOf } from "../testing/variants.ts";
import { simActions, type SimActionInput, simStart, type SimState, simulate } from "./index.ts";

/** Twelve metres of line from an inlet to a tap: 0.0112 m bore is 1.2 L of water. */
const line = networkOf(
  compose(
    { id: "line", name: "Line", craft: "bench" },
    [
      part("in", "pressurised-inlet", "Inlet", 0, { params: { builtInCheck: false } }),
      part("tap", "single-tap", "Tap", 0),
    ],
    [run("in.out", "tap.in", "pex-1/2", 12, "cold")],
  ),
);
const REGULATOR_PA = 200_000;
const FULL_PA = 800_000;
const RECEIVER_M3 = 2e-4;
const ATMOSPHERE_PA = 101_325;

const blown = (state: SimState, more: Partial<Extract<SimActionInput, { do: "blow" }>> = {}) => {
  const blow = {
    do: "blow" as const,
    at: "in",
    regulatorPa: REGULATOR_PA,
    fullPa: FULL_PA,
    receiverM3: RECEIVER_M3,
    deliveryM3PerS: 1e-4,
  };
  const result = simulate(line, state, simActions.parse([{ ...blow, ...more }]));
  if (!result.ok) throw new Error(result.problem);
  const [first] = result.after;
  if (!first?.air) throw new Error("no air");
  return { ...first.air, state: first.state };
};

const water = simStart(line, { lineup: { in: "shut", tap: "open" } });

describe("a receiver that blows a line", () => {
  const first = blown(water);
  const second = blown(first.state);

  it("carries nearly all of the water out, and nothing the second time", () => {
    expect(first.outM3).toBeGreaterThan(0.9 * (first.outM3 + first.remainsM3));
    expect(second.outM3).toBeLessThan(0.02 * first.outM3);
  });

  it("spends the air that takes the water's place, squeezed: it must be filled as often as that needs", () => {
    const freeM3 = (first.outM3 * (REGULATOR_PA + ATMOSPHERE_PA)) / ATMOSPHERE_PA;
    const eachM3 = ((FULL_PA - REGULATOR_PA) * RECEIVER_M3) / ATMOSPHERE_PA;
    const needed = Math.floor(freeM3 / eachM3);
    expect(needed).toBeGreaterThan(1);
    expect(first.rounds - second.rounds).toBeGreaterThanOrEqual(needed - 1);
    expect(first.seconds).toBeGreaterThan(second.seconds);
  });

  it("waits less for a stronger compressor and a larger receiver", () => {
    expect(blown(water, { deliveryM3PerS: 1e-2 }).seconds).toBeLessThan(first.seconds);
    expect(blown(water, { receiverM3: 0.1 }).rounds).toBe(1);
  });
});
