import { mapHydraulics } from "../src/flows/index.ts";
import { startingContents } from "../src/contents/index.ts";
import { solveHydraulics } from "../src/hydraulics/index.ts";
import { draft } from "../src/patterns/draft.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { surveyMap } from "../src/survey/index.ts";
import { buildNetwork, inUseLineup, layOut, type WaterMap } from "../src/watermap/index.ts";

/**
 * npm run bench:growth: how times grow with the size of a map, from 8 to 640 parts, and the slope of each: the power of the number of parts
 * with which it grows, by least squares over the upper half of the sizes. Plans stop at 80 parts, since no unit is larger.
 */

const SIZES = [8, 16, 32, 64, 80, 160, 320, 640] as const;
const LARGEST_PLANNED = 80;
const ROUNDS = 5;
const HALF = { pipe: "pex-1/2", service: "cold" } as const;

/** A tank, a pump, and taps one after another along a main that goes up and down, each by a valve of its own at every fourth. */
const mainWithTaps = (parts: number): WaterMap => {
  const b = draft({ id: `main-${parts}`, name: `Main of ${parts} parts`, craft: "bench" });
  b.add("filler", "gravity-fill", "Filler", 1);
  b.add("tank", "fresh-tank", "Tank", 0.1);
  b.add("pump", "diaphragm-pump", "Pump", 0.2);
  b.add("jug", "winterizing-pickup", "Port", 0.3);
  b.way("filler 1 tank.fill", { pipe: "hose-38", service: "fill" });
  b.add("selector", "selector-valve", "Selector", 0.2);
  b.way("tank.outlet 0.4 selector 0.2 pump", { ...HALF, service: "suction" });
  b.way("jug 0.2 selector", { ...HALF, service: "suction" });
  let [last, left, n] = ["pump", parts - 6, 0];
  while (left >= 2) {
    const name = String(++n);
    b.add(`t${name}`, "tee", `Tee ${name}`, n % 2 === 0 ? 0.3 : 0.1);
    b.way(`${last} 0.7 t${name}.a`, HALF);
    const valved = n % 4 === 0 && left >= 3;
    b.add(`tap${name}`, "single-tap", `Tap ${name}`, 0.8);
    if (valved) b.add(`v${name}`, "ball-valve", `Valve ${name}`, 0.3);
    b.way(`t${name}.c 0.4 ${valved ? `v${name} 0.2 ` : ""}tap${name}`, HALF);
    last = `t${name}.b`;
    left -= valved ? 3 : 2;
  }
  b.add("end", "low-point-drain", "Last drain", 0);
  b.way(`${last} 0.5 end`, HALF);
  return b.map();
};

const middleMs = (work: () => unknown): number => {
  work();
  const times = Array.from({ length: ROUNDS }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.toSorted((a, b) => a - b)[ROUNDS >> 1] ?? 0;
};

const WORK: Readonly<Record<string, (map: WaterMap) => () => unknown>> = {
  network: (map) => () => buildNetwork(map),
  layout: (map) => () => layOut(map),
  survey: (map) => () => surveyMap(map),
  solve: (map) => {
    const network = buildNetwork(map);
    const situation = { network, lineup: inUseLineup(network), apart: [] };
    const { network: piped } = mapHydraulics(situation, startingContents(network));
    return () => solveHydraulics(piped);
  },
  plan: (map) => () => {
    const network = buildNetwork(map);
    return planWinterize(standardRequest(network, startPhysical(network)));
  },
};

const slope = (of: readonly (readonly [parts: number, ms: number])[]): number => {
  const points = of
    .slice(of.length >> 1)
    .map(([parts, ms]) => [Math.log(parts), Math.log(Math.max(ms, 1e-3))] as const);
  const mean = (i: 0 | 1): number => points.reduce((sum, p) => sum + p[i], 0) / points.length;
  const [x, y] = [mean(0), mean(1)];
  return (
    points.reduce((sum, p) => sum + (p[0] - x) * (p[1] - y), 0) /
    points.reduce((sum, p) => sum + (p[0] - x) ** 2, 0)
  );
};

console.log(`${"parts".padEnd(10)}${SIZES.map((n) => String(n).padStart(9)).join("")}    slope`);
for (const [name, begin] of Object.entries(WORK)) {
  const sizes = SIZES.filter((n) => name !== "plan" || n <= LARGEST_PLANNED);
  const times = sizes.map((n) => {
    const map = mainWithTaps(n);
    return [map.parts.length, middleMs(begin(map))] as const;
  });
  const row = SIZES.map((_, i) => (times[i] ? times[i][1].toFixed(1) : "").padStart(9)).join("");
  console.log(`${name.padEnd(10)}${row}    ${slope(times).toFixed(2)}`);
}
console.log("times in ms, median of five");
