import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { PATTERNS, starterMap } from "../src/patterns/index.ts";
import {
  METHOD_NAMES,
  planWinterize,
  standardRequest,
  startPhysical,
} from "../src/procedure/index.ts";
import { buildNetwork, type WaterMap } from "../src/watermap/index.ts";

/**
 * What the methods come to on every demo map and family, and how much antifreeze they draw against the least that displacement allows (the
 * volumes on the way and the doses). npm run --silent figures:methods
 */

const planned = (map: WaterMap, method: (typeof METHOD_NAMES)[number], nearestFirst?: boolean) => {
  const network = buildNetwork(map);
  return planWinterize({
    ...standardRequest(network, startPhysical(network)),
    method,
    ...(nearestFirst === undefined ? {} : { nearestFirst }),
  });
};

const drawnOf = (plan: ReturnType<typeof planned>): number => plan.antifreeze.workedM3;
const ratioOf = (plan: ReturnType<typeof planned>): number => {
  const least = plan.antifreeze.lines
    .filter((l) => !l.label.startsWith("Run on"))
    .reduce((sum, l) => sum + l.volumeM3, 0);
  return least > 0 ? drawnOf(plan) / least : 1;
};
const middle = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[values.length >> 1] ?? 0;
const rounded = (n: number): number => Number(n.toFixed(3));

const known = [...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].filter((m) =>
  m.parts.every((p) => p.unknown === undefined),
);
const ratios = (method: "antifreeze" | "air-antifreeze") =>
  known.map((map) => ({ id: map.id, ratio: ratioOf(planned(map, method)) }));
const [plain, blown] = [ratios("antifreeze"), ratios("air-antifreeze")];
const worst = (all: typeof plain) => all.reduce((a, b) => (b.ratio > a.ratio ? b : a));
const order = EXAMPLE_MAPS.filter((map) => {
  const own = drawnOf(planned(map, "antifreeze"));
  return [true, false].every((near) => own <= drawnOf(planned(map, "antifreeze", near)) + 1e-5);
});
const families = PATTERNS.map((p) => ({
  id: p.id,
  by: METHOD_NAMES.filter((m) => planned(starterMap(p), m).unprotected.length === 0),
}));

console.log(
  JSON.stringify(
    {
      antifreezeWorstRatio: rounded(worst(plain).ratio),
      antifreezeWorstAt: worst(plain).id,
      antifreezeMedianRatio: rounded(middle(plain.map((r) => r.ratio))),
      airAntifreezeWorstRatio: rounded(worst(blown).ratio),
      airAntifreezeWorstAt: worst(blown).id,
      airAntifreezeMedianRatio: rounded(middle(blown.map((r) => r.ratio))),
      knownMaps: known.length,
      demoMapsWhoseOrderIsNoWorse: `${order.length} of ${EXAMPLE_MAPS.length}`,
      familiesBelowWinterLow: `${families.filter((f) => f.by.length > 0).length} of ${families.length}`,
      familiesByMethod: Object.fromEntries(families.map((f) => [f.id, f.by.join(", ") || "none"])),
    },
    null,
    2,
  ),
);
