import { frostVerdict, type Verdict } from "../../contents/index.ts";
import type { Lineup } from "../../watermap/index.ts";
import { rowsOf } from "../step.ts";
import { waterInLines, type WetLines } from "../wet.ts";
import type { Doubt } from "../doubt.ts";
import type { RunState } from "./state.ts";

/** What a run says now, from what was said at its entries: nothing is worked out for it but what it was before it was found. */

/** The verdict on the unit as it was said at the newest entry; before it was found, as today's engine sees it. */
export const verdictNow = (state: RunState): Verdict =>
  state.unit?.verdict ??
  frostVerdict(state.network, state.physical.contents, state.setup.basis, state.physical.measured);

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

/** What could not be told of the verdict, and why, as it was said at the newest entry; of a run of which nothing was said yet, nothing. */
export const doubtsSaid = (state: RunState): readonly Doubt[] => state.unit?.doubts ?? [];
