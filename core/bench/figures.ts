import {
  EXAMPLE_MAPS,
  buildNetwork,
  inUseLineup,
  mapHydraulics,
  planWinterize,
  solveHydraulics,
  standardRequest,
  startingContents,
  startPhysical,
} from "../src/index.ts";
import type { HydraulicNetwork } from "../src/hydraulics/index.ts";
import { forReference, inEpanet } from "../src/testing/epanet.ts";
import { randomPipes } from "../src/testing/random-pipes.ts";

/** Prints figures of agreement and speed, freshly reckoned, as one flat JSON object. Errors are shares of the reference. */

// Allowed is 0.5 % or 1e-6 m3/s, 0.5 % or 50 Pa: under these a share is of them, so that 0.005 stands for the limit either way.
const LEAST_M3PERS = 1e-6 / 0.005;
const LEAST_PA = 50 / 0.005;
const NETWORKS = 240;
const ROUNDS = 9;

const share = (ours: number, theirs: number, least: number): number => Math.abs(ours - theirs) / Math.max(Math.abs(theirs), least);

const middle = (times: number[]): number => times.toSorted((a, b) => a - b)[times.length >> 1] ?? 0;

const timeOf = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

const demo: HydraulicNetwork[] = EXAMPLE_MAPS.map((map) => {
  const network = buildNetwork(map);
  const taps = network.openings.flatMap((o) => (o.use === "outlet" && o.gate ? [o.gate] : [])).slice(0, 2);
  const lineup = { ...inUseLineup(network), ...Object.fromEntries(taps.map((g) => [g.key, g.in[0] ?? ""])) };
  return forReference(mapHydraulics({ network, lineup, apart: [] }, startingContents(network)).network);
});

const figures = { networksCompared: 0, worstFlowError: 0, worstPressureError: 0 };
const compared = [...Array.from({ length: NETWORKS }, (_, i) => randomPipes(i + 1)), ...demo];
for (const network of compared) {
  const reference = await inEpanet(network);
  const answer = solveHydraulics(network);
  if (!answer.ok) throw new Error(answer.problem);
  figures.networksCompared++;
  answer.flowsM3PerS.forEach((q, i) => {
    figures.worstFlowError = Math.max(figures.worstFlowError, share(q, reference.flowsM3PerS[i] as number, LEAST_M3PERS));
  });
  answer.pressuresPa.forEach((p, i) => {
    // Where no water moves at all, between a regulator at rest and a shut check, EPANET gives any pressure.
    const moves = network.elements.some((e, k) => (e.from === i || e.to === i) && answer.flowsM3PerS[k] !== 0);
    if (p !== undefined && moves)
      figures.worstPressureError = Math.max(figures.worstPressureError, share(p, reference.pressuresPa[i] as number, LEAST_PA));
  });
}
// Both engines warm, the middle of some rounds each: what reading and writing EPANET's files takes is not counted.
let [ours, theirs] = [0, 0];
for (const network of compared) {
  ours += middle(Array.from({ length: ROUNDS }, () => timeOf(() => solveHydraulics(network))));
  const times: number[] = [];
  for (let i = 0; i < ROUNDS; i++) times.push((await inEpanet(network)).solveMs);
  theirs += middle(times);
}

const sixty = EXAMPLE_MAPS.find((m) => m.id === "foxglove");
const network = buildNetwork(sixty ?? (EXAMPLE_MAPS[0] as (typeof EXAMPLE_MAPS)[number]));
const planTimes = Array.from({ length: ROUNDS }, () => timeOf(() => planWinterize(standardRequest(network, startPhysical(network)))));

console.log(JSON.stringify({ ...figures, solveSpeedRatioToEpanet: theirs / ours, planMs60Parts: middle(planTimes) }));
