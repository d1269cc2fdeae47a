import {
  type Control,
  freshTanks,
  gateOpen,
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

/** A position for each of the valves in question. */
type Choice = readonly string[];

/** What stands open as the valves in question are turned: of every choice only the links behind them are looked at again. */
class Lineups {
  private readonly standing: Lineup;
  private readonly valves: readonly Control[];
  private readonly still: readonly boolean[];
  /** Links behind the valves, each with what opens it: a valve by its number, and the positions that do. */
  private readonly behind: readonly {
    readonly link: number;
    readonly gates: readonly { readonly valve: number; readonly in: readonly string[] }[];
  }[];

  constructor(network: Network, { lineup, apart }: Physical, valves: readonly Control[]) {
    this.standing = lineup;
    this.valves = valves;
    this.still = passableLinks({ network, lineup, apart });
    const numbers = new Map(valves.map((v, i) => [v.key, i]));
    this.behind = network.links.flatMap((l, link) => {
      const mine = l.gates.flatMap((g) => {
        const valve = numbers.get(g.key);
        return valve === undefined ? [] : [{ valve, in: g.in }];
      });
      // An end that is undone, or a gate that nobody turns here, stays as it stands.
      const isUndone = !this.still[link] && linkOpen(l, lineup);
      const others = l.gates.filter((g) => !numbers.has(g.key));
      const staysShut = isUndone || !others.every((g) => gateOpen(g, lineup));
      return mine.length === 0 || staysShut ? [] : [{ link, gates: mine }];
    });
  }

  passable(choice: Choice): readonly boolean[] {
    const passable = [...this.still];
    for (const { link, gates } of this.behind)
      passable[link] = gates.every((g) => g.in.includes(choice[g.valve] ?? ""));
    return passable;
  }

  /** How many stand otherwise than now. */
  turned(choice: Choice): number {
    return this.valves.filter((v, i) => this.standing[v.key] !== choice[i]).length;
  }

  told(choice: Choice): Lineup {
    return Object.fromEntries(this.valves.map((v, i) => [v.key, choice[i] ?? v.spec.inUse]));
  }
}

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
  const tanks = freshTanks(network);
  const lineups = new Lineups(network, physical, valves);
  const score = (choice: Choice): Score => {
    const reached = reachThrough(network, lineups.passable(choice), start);
    const heaters = heaterAt.filter((v) => reached[v.i]).map((v) => v.id);
    let [outlets, inTanks] = [0, 0];
    for (const c of outletCells) outlets += reached[c] as number;
    for (const i of tanks) inTanks += reached[i] as number;
    return {
      outlets,
      heaters: heatersWanted ? heaterAt.filter((v) => !reached[v.i]).map((v) => v.id) : heaters,
      unwanted: heaters.filter((id) => keptOut.has(id)).length,
      tanks: inTanks,
      turned: lineups.turned(choice),
    };
  };
  let chosen: Choice = valves.map((v) => physical.lineup[v.key] ?? v.spec.inUse);
  let best = score(chosen);
  const consider = (candidate: Choice): void => {
    const found = score(candidate);
    if (better(found, best)) {
      best = found;
      chosen = candidate;
    }
  };
  const positions = valves.map((v) => v.spec.positions.map((p) => p.name));
  if (valves.length <= ALL_COMBINATIONS_UP_TO) {
    let combinations: Choice[] = [[]];
    for (const names of positions)
      combinations = combinations.flatMap((c) => names.map((name) => [...c, name]));
    for (const c of combinations) consider(c);
  } else
    for (let round = 0; round < 3; round++)
      positions.forEach((names, a) => {
        for (const name of names) {
          consider(chosen.with(a, name));
          positions.forEach((others, b) => {
            if (b !== a) for (const other of others) consider(chosen.with(a, name).with(b, other));
          });
        }
      });
  const turns = lineups.told(chosen);
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
