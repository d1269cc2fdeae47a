import { type Doubt, doubtsOf } from "../doubt.ts";
import { minutesAtWork } from "../forecast.ts";
import { type Job, jobOf } from "../job.ts";
import { antifreezeUse, linesNow, verdictNow } from "./said-now.ts";
import type { RunPhase, RunState } from "./state.ts";
import { waitsForCountersign } from "./waits.ts";

/** What could not be told of that verdict, and why. */
export const doubtsNow = (state: RunState): readonly Doubt[] =>
  state.unit?.doubts ??
  doubtsOf(state.network, state.physical, [], verdictNow(state), {
    basis: state.setup.basis,
    productStrength: state.setup.product.strength,
    measured: state.physical.measured,
    winterLowC: state.setup.winterLowC,
  });

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
