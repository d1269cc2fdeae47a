import { describe, expect, it } from "vitest";
import { burdock } from "../examples/burdock.ts";
import { plover } from "../examples/plover.ts";
import { tracedInEpanet } from "../testing/epanet.ts";
import { mapPipes } from "../testing/map-pipes.ts";
import { arrivals, traced } from "../testing/tracer.ts";

const SECONDS = 7200;
const STEP_S = 10;

describe("what is flushed through a demo map agrees with the transport of EPANET 2.3 (by epanet-js)", () => {
  it.each([
    ["Plover", plover],
    ["Burdock", burdock],
  ] as const)("%s: arrival and strength at each open outlet within 2 %", async (_, map) => {
    const { network, from } = mapPipes(map);
    const ours = arrivals(traced(network, from, SECONDS, STEP_S), STEP_S);
    const theirs = arrivals(
      await tracedInEpanet(network, { from, seconds: SECONDS, stepS: STEP_S }),
      STEP_S,
    );
    const both = ours.flatMap((a, i) => {
      const b = theirs[i];
      return a && b ? [{ a, b }] : [];
    });
    expect(both.length).toBeGreaterThan(1);
    for (const { a, b } of both) {
      expect(Math.abs(a.meanS / b.meanS - 1)).toBeLessThan(0.02);
      expect(Math.abs(a.share - b.share)).toBeLessThan(0.02);
    }
  });
});
