import {
  type Control,
  heatersOf,
  type Lineup,
  linkOpen,
  type Network,
  passableLinks,
  reach,
  type Situation,
  withChecks,
} from "../watermap/index.ts";
import type { Physical } from "./physical.ts";

/**
 * Finds, from the graph alone, how the valves must stand so that what is pushed from a source reaches the most outlets,
 * keeps out of the heaters where there is another way, and does not run into a fresh tank.
 */

const reachThrough = (network: Network, passable: readonly boolean[], start: number): Uint8Array =>
  reach(network, [start], withChecks(network, passable));

/** Cells that liquid forced from a start can reach, past open links and with every check. */
export const forcedReach = (situation: Situation, start: number): Set<number> => {
  const seen = reachThrough(situation.network, passableLinks(situation), start);
  return new Set(situation.network.cells.flatMap((_, i) => (seen[i] ? [i] : [])));
};

export interface FillLineup {
  /** Position of every valve and selector. */
  readonly turns: Lineup;
  readonly outletCells: number;
  /** Heaters that product gets into. */
  readonly heaters: readonly string[];
}

// More valves than this are settled one after another instead of in every combination.
const ALL_COMBINATIONS_UP_TO = 9;

interface Score {
  readonly outlets: number;
  readonly heaters: readonly string[];
  /** Reached although they are to be kept out. */
  readonly unwanted: number;
  readonly tanks: number;
  readonly turned: number;
}

const better = (a: Score, b: Score): boolean => {
  if (a.unwanted !== b.unwanted) return a.unwanted < b.unwanted;
  if (a.outlets !== b.outlets) return a.outlets > b.outlets;
  if (a.heaters.length !== b.heaters.length) return a.heaters.length < b.heaters.length;
  if (a.tanks !== b.tanks) return a.tanks < b.tanks;
  return a.turned < b.turned;
};

/**
 * @param start cell where product is forced in
 * @param valves controls that may be turned; others stay as they stand
 * @param keptOut heaters into which nothing is let, whatever outlets it costs
 * @param heatersWanted take the heaters into the circuit on purpose (they are filled), used to show what a bypass saves
 */
export const findFillLineup = (
  network: Network,
  physical: Physical,
  start: number,
  valves: readonly Control[],
  heatersWanted = false,
  keptOut: ReadonlySet<string> = new Set(),
): FillLineup => {
  const outletCells = new Set(
    network.openings
      .filter((o) => o.use === "outlet")
      .flatMap((o) => sideCells(network, o.part.id)),
  );
  const heaterAt = heatersOf(network).map(({ part, cell }) => ({ i: cell, id: part.id }));
  const tanks = network.cells.flatMap((cell, i) =>
    cell.form === "vessel" && cell.kind?.role.vessel === "fresh" ? [i] : [],
  );
  // Of every choice only the links behind the valves in question are looked at again.
  const mine = new Set(valves.map((v) => v.key));
  const still = passableLinks({ network, lineup: physical.lineup, apart: physical.apart });
  const turned = network.links.flatMap((l, i) => (l.gates.some((g) => mine.has(g.key)) ? [i] : []));
  const undone = new Set(
    turned.filter(
      (i) =>
        !still[i] && linkOpen(network.links[i] as (typeof network.links)[number], physical.lineup),
    ),
  );
  const score = (turns: Lineup): Score => {
    const lineup = { ...physical.lineup, ...turns };
    const passable = [...still];
    for (const i of turned)
      passable[i] =
        !undone.has(i) && linkOpen(network.links[i] as (typeof network.links)[number], lineup);
    const reached = reachThrough(network, passable, start);
    const heaters = heaterAt.filter((v) => reached[v.i]).map((v) => v.id);
    return {
      outlets: [...outletCells].filter((c) => reached[c]).length,
      heaters: heatersWanted ? heaterAt.filter((v) => !reached[v.i]).map((v) => v.id) : heaters,
      unwanted: heaters.filter((id) => keptOut.has(id)).length,
      tanks: tanks.filter((i) => reached[i]).length,
      turned: Object.entries(turns).filter(([key, position]) => physical.lineup[key] !== position)
        .length,
    };
  };
  const positions = valves.map((v) =>
    v.spec.positions.map((p) => ({ key: v.key, position: p.name })),
  );
  let turns: Lineup = Object.fromEntries(
    valves.map((v) => [v.key, physical.lineup[v.key] ?? v.spec.inUse]),
  );
  let best = score(turns);
  const consider = (candidate: Lineup): void => {
    const found = score(candidate);
    if (better(found, best)) {
      best = found;
      turns = candidate;
    }
  };
  if (valves.length <= ALL_COMBINATIONS_UP_TO) {
    let combinations: Lineup[] = [{}];
    for (const choice of positions)
      combinations = combinations.flatMap((c) =>
        choice.map(({ key, position }) => ({ ...c, [key]: position })),
      );
    for (const c of combinations) consider(c);
  } else
    for (let round = 0; round < 3; round++)
      for (const a of positions.flat()) {
        consider({ ...turns, [a.key]: a.position });
        for (const b of positions.flat())
          if (a.key !== b.key) consider({ ...turns, [a.key]: a.position, [b.key]: b.position });
      }
  const reached = forcedReach(
    { network, lineup: { ...physical.lineup, ...turns }, apart: physical.apart },
    start,
  );
  return {
    turns,
    outletCells: best.outlets,
    heaters: heaterAt.filter((v) => reached.has(v.i)).map((v) => v.id),
  };
};

/** Cells of a part that stand on the pressure side: all but bowls and traps. */
export const sideCells = (network: Network, partId: string): number[] =>
  network.cells.flatMap((cell, i) =>
    cell.ownerId === partId && cell.form === "fitting" && cell.capacityM3 > 0 ? [i] : [],
  );
