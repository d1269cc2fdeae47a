import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { buildNetwork } from "../src/watermap/index.ts";
import { mapNamed } from "./maps.ts";

/**
 * One process, one map, named as in `maps.ts`: the processor time of the first plan that a fresh process makes, all its threads counted, and
 * the middle time of the plans after it, each on a network of its own.
 */

const ROUNDS = 11;

const map = mapNamed(process.argv[2] ?? "");
const plan = (): void => {
  const network = buildNetwork(map);
  planWinterize(standardRequest(network, startPhysical(network)));
};
const before = process.cpuUsage();
plan();
const { user, system } = process.cpuUsage(before);
const warm = Array.from({ length: ROUNDS }, () => {
  const start = performance.now();
  plan();
  return performance.now() - start;
}).toSorted((a, b) => a - b);
console.log(
  JSON.stringify({
    parts: map.parts.length,
    coldMs: (user + system) / 1000,
    warmMs: warm[ROUNDS >> 1],
  }),
);
