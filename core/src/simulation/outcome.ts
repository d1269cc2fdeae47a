import {
  type CellContents,
  liquidIn,
  type Mixture,
  plus,
  settleOverflow,
  situationOf,
  volumeOf,
} from "../contents/index.ts";
import {
  againstChecks,
  liveOpenings,
  type Network,
  passableLinks,
  reach,
} from "../watermap/index.ts";
import type { SimAction } from "./act.ts";
import type { AirResult } from "./blow.ts";
import type { Named } from "./names.ts";
import type { Notice } from "./notice.ts";
import type { SimState } from "./state.ts";
import type { SimFrame, Tally, TraceLine } from "./tally.ts";

/** What came of a thing that was done. */

/** One action done, and what came of it. */
export interface SimDone {
  readonly action: SimAction;
  readonly state: SimState;
  readonly seconds: number;
  readonly ended?: "time" | "seen" | "at rest" | "too many steps";
  readonly came: Mixture;
  readonly gone: Mixture;
  /** By opening, before it fell anywhere. */
  readonly out: ReadonlyMap<string, Mixture>;
  readonly notices: readonly Notice[];
  readonly air?: AirResult;
  readonly frames: readonly SimFrame[];
  readonly trace: readonly TraceLine[];
  /** m3/s by opening at the end. */
  readonly openingM3PerS: Readonly<Record<string, number>>;
}

export type SimStep =
  | { readonly ok: true; readonly done: SimDone }
  | { readonly ok: false; readonly problem: string };

export const withCell = (state: SimState, cell: number, liquid: Mixture): SimState => ({
  ...state,
  contents: state.contents.map<CellContents>((c, i) =>
    i === cell ? { plugs: volumeOf(liquid) > 0 ? [liquid] : [], source: "worked out" } : c,
  ),
});

/**
 * Whether air can follow into a cell from something that stands open; it comes the way a check passes, towards the vessel. Where a joint of a
 * vessel itself is undone the suction hose is in it, and the air must come by another way.
 */
export const airFollows = (network: Network, state: SimState, cell: number): boolean => {
  const situation = situationOf(network, state);
  const met = reach(network, [cell], againstChecks(network, passableLinks(situation)));
  const open = liveOpenings(situation).filter((o) => met[o.cell] === 1);
  const isVessel = network.cells[cell]?.form === "vessel";
  const hose = isVessel && open.some((o) => o.cell === cell && o.undone) ? 1 : 0;
  return open.length > hose;
};

export type Outcome = Named<
  Partial<Pick<SimDone, "ended" | "air">> & { state: SimState; seconds: number }
>;
export const outcome = (
  state: SimState,
  seconds = 0,
  more: Partial<Pick<SimDone, "ended" | "air">> = {},
): Outcome => ({
  ok: true,
  value: { state, seconds, ...more },
});

/** Adds liquid to a cell; what it cannot hold runs over, and the balance is kept. */
export const addLiquid = (
  network: Network,
  state: SimState,
  cell: number,
  liquid: Mixture,
  tally: Tally,
): SimState => {
  tally.came = plus(tally.came, liquid);
  const filled = withCell(state, cell, plus(liquidIn(state.contents[cell]), liquid));
  const over = settleOverflow(situationOf(network, state), filled.contents);
  for (const spill of over.left) {
    tally.gone = plus(tally.gone, spill.liquid);
    tally.spilt.set(cell, (tally.spilt.get(cell) ?? 0) + volumeOf(spill.liquid));
  }
  return { ...filled, contents: over.contents };
};
