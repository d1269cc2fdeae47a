import { liquidIn, strengthOf } from "../../contents/index.ts";
import type { Physical } from "../physical.ts";
import { startRun } from "./begin-run.ts";
import type { RunReading, RunState } from "./state.ts";
import { antifreezeUse } from "./said-now.ts";

/** What was measured and cannot all be true: strengths beyond the product's, what arrived where nothing can, litres that do not add up. */

// A refractometer reads to a point or two (common practice, no source).
const READS_TO = 0.02;
// Less than this is no antifreeze; from this on there should have been plenty.
const NONE = 0.02;
const PLENTY = 0.2;
// Colour from nowhere: so much more than nothing.
const SURELY = 0.05;
// Jugs are measured to a tenth of what went, and to half a litre (our own).
const JUG_SHARE = 0.9;
const JUG_M3 = 5e-4;
// More than the allowance by this much wants an answer.
const OVER_ALLOWED = 1.1;

const v = (m3: number): string => `{m3:${Number(m3.toPrecision(3))}}`;
const pct = (share: number): string => `${Math.round(share * 100)} %`;

/** The strongest that anything aboard can be: the product in hand, or what was in the unit when the work began. */
export const strongestPossible = (state: Pick<RunState, "network" | "setup" | "begins">): number =>
  Math.max(
    state.setup.product.strength,
    ...startRun(state.network, state.setup, state.begins).physical.contents.flatMap((c) =>
      c.plugs.map(strengthOf),
    ),
  );

const whereOf = (state: RunState, read: RunReading): string => {
  const step =
    state.done.find((d) => d.step.id === read.stepId)?.step ??
    state.todo.find((s) => s.id === read.stepId);
  return step?.title.split(":")[0] ?? read.label;
};

/** Readings beyond what can be, all in one sentence: it is one instrument, or one jug. */
const tooStrong = (state: RunState, strengths: readonly RunReading[]): string[] => {
  const most = strongestPossible(state);
  const over = strengths.filter((r) => r.si > most + READS_TO);
  if (over.length === 0) return [];
  const highest = Math.max(...over.map((r) => r.si));
  const where = over.map((r) => whereOf(state, r)).join("; ");
  return [
    `Up to ${pct(highest)} was read (${where}), and the product has ${pct(state.setup.product.strength)}. The instrument is not zeroed on water, or the jug holds something else. Counted as ${pct(most)}.`,
  ];
};

const arrivals = (state: RunState, strengths: readonly RunReading[]): string[] =>
  strengths.flatMap((read) => {
    if (read.expected === undefined) return [];
    const where = whereOf(state, read);
    if (read.expected >= PLENTY && read.si < NONE)
      return [
        `${where}: nothing of it has arrived where ${pct(read.expected)} was worked out. It goes another way than the map says.`,
      ];
    if (read.expected < NONE && read.si > SURELY)
      return [
        `${where}: ${pct(read.si)} was read where the map lets none come. The map is not so, or it was there before.`,
      ];
    return [];
  });

const glycolIn = (contents: Physical["contents"]): number =>
  contents.reduce((sum, c) => sum + liquidIn(c).glycolM3, 0);

const ofLitres = (state: RunState, physical: Physical): string[] => {
  const { usedM3, workedOutM3 } = antifreezeUse({ ...state, physical });
  const { strength } = state.setup.product;
  if (usedM3 === undefined || strength <= 0) return [];
  // What was aboard when the work began did not come out of these jugs.
  const begun = glycolIn(startRun(state.network, state.setup, state.begins).physical.contents);
  const aboardM3 = (glycolIn(physical.contents) - begun) / strength;
  if (usedM3 < aboardM3 * JUG_SHARE - JUG_M3)
    return [
      `${v(usedM3)} left the jugs, but by readings and volumes the unit holds ${v(aboardM3)} of it. Something that is called full is not, or the jugs were not measured.`,
    ];
  const allowedM3 =
    Math.max(workedOutM3, state.firstPlan?.antifreeze.p90M3 ?? 0) * OVER_ALLOWED + JUG_M3;
  if (usedM3 > allowedM3)
    return [
      `${v(usedM3)} left the jugs, ${v(workedOutM3)} is accounted for. Look where the rest went: a tank, a heater, a trap, the ground.`,
    ];
  return [];
};

/**
 * What cannot all be true of what was read so far, in words; figures are written {m3:…}.
 * @param physical the unit after the entry in hand, where that is not yet in the state
 */
export const atOdds = (state: RunState, physical: Physical = state.physical): string[] => {
  const strengths = state.readings.filter((r) => r.kind === "strength");
  return [
    ...tooStrong(state, strengths),
    ...arrivals(state, strengths),
    ...ofLitres(state, physical),
  ];
};
