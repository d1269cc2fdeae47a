import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { mapFlows } from "../src/flows/index.ts";
import { readMapJson, writeMapJson } from "../src/formats/index.ts";
import { solveHydraulics } from "../src/hydraulics/index.ts";
import { planWinterize, standardRequest, startPhysical } from "../src/procedure/index.ts";
import { COMMON_SIM_SETTINGS, simActions, simStart, simulate } from "../src/simulation/index.ts";
import { surveyMap, modeLineup } from "../src/survey/index.ts";
import { addOnPipeRun, buildNetwork, layOut, type WaterMap } from "../src/watermap/index.ts";
import { PATTERNS } from "../src/patterns/index.ts";
import { mapNamed } from "./maps.ts";
import { randomPipes } from "../src/testing/random-pipes.ts";

/** Prints how long things take on this machine. Nothing is judged here. */

const ROUNDS = 20;

const timed = (name: string, work: () => unknown): void => {
  for (let i = 0; i < 3; i++) work();
  const times = Array.from({ length: ROUNDS }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  }).toSorted((a, b) => a - b);
  const at = (share: number): string =>
    (times[Math.floor((times.length - 1) * share)] ?? 0).toFixed(0).padStart(5);
  console.log(`${name.padEnd(44)} median ${at(0.5)} ms   nine of ten within ${at(0.9)} ms`);
};

const map = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};

for (const m of EXAMPLE_MAPS) timed(`layout, ${m.name}, ${m.parts.length} parts`, () => layOut(m));
const yarrow = map("yarrow");
timed("layout after a valve is spliced in, 81 parts", () => {
  const added = addOnPipeRun(yarrow, "ball-valve", yarrow.runs[30]?.id ?? "");
  return layOut(added.ok ? added.map : yarrow);
});
timed("survey, 80 parts", () => surveyMap(yarrow));
timed("map file written and read, 80 parts", () => readMapJson(writeMapJson(yarrow)));
for (const name of [
  ...EXAMPLE_MAPS.flatMap((m) => [m.id, `known ${m.id}`]),
  ...PATTERNS.flatMap((p) => [`family ${p.id}`, `unasked ${p.id}`]),
]) {
  const map = mapNamed(name);
  timed(`plan warm, ${name}, ${map.parts.length} parts`, () => {
    // A network of its own each time: nothing is remembered from the last.
    const network = buildNetwork(map);
    return planWinterize(standardRequest(network, startPhysical(network)));
  });
}

const large = randomPipes(300, 270);
timed(`flows and pressures solved, ${large.elements.length} runs with loops`, () =>
  solveHydraulics(large),
);
const afloat = buildNetwork(yarrow);
const lineup = modeLineup(afloat, "use on tank");
const drawing = simStart(afloat, {
  lineup: { ...modeLineup(afloat, "draw antifreeze"), "kitchen:cold": "open" },
});
const minute = simActions.parse([
  { do: "jug", at: "jug", strength: 0.5 },
  { do: "wait", seconds: 60 },
]);
timed("a minute of antifreeze simulated, 80 parts", () =>
  simulate(afloat, drawing, minute, { ...COMMON_SIM_SETTINGS, frames: 0 }),
);
const blown = simActions.parse([{ do: "blow", at: "inlet" }]);
const blowing = simStart(afloat, {
  lineup: { ...modeLineup(afloat, "blow"), "kitchen:cold": "open", "kitchen:hot": "open" },
});
timed("blown at the inlet, 80 parts", () => simulate(afloat, blowing, blown));
timed("flows of a map, 80 parts", () => mapFlows(afloat, lineup));
