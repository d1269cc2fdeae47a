import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { startPhysical } from "../src/procedure/physical.ts";
import { planWinterize, standardRequest } from "../src/procedure/winterize/index.ts";
import { buildNetwork } from "../src/watermap/index.ts";

/** Prints how long a plan with its proof takes, per demo map: median of 15 after 5 to warm up. */
const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

for (const map of EXAMPLE_MAPS) {
  const network = buildNetwork(map);
  const times: number[] = [];
  for (let i = 0; i < 20; i++) {
    const started = performance.now();
    planWinterize(standardRequest(network, startPhysical(network)));
    times.push(performance.now() - started);
  }
  const ms = median(times.slice(5));
  console.log(`plan and proof, ${map.name}: ${map.parts.length} parts, ${map.runs.length} runs: ${ms.toFixed(1)} ms`);
}
