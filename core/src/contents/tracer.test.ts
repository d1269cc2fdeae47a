import { describe, expect, it } from "vitest";
import { tracedInEpanet } from "../testing/epanet.ts";
import { arrivals, longPipes, traced } from "../testing/tracer.ts";

const SECONDS = 14_400;
const STEP_S = 20;

describe("a tracer pushed through pipes agrees with the transport of EPANET 2.3 (by epanet-js)", () => {
  const seeds = Array.from({ length: 40 }, (_, i) => i + 1);
  it.each(seeds.filter((s) => s % 10 === 1).map((s) => [s, s + 9] as const))(
    "random networks %d to %d: arrival within 2 % of travel time, strength within 2 %",
    async (first, last) => {
      let [compared, mixed] = [0, 0];
      for (let seed = first; seed <= last; seed++) {
        const network = longPipes(seed);
        const from = network.nodes.findIndex((n) => n.fixedPa !== undefined);
        const ours = arrivals(traced(network, from, SECONDS, STEP_S), STEP_S);
        const theirs = arrivals(
          await tracedInEpanet(network, { from, seconds: SECONDS, stepS: STEP_S }),
          STEP_S,
        );
        ours.forEach((a, i) => {
          const b = theirs[i];
          expect(a === undefined, `seed ${seed}, outlet ${i}`).toBe(b === undefined);
          if (!a || !b) return;
          compared++;
          if (b.share < 0.98) mixed++;
          expect(
            Math.abs(a.meanS - b.meanS) / b.meanS,
            `seed ${seed}, outlet ${i}: ${a.meanS} s against ${b.meanS} s`,
          ).toBeLessThan(0.02);
          expect(
            Math.abs(a.share - b.share),
            `seed ${seed}, outlet ${i}: ${a.share} against ${b.share}`,
          ).toBeLessThan(0.02);
        });
      }
      // Enough outlets were reached, and at some of them waters had met.
      expect(compared).toBeGreaterThan(8);
      expect(mixed).toBeGreaterThan(1);
    },
    60_000,
  );
});
