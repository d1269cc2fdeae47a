import { frostVerdict, type Verdict } from "../../contents/index.ts";
import type { Lineup } from "../../watermap/index.ts";
import { minutesAtWork } from "../forecast.ts";
import { rowsOf } from "../step.ts";
import { type Doubt, doubtsOf } from "../doubt.ts";
import { type Job, jobOf } from "../job.ts";
import { actOnce } from "../physical.ts";
import { waterInLines, type WetLines } from "../wet.ts";
import { productIn } from "./product-in.ts";
import type { RunPhase, RunState } from "./state.ts";
import { waitsForCountersign } from "./waits.ts";

/** The verdict on the unit as it was said at the newest entry; before it was found, as today's engine sees it. */
export const verdictNow = (state: RunState): Verdict =>
  state.unit?.verdict ??
  frostVerdict(state.network, state.physical.contents, state.setup.basis, state.physical.measured);

/** What could not be told of that verdict, and why. */
export const doubtsNow = (state: RunState): readonly Doubt[] =>
  state.unit?.doubts ??
  doubtsOf(state.network, state.physical, [], verdictNow(state), {
    basis: state.setup.basis,
    productStrength: state.setup.product.strength,
    measured: state.physical.measured,
    winterLowC: state.setup.winterLowC,
  });

/** Water left in the lines, as it was said at the newest entry. */
export const linesNow = (state: RunState): WetLines =>
  state.unit?.lines ?? waterInLines(state.network, state.physical);

/** The lineup with the ticked rows of the step in hand: what the hand has done so far. */
export const lineupNow = (state: RunState): Lineup => {
  const step = state.todo[0];
  if (!step) return state.physical.lineup;
  const turned = rowsOf(step).flatMap(({ key, action }) =>
    action.type === "set-valve" && state.ticked.includes(key)
      ? [[action.control, action.position] as const]
      : [],
  );
  return { ...state.physical.lineup, ...Object.fromEntries(turned) };
};

/** The runs of the map in which liquid will move when the step in hand is done, found by doing it on the map. */
export const runsMovedNext = (state: RunState): Set<string> => {
  const moved = new Set<string>();
  let { physical } = state;
  for (const action of state.todo[0]?.actions ?? []) {
    const effect = actOnce(state.network, physical, action, productIn(state.setup));
    for (const cell of effect.push?.swept ?? []) {
      const run = state.network.cells[cell]?.run;
      if (run) moved.add(run.id);
    }
    physical = effect.physical;
  }
  return moved;
};

export interface AntifreezeUse {
  /** Brought and left, as measured; undefined where nobody measured. */
  readonly broughtM3?: number;
  readonly leftM3?: number;
  /** Brought less left, where both were measured. */
  readonly usedM3?: number;
  /** What the engine says has been drawn and poured. */
  readonly workedOutM3: number;
}

export const antifreezeUse = (state: RunState): AntifreezeUse => {
  const last = (kind: string): number | undefined =>
    state.readings.findLast((r) => r.kind === kind)?.si;
  const [broughtM3, leftM3] = [last("antifreeze-in"), last("antifreeze-left")];
  return {
    ...(broughtM3 === undefined ? {} : { broughtM3 }),
    ...(leftM3 === undefined ? {} : { leftM3 }),
    ...(broughtM3 === undefined || leftM3 === undefined ? {} : { usedM3: broughtM3 - leftM3 }),
    workedOutM3: state.physical.drawnM3,
  };
};

/** A run in a few figures, for the bench and the register. */
export interface RunSummary {
  /** What it is for, where that is no winterizing: summaries of before there was a choice are the same to the word. */
  readonly job?: Job;
  readonly phase: RunPhase;
  readonly stepTitle: string | null;
  readonly stepsDone: number;
  readonly stepsInAll: number;
  readonly holdsToC: number | null;
  readonly weakestPart: string | null;
  /** Names of the parts that must be found out before anything that rests on them can be told. */
  readonly cannotTell: readonly string[];
  readonly waterInLinesM3: number;
  readonly antifreezeUsedM3: number;
  /** As worked out, whatever was measured. */
  readonly workedOutM3: number;
  /** Brought less left, where both were measured. */
  readonly measuredUseM3: number | null;
  /** Minutes at work so far: pauses are not counted. */
  readonly minutes: number;
  /** Strength of the product it was done with. */
  readonly strength: number;
  /** Closed, and waiting for somebody else's countersign. */
  readonly waits: boolean;
  readonly clocks: readonly { readonly label: string; readonly endsAt: string }[];
}

/** Whether a winterizing falls short: it does not hold the winter low, or nobody can tell. */
export const fallsShort = (
  // Of one that was summed up before there was a choice, winterizing.
  summary: Pick<RunSummary, "holdsToC" | "cannotTell"> & { readonly job?: Job },
  winterLowC: number,
): boolean =>
  jobOf(summary) === "winterize" &&
  ((summary.holdsToC !== null && summary.holdsToC > winterLowC) || summary.cannotTell.length > 0);

export const summarize = (state: RunState): RunSummary => {
  const verdict = verdictNow(state);
  const use = antifreezeUse(state);
  return {
    ...(state.setup.job === undefined || state.setup.job === "winterize"
      ? {}
      : { job: state.setup.job }),
    phase: state.phase,
    stepTitle: state.todo[0]?.title ?? null,
    stepsDone: state.done.length,
    stepsInAll: state.done.length + state.todo.length,
    holdsToC: verdict.holdsToC,
    weakestPart: verdict.weakest?.name ?? null,
    cannotTell: [...new Set(doubtsNow(state).map((d) => d.becauseName))],
    waterInLinesM3: linesNow(state).totalM3,
    antifreezeUsedM3: use.usedM3 ?? use.workedOutM3,
    workedOutM3: use.workedOutM3,
    measuredUseM3: use.usedM3 ?? null,
    minutes: minutesAtWork(state.events.map((e) => e.at)),
    strength: state.setup.product.strength,
    waits: waitsForCountersign(state),
    clocks: state.clocks,
  };
};
