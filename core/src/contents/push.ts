import type { Cell } from "../watermap/network.ts";
import type { Situation } from "../watermap/situation.ts";
import { type CellContents, type Contents, holding, liquidIn } from "./contents.ts";
import { findFlow, type FlowResult } from "./flow.ts";
import { type Marched, marched } from "./march.ts";
import { type Mixture, NOTHING, strengthOf, volumeOf, water as waterOf } from "./mixture.ts";
import { leave, volumeIn } from "./move.ts";
import type { Push } from "./push-order.ts";
import { fall, type Spill } from "./waste.ts";
import {
  asWater,
  besideAsWater,
  byTheEasierWay,
  drawnOn,
  goesRound,
  mixingHoses,
  pathOf,
} from "./ways-taken.ts";

export interface PushResult {
  readonly contents: Contents;
  readonly outcome: "reached" | "stopped at volume" | "no way out" | "no way in" | "no pump";
  /** Product drawn, m3. */
  readonly drawnM3: number;
  /** What has gone along the way in all, liquid and air, m3: by a pump from a tank too. */
  readonly movedM3: number;
  /** Liquid that came in, product among it. */
  readonly came: Mixture;
  /** What left, and where to. */
  readonly left: readonly Spill[];
  /** Volume drawn when the first product showed at the watched opening, m3. */
  readonly arrivalM3?: number;
  /** Volume drawn when the watched opening first read the strength asked for, m3: what is on the way may not hold it yet. */
  readonly readsM3?: number;
  /** What came out was strong before, and nothing showed when that had gone: strength there proves nothing, only the volume does. */
  readonly blind: boolean;
  /** What came out was strong before; by spitting or paling it showed when that had gone. */
  readonly shown: boolean;
  /** What came out where it was watched, before it fell anywhere. */
  readonly watched: Mixture;
  /** Strength at the watched opening at the end. */
  readonly strengthAtEnd: number;
  /** Cells that carried flow. */
  readonly swept: readonly number[];
}

const MOST_SHARE = 0.5;
// A body that ends with so much less than it began with has had air through it (our own).
const AIRED_SHARE = 0.02;

/** What everything holds when it is over. */
const afterPush = (
  { network }: Situation,
  start: Contents,
  held: Marched["held"],
  isGuess: boolean,
): CellContents[] => {
  // By the sheet no pipe is counted as emptied by the air that product drives out of an empty heater: how much of the flow goes there cannot
  // be told.
  const isAiredOut = (i: number, row: readonly Mixture[]): boolean => {
    const form = network.cells[i]?.form;
    return (
      isGuess &&
      form !== "vessel" &&
      form !== "trap" &&
      volumeIn(row) < volumeOf(liquidIn(start[i])) * (1 - AIRED_SHARE)
    );
  };
  const after = [...start];
  for (const [i, row] of held)
    after[i] = isAiredOut(i, row)
      ? holding([waterOf(volumeOf(liquidIn(start[i])))], "assumed")
      : holding(row, "worked out");
  return after;
};

/**
 * Forces liquid along the open ways from a pump's supply or a push, in small steps, until something is seen at an opening.
 * Runs that are full move as plugs; runs that are part empty fill up first with a mix of what was left and what comes; bodies mix.
 * Liquid volume and glycol are conserved: aboard before + came = aboard after + left.
 */
export const push = (situation: Situation, before: Contents, order: Push): PushResult => {
  const found: FlowResult = findFlow(situation, order.drive);
  const nothing = {
    contents: before,
    drawnM3: 0,
    movedM3: 0,
    blind: false,
    shown: false,
    watched: NOTHING,
    came: NOTHING,
    left: [],
    strengthAtEnd: 0,
    swept: [],
  };
  if (!found.ok) return { ...nothing, outcome: found.reason };
  if (order.untilAir !== undefined && goesRound(situation, order, found.flow))
    return { ...nothing, outcome: "no way out" };
  const flow =
    order.untilAir === undefined ? found.flow : byTheEasierWay(situation, order, found.flow);
  const { beside, jugToo } = drawnOn(situation, order.drive);
  const holdsWater = (cell: number): boolean => {
    const { capacityM3 = 0, drainRemainder = 0 } = situation.network.cells[cell] ?? {};
    return volumeOf(liquidIn(before[cell])) > capacityM3 * drainRemainder * 1.3;
  };
  const water = beside.some((o) => holdsWater(o.cell));
  if (jugToo && beside.length > 0 && !water) return { ...nothing, outcome: "no way in" };
  // Where most of it runs out elsewhere, what is watched tells nothing of what is on the way.
  const watchedShare = flow.opening.find((o) => o.at.id === order.watch)?.share ?? 0;
  if (order.byEyeM3 !== undefined && order.untilStrength !== undefined && watchedShare < MOST_SHARE)
    return { ...nothing, contents: asWater(situation, before, flow), outcome: "no way out" };
  const asPlanned = pathOf(situation, order.drive, flow, flow === found.flow);
  const path = order.byEyeM3 === undefined ? asPlanned : mixingHoses(asPlanned);
  const start =
    order.byEyeM3 === undefined ? before : besideAsWater(situation, before, order, flow);
  const watchedCell = flow.opening.find((o) => o.at.id === order.watch)?.at.cell;
  const wasPink = strengthOf(liquidIn(before[watchedCell ?? -1])) >= (order.untilStrength ?? 1) / 2;
  const strength = jugToo && water ? 0 : order.productStrength;
  const came = marched({ situation, order, flow, path, start, strength, wasPink });
  const outcome = came.isReached ? "reached" : "stopped at volume";

  // By the sheet nobody goes on: what came of it cannot be told.
  const isGuess = order.byEyeM3 !== undefined && order.untilStrength !== undefined;
  // And a spit is believed only where all that is known agrees with it.
  if (isGuess && (!came.isReached || (wasPink && !came.holdsAll)))
    return { ...nothing, contents: asWater(situation, before, flow), outcome };
  const { tally, arrivalM3, readsM3 } = came;
  const after = afterPush(situation, start, came.held, isGuess);
  const settled = settleOverflow(situation, after, [...came.held.keys()]);
  const fallen = fall(situation, settled.contents, [...tally.left.values()]);
  return {
    contents: fallen.contents,
    outcome,
    drawnM3: tally.drawnM3,
    movedM3: came.movedM3,
    blind: came.isBlind && order.untilStrength !== undefined,
    shown: came.isShown,
    watched: tally.left.get(order.watch)?.liquid ?? NOTHING,
    came: tally.came,
    left: [...fallen.left, ...settled.left],
    ...(arrivalM3 === undefined ? {} : { arrivalM3 }),
    ...(readsM3 === undefined ? {} : { readsM3 }),
    strengthAtEnd: came.strengthAtEnd,
    swept: [...came.held.keys()],
  };
};

/**
 * Rounding, or a vessel pushed beyond full by two ways at once, may leave a cell over its volume: that much spills.
 * @param touched cells that something has come to; every one where it is not said
 */
export const settleOverflow = (
  { network }: Situation,
  contents: Contents,
  touched: Iterable<number> = contents.keys(),
): { contents: Contents; left: Spill[] } => {
  const left: Spill[] = [];
  const settled = [...contents];
  for (const i of touched) {
    const { id, capacityM3 } = network.cells[i] as Cell;
    const { plugs, source } = contents[i] as CellContents;
    const over = volumeIn(plugs) - capacityM3;
    if (over <= 0) continue;
    const { out, rest } = leave(plugs, over, false);
    left.push({ from: id, to: "ground", liquid: out });
    settled[i] = holding(rest, source);
  }
  return { contents: settled, left };
};
