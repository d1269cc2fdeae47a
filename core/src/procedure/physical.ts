import {
  liquidIn,
  type Measured,
  plus,
  product,
  type Standing,
  startingContents,
  strengthOf,
  take,
  volumeOf,
} from "../contents/index.ts";
import { inUseLineup, type Lineup, type Network } from "../watermap/index.ts";

/** A unit in the hands of a plan or a run: how it stands, and what is known of it beyond that. */
export interface Physical extends Standing {
  readonly facts: readonly string[];
  /** Product drawn, m3. */
  readonly drawnM3: number;
  readonly measured: Measured;
}

export const startPhysical = (network: Network, asFound: Lineup = {}): Physical => ({
  lineup: { ...inUseLineup(network), ...asFound },
  apart: [],
  contents: startingContents(network),
  facts: [],
  drawnM3: 0,
  gone: { waterM3: 0, glycolM3: 0 },
  came: { waterM3: 0, glycolM3: 0 },
  measured: new Map(),
});

/** That what is left in a vessel was measured: no later step lets out more of it on paper, until more has been caught. */
export const remainsFact = (cell: string): string => `remains:${cell}`;

/** That a trap has had its dose poured in: what ran through it from a tap may have gone into a bucket. */
export const pouredFact = (cell: string): string => `poured:${cell}`;

/** Takes a measured remainder for a vessel: its capacity less what was caught. */
export const withRecovered = (
  network: Network,
  before: Physical,
  cellId: string,
  heldBeforeM3: number,
  recoveredM3: number,
): Physical => {
  const index = network.cellIndex.get(cellId);
  const held = index === undefined ? undefined : before.contents[index];
  const cell = index === undefined ? undefined : network.cells[index];
  if (index === undefined || !held || !cell) return before;
  const remains = Math.min(cell.capacityM3, Math.max(0, heldBeforeM3 - recoveredM3));
  const now = liquidIn(held);
  const strength = strengthOf(now);
  const { taken } = take(now, remains);
  const lacking = remains - volumeOf(taken);
  const liquid = lacking > 0 ? plus(now, product(lacking, strength)) : taken;
  const contents = before.contents.map((c, i) =>
    i === index ? { plugs: [liquid], source: "measured" as const } : c,
  );
  const fact = remainsFact(cellId);
  return {
    ...before,
    contents,
    facts: before.facts.includes(fact) ? before.facts : [...before.facts, fact],
  };
};
