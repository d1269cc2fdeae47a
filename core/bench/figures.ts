import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { z } from "zod";
import { startingContents } from "../src/contents/index.ts";
import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { mapHydraulics } from "../src/flows/index.ts";
import { solveHydraulics } from "../src/hydraulics/index.ts";
import {
  act,
  type Action,
  type Physical,
  METHOD_NAMES,
  planWinterize,
  standardRequest,
  startPhysical,
} from "../src/procedure/index.ts";
import { buildNetwork, inUseLineup } from "../src/watermap/index.ts";
import { type HydraulicNetwork, prepareHydraulics } from "../src/hydraulics/index.ts";
import { forReference, inEpanet, timesInEpanet, tracedInEpanet } from "../src/testing/epanet.ts";
import { randomPipes } from "../src/testing/random-pipes.ts";
import { physicalHold } from "../src/testing/hold-physics.ts";
import loadHighs from "highs";
import { solverOf } from "../src/refit/index.ts";
import { cutLists } from "../src/testing/cut-lists.ts";
import { holdFigures } from "../src/testing/holds.ts";
import { huntsOn } from "../src/testing/hunts.ts";
import { arrivals, longPipes, traced } from "../src/testing/tracer.ts";
import { roundTrip } from "../src/testing/round-trip.ts";
import { valueOfExample, WORKED_EXAMPLES } from "../src/testing/worked-examples.ts";

/** Prints figures of agreement and speed, freshly reckoned, as one flat JSON object. Errors are shares of the reference. */

// Allowed is 0.5 % or 1e-6 m3/s, 0.5 % or 50 Pa: under these a share is of them, so that 0.005 stands for the limit either way.
const LEAST_M3PERS = 1e-6 / 0.005;
const LEAST_PA = 50 / 0.005;
const NETWORKS = 240;
const ROUNDS = 21;
const PLAN_ROUNDS = 25;
// A plan is made cold in a process of its own, so often.
const FRESH_ROUNDS = 10;
const PRODUCT = 0.5;

const share = (ours: number, theirs: number, least: number): number =>
  Math.abs(ours - theirs) / Math.max(Math.abs(theirs), least);

const middle = (times: number[]): number => times.toSorted((a, b) => a - b)[times.length >> 1] ?? 0;

const timeOf = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

const demo: HydraulicNetwork[] = EXAMPLE_MAPS.map((map) => {
  const network = buildNetwork(map);
  const taps = network.openings
    .flatMap((o) => (o.use === "outlet" && o.gate ? [o.gate] : []))
    .slice(0, 2);
  const lineup = {
    ...inUseLineup(network),
    ...Object.fromEntries(taps.map((g) => [g.key, g.in[0] ?? ""])),
  };
  return forReference(
    mapHydraulics({ network, lineup, apart: [] }, startingContents(network)).network,
  );
});

const figures = { networksCompared: 0, worstFlowError: 0, worstPressureError: 0 };
const compared = [...Array.from({ length: NETWORKS }, (_, i) => randomPipes(i + 1)), ...demo];
for (const network of compared) {
  const reference = await inEpanet(network);
  const answer = solveHydraulics(network);
  if (!answer.ok) throw new Error(answer.problem);
  figures.networksCompared++;
  answer.flowsM3PerS.forEach((q, i) => {
    figures.worstFlowError = Math.max(
      figures.worstFlowError,
      share(q, reference.flowsM3PerS[i] as number, LEAST_M3PERS),
    );
  });
  answer.pressuresPa.forEach((p, i) => {
    // Where no water moves at all, between a regulator at rest and a shut check, EPANET gives any pressure.
    const moves = network.elements.some(
      (e, k) => (e.from === i || e.to === i) && answer.flowsM3PerS[k] !== 0,
    );
    if (p !== undefined && moves)
      figures.worstPressureError = Math.max(
        figures.worstPressureError,
        share(p, reference.pressuresPa[i] as number, LEAST_PA),
      );
  });
}
// The same work by both, the middle of some rounds each, summed over all networks: cold, with what hangs on the shape still to be worked
// out; from first flows with that known; and again from where it ended.
const ours = { cold: 0, solve: 0, resolve: 0 };
const theirs = { cold: 0, solve: 0, resolve: 0 };
for (const network of compared) {
  const rounds = (work: () => unknown): number =>
    middle(Array.from({ length: ROUNDS }, () => timeOf(work)));
  const prepared = prepareHydraulics(network);
  ours.cold += rounds(() => solveHydraulics(network));
  ours.solve += middle(
    Array.from({ length: ROUNDS }, () => {
      prepared.forget();
      return timeOf(() => prepared.solve());
    }),
  );
  ours.resolve += rounds(() => prepared.solve());
  const times = await timesInEpanet(network, ROUNDS);
  theirs.cold += middle([...times.coldMs]);
  theirs.solve += middle([...times.solveMs]);
  theirs.resolve += middle([...times.resolveMs]);
}

// A tracer let in at the first source, in networks whose pipes are long beside a second.
const TRACED = 60;
const TRACED_S = 14_400;
const TRACED_STEP_S = 10;
const tracer = { worstTracerTimeError: 0, worstTracerConcentrationError: 0 };
for (let seed = 1; seed <= TRACED; seed++) {
  const piped = longPipes(seed);
  const from = piped.nodes.findIndex((n) => n.fixedPa !== undefined);
  const a = arrivals(traced(piped, from, TRACED_S, TRACED_STEP_S), TRACED_STEP_S);
  const b = arrivals(
    await tracedInEpanet(piped, { from, seconds: TRACED_S, stepS: TRACED_STEP_S }),
    TRACED_STEP_S,
  );
  a.forEach((ours1, i) => {
    const theirs1 = b[i];
    if (!ours1 || !theirs1) return;
    tracer.worstTracerTimeError = Math.max(
      tracer.worstTracerTimeError,
      share(ours1.meanS, theirs1.meanS, 0),
    );
    tracer.worstTracerConcentrationError = Math.max(
      tracer.worstTracerConcentrationError,
      Math.abs(ours1.share - theirs1.share),
    );
  });
}

const examples = {
  examplesChecked: WORKED_EXAMPLES.length,
  // 1 stands for an example at the very edge of its tolerance.
  worstExampleErrorOfTolerance: Math.max(
    ...WORKED_EXAMPLES.map((e) => Math.abs(valueOfExample(e) - e.expected) / e.tolerance),
  ),
};

const sixty = EXAMPLE_MAPS.find((m) => m.id === "foxglove");
if (!sixty) throw new Error("no unit of sixty parts");
const planOnce = () => {
  // A network of its own each time: nothing is remembered from the last.
  const network = buildNetwork(sixty);
  return planWinterize(standardRequest(network, startPhysical(network)));
};
const inFreshProcess = (name: string) => {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ["--import", "tsx", fileURLToPath(new URL("plan-cold.ts", import.meta.url)), name],
    { encoding: "utf8" },
  );
  if (status !== 0) throw new Error(stderr);
  return z.object({ coldMs: z.number(), warmMs: z.number() }).parse(JSON.parse(stdout));
};
const planned = (name: string) => {
  const fresh = Array.from({ length: FRESH_ROUNDS }, () => inFreshProcess(name));
  return { cold: middle(fresh.map((f) => f.coldMs)), warm: middle(fresh.map((f) => f.warmMs)) };
};
const plans = { asItIs: planned("foxglove"), known: planned("known foxglove") };

// One step in the middle of the plan is changed: what follows it is done again.
const plan = planOnce();
const network = buildNetwork(sixty);
const actions = plan.steps.map((s) => s.actions);
const changed = actions.length >> 1;
const replay = (from: Physical, steps: readonly (readonly Action[])[]): Physical =>
  steps.flat().reduce((p, a) => act(network, p, a, PRODUCT).physical, from);
const before = replay(startPhysical(network), actions.slice(0, changed));
const again = actions.slice(changed + 1);
const resimulateTimes = Array.from({ length: PLAN_ROUNDS }, () =>
  timeOf(() => replay(before, again)),
);

// Every demo unit by every method: winterized, de-winterized from how it was left, sanitized, and done by the sandbox.
const trips = EXAMPLE_MAPS.flatMap((map) => METHOD_NAMES.map((method) => roundTrip(map, method)));
const doseErrors = trips.flatMap(({ far }) => (far ? [Math.abs(far.shown / far.planned - 1)] : []));

/** The same judge over traces that were made by another's arithmetic. */
const otherPhysics = (): Record<string, number> => {
  const of = holdFigures(HOLDS / 4, 50_001, physicalHold);
  return {
    holdOtherPhysicsTraces: of.holdTraces,
    holdOtherPhysicsFalseTight: of.holdFalseTight,
    holdOtherPhysicsFalseLeaking: of.holdFalseLeaking,
    holdOtherPhysicsCoverage: of.holdRangeCoverage,
  };
};

const HOLDS = 2000;
const hunts = EXAMPLE_MAPS.flatMap((map) => huntsOn(buildNetwork(map)) ?? []);

console.log(
  JSON.stringify({
    ...figures,
    ...holdFigures(HOLDS),
    ...otherPhysics(),
    ...cutLists(200, solverOf(await loadHighs())),
    leakHunts: hunts.reduce((sum, h) => sum + h.sections, 0),
    leakHuntWorst: Math.max(...hunts.map((h) => h.worst)),
    leakHuntWorstInOrder: Math.max(...hunts.map((h) => h.worstInOrder)),
    leakHuntsOverBound: hunts.filter((h) => h.worst > h.bound).length,
    roundTrips: trips.length,
    roundTripFailures: trips.filter((t) => t.failures.length > 0).length,
    roundTripWorstDoseError: Math.max(...doseErrors),
    ...tracer,
    ...examples,
    solveSpeedRatioToEpanet: theirs.solve / ours.solve,
    resolveSpeedRatioToEpanet: theirs.resolve / ours.resolve,
    coldSolveSpeedRatioToEpanet: theirs.cold / ours.cold,
    solveUs: (ours.solve / compared.length) * 1000,
    resolveUs: (ours.resolve / compared.length) * 1000,
    coldSolveUs: (ours.cold / compared.length) * 1000,
    planMs60Parts: plans.asItIs.cold,
    planWarmMs60Parts: plans.asItIs.warm,
    planMsKnown60Parts: plans.known.cold,
    planWarmMsKnown60Parts: plans.known.warm,
    resimulateMs: middle(resimulateTimes),
  }),
);
