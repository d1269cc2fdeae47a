import { describe, expect, it } from "vitest";
import { teasel } from "../../examples/index.ts";
import { strengthForFreezing } from "../../fluid/index.ts";
import { networkOf } from "../../testing/variants.ts";
import { startPhysical } from "../physical.ts";
import { planWinterize, standardRequest, targetStrengthFor } from "./index.ts";

/** A plain generator of our own (Lehmer, 16807 modulo 2^31 - 1; Park and Miller 1988), unlike the planner's. */
const lehmer = (seed: number): (() => number) => {
  let state = seed;
  return () => {
    state = (state * 16_807) % 2_147_483_647;
    return state / 2_147_483_647;
  };
};

describe("the figure to carry", () => {
  it("is met by nine jobs in ten, and half of them take less than the middle one, by other dice than the planner's", () => {
    const network = networkOf(teasel);
    const plan = planWinterize(standardRequest(network, startPhysical(network)));
    const { lines, medianM3, p90M3 } = plan.antifreeze;
    const of = (label: RegExp): number =>
      lines.find((l) => label.test(l.label))?.volumeM3 ?? Number.NaN;
    const runs = plan.steps.filter((s) => s.stage === "fill" && s.antifreezeM3 > 0).length;
    const random = lehmer(4711);
    const between = (low: number, high: number): number => low + (high - low) * random();
    // A normal deviate as the sum of twelve (central limit), unlike the planner's.
    const normal = (): number => Array.from({ length: 12 }, random).reduce((s, x) => s + x, -6);
    const jobs = Array.from({ length: 8000 }, () => {
      const lengths = Math.max(0.5, 1 + 0.15 * normal());
      const over = Array.from({ length: runs }, () => between(0.02e-3, 0.25e-3)).reduce(
        (s, x) => s + x,
        0,
      );
      return (
        of(/^Pipe/u) * lengths +
        of(/^Pump/u) +
        of(/^Run on/u) * lengths * between(0.8, 1.5) +
        over +
        of(/^Traps/u) * between(0.95, 1.25)
      );
    });
    const below = (m3: number): number => jobs.filter((j) => j < m3).length / jobs.length;
    expect(below(p90M3)).toBeGreaterThan(0.88);
    expect(below(p90M3)).toBeLessThan(0.92);
    expect(below(medianM3)).toBeGreaterThan(0.47);
    expect(below(medianM3)).toBeLessThan(0.53);
  });
});

describe("the strength to read", () => {
  it("lies over what the cold asks for, by what a refractometer can err", () => {
    for (const winterLowC of [-22, -26, -30]) {
      const needed = strengthForFreezing(winterLowC - 5);
      if (!needed.ok) throw new Error("not in the table");
      const product = { name: "x", strength: 0.6, jugM3: 0.005 };
      const asked = targetStrengthFor({ winterLowC, marginC: 5, basis: "no-ice", product });
      expect(asked - needed.value).toBeGreaterThanOrEqual(0.0199);
    }
  });
});
