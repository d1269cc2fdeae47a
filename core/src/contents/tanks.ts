import { cheapest, reach } from "../watermap/graph.ts";
import { type Cell, freshTanks, type Network } from "../watermap/network.ts";
import { onceForStand, passableLinks, type Situation } from "../watermap/situation.ts";
import { type Contents, liquidIn } from "./contents.ts";
import { type Body, type Mixture, plus, sum, take, volumeOf } from "./mixture.ts";

/** Tanks that communicate: what is drawn from one comes from all of them, down to the highest place on the way between. */
export interface Linked {
  readonly tanks: readonly number[];
  /** Highest place on the way between them; below it each keeps its own, m: nobody counts on a siphon. */
  readonly spillM: number;
}

/** Drinking-water tanks joined by open pipes, whatever pumps stand between set aside. */
export const linkedTanks = (situation: Situation): readonly Linked[] =>
  linked(situation, "", () => findLinked(situation));
const linked = onceForStand<readonly Linked[]>(1);

const findLinked = (situation: Situation): readonly Linked[] => {
  const { network } = situation;
  const tanks = freshTanks(network);
  if (tanks.length < 2) return [];
  const left = new Set(tanks);
  const passable = passableLinks(situation);
  const isWay = (link: number): boolean =>
    passable[link] === true &&
    network.links[link]?.oneWay !== true &&
    network.links[link]?.drives === undefined;
  const groups: Linked[] = [];
  for (const first of left) {
    const met = reach(network, [first], isWay);
    const group = [...left].filter((t) => met[t] === 1);
    for (const t of group) left.delete(t);
    if (group.length < 2) continue;
    const way = cheapest(network, [[first, Number.NEGATIVE_INFINITY]], (sofar, link) =>
      isWay(link) ? Math.max(sofar, network.links[link]?.heightM ?? 0) : undefined,
    );
    groups.push({
      tanks: group,
      spillM: Math.max(
        ...group.map((t) => (t === first ? Number.NEGATIVE_INFINITY : (way.cost[t] as number))),
      ),
    });
  }
  return groups;
};

interface Hump {
  readonly tanks: readonly number[];
  readonly spillM: number;
  /** Links at the highest place of a pipe between them; what a pump draws on is none of them. */
  readonly links: readonly number[];
}

const remembered = onceForStand<readonly Hump[]>(1);

const humpsOf = (situation: Situation): readonly Hump[] =>
  // Most units have one tank, and nothing to look for.
  freshTanks(situation.network).length < 2
    ? []
    : remembered(situation, "", () => findHumps(situation));

const findHumps = (situation: Situation): readonly Hump[] => {
  const { network } = situation;
  return linkedTanks(situation).map(({ tanks, spillM }) => {
    const isTank = new Set(tanks);
    const links = network.links.flatMap((l, i) => {
      if (l.heightM < spillM - LEVEL_EPS_M || l.oneWay || l.drives) return [];
      // The pipe that it belongs to, from tank to tank.
      const piece = reach(network, [l.a, l.b], (_, from) => !isTank.has(from));
      const isPumped = network.links.some(
        (other) => other.drives && (piece[other.a] === 1 || piece[other.b] === 1),
      );
      return !isPumped && tanks.filter((t) => piece[t] === 1).length > 1 ? [i] : [];
    });
    return { tanks, spillM, links };
  });
};

/** Links at the highest place of a pipe between linked tanks that all stand below it: nothing goes by them of itself. */
export const overHumps = (situation: Situation, contents: Contents): readonly number[] => {
  const { cells } = situation.network;
  const stands = (t: number): number => levelOf(cells[t] as Cell, volumeOf(liquidIn(contents[t])));
  return humpsOf(situation).flatMap(({ tanks, spillM, links }) =>
    tanks.some((t) => stands(t) > spillM + LEVEL_EPS_M) ? [] : links,
  );
};
const LEVEL_EPS_M = 1e-6;

const levelOf = (cell: Cell, m3: number): number =>
  cell.bottomM + (m3 / cell.capacityM3) * (cell.topM - cell.bottomM);
const volumeAt = (cell: Cell, levelM: number): number =>
  cell.capacityM3 *
  Math.min(1, Math.max(0, (levelM - cell.bottomM) / Math.max(cell.topM - cell.bottomM, 1e-9)));

/** Where a row of linear pieces that only rises first comes to a value; the last place where it never does. */
const whereIs = (
  places: readonly number[],
  valueAt: (place: number) => number,
  value: number,
): number => {
  let [low, lowValue] = [places[0] ?? 0, Number.NEGATIVE_INFINITY];
  for (const high of places) {
    const highValue = valueAt(high);
    if (highValue >= value)
      return highValue > lowValue && lowValue > Number.NEGATIVE_INFINITY
        ? low + ((high - low) * (value - lowValue)) / (highValue - lowValue)
        : high;
    [low, lowValue] = [high, highValue];
  }
  return low;
};

// Nearer than this they stand even, m.
const EVEN_M = 1e-9;

/** Lets linked tanks level: one level for all that stands over the highest place between them. The rows of `held` are changed in place; nothing is lost. */
export const levelTanks = (
  { cells }: Pick<Network, "cells">,
  groups: readonly Linked[],
  held: Body[][],
): void => {
  for (const { tanks, spillM } of groups) {
    const own = tanks.map((t) => {
      const cell = cells[t] as Cell;
      const m3 = volumeOf(sum(held[t] as Mixture[]));
      return { t, cell, m3, levelM: levelOf(cell, m3) };
    });
    // Over the spill level all is common; a tank that stands lower takes of it until it is there too.
    const highestM = Math.max(...own.map((o) => o.levelM));
    if (highestM <= spillM || own.every((o) => highestM - o.levelM < EVEN_M)) continue;
    const after = (levelM: number): number[] =>
      own.map((o) => volumeAt(o.cell, Math.max(levelM, o.levelM > spillM ? spillM : o.levelM)));
    const total = own.reduce((s, o) => s + o.m3, 0);
    // Between these heights every tank takes evenly.
    const turns = own.flatMap((o) => [o.cell.bottomM, o.cell.topM, o.levelM]);
    const heights = [...turns, spillM].toSorted((a, b) => a - b);
    const low = whereIs(heights, (levelM) => after(levelM).reduce((s, m) => s + m, 0), total);
    const wanted = after(low);
    let common: Mixture = { waterM3: 0, glycolM3: 0 };
    own.forEach((o, i) => {
      const over = o.m3 - (wanted[i] as number);
      if (over <= 0) return;
      const { taken, left } = take(sum(held[o.t] as Mixture[]), over);
      held[o.t] = volumeOf(left) > 0 ? [left] : [];
      common = plus(common, taken);
    });
    const lacking = own.reduce((s, o, i) => s + Math.max(0, (wanted[i] as number) - o.m3), 0);
    const givenM3 = volumeOf(common);
    if (givenM3 <= 0) continue;
    // What they all together cannot hold stays in the first.
    const [share, restM3] = [
      lacking > 0 ? Math.min(1, givenM3 / lacking) : 0,
      Math.max(0, givenM3 - lacking),
    ];
    own.forEach((o, i) => {
      const lacks = Math.max(0, (wanted[i] as number) - o.m3);
      const { taken } = take(common, lacks * share + (i === 0 ? restM3 : 0));
      if (volumeOf(taken) > 0) held[o.t] = [plus(sum(held[o.t] as Mixture[]), taken)];
    });
  }
};
