import { GRAVITY } from "../quantity/index.ts";
import { type Cell, freshTanks, wasteTanks } from "../watermap/network.ts";
import { reach, withChecks } from "../watermap/graph.ts";
import {
  type LiveOpening,
  liveOpenings,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";
import { drainWays, type TankLevels, tankOf } from "./drain-ways.ts";
import { type CellContents, type Contents, holding, liquidIn } from "./contents.ts";
import { type Mixture, plus, take, volumeOf } from "./mixture.ts";
import { fall, type Spill } from "./waste.ts";

export interface DrainResult {
  readonly contents: Contents;
  readonly left: readonly Spill[];
  /** What came out of each opening before it fell anywhere, by opening id. */
  readonly out: ReadonlyMap<string, Mixture>;
  /** Cells that air now reaches. */
  readonly drained: readonly number[];
  /** Cells on the wet side that keep liquid although something stands open, and why. */
  readonly kept: readonly {
    readonly cell: number;
    readonly why: "no air can enter" | "no way out" | "below every way out";
  }[];
}

// What clings to a bowl that has been taken off and tipped out (common practice, no source).
const TIPPED_OUT_SHARE = 0.02;

/** Cells whose bowl is off, with the hole that it leaves: what such a bowl keeps below its ports is tipped out with it. */
const bowlsOff = (situation: Situation): ReadonlyMap<number, LiveOpening> =>
  new Map(
    liveOpenings(situation).flatMap((o): [number, LiveOpening][] =>
      o.use === "bowl" && o.opening?.gate && situation.network.cells[o.cell]?.form === "fitting"
        ? [[o.cell, o]]
        : [],
    ),
  );

/** What no way out empties, m3. */
const leastIn = (cell: Cell, isOff: boolean): number =>
  Math.min(
    cell.capacityM3,
    (isOff
      ? Math.min(cell.tippedRemainder ?? TIPPED_OUT_SHARE, cell.drainRemainder)
      : cell.drainRemainder) *
      cell.capacityM3 +
      cell.sagM3,
  );

/** Liquid that stays in a cell when everything above a level can leave, m3. */
const keptBelow = (cell: Cell, levelM: number, isOff: boolean): number => {
  const least = leastIn(cell, isOff);
  const top = cell.topM;
  // A dip counts by its own volume; the rest of a run rises from its lower end to its upper.
  const bottom = cell.endsM ? Math.min(...cell.endsM) : cell.bottomM;
  if (levelM <= bottom + 1e-9) return Math.min(least, cell.capacityM3);
  const share = top - bottom < 1e-9 ? 1 : Math.min(1, (levelM - bottom) / (top - bottom));
  return Math.min(cell.capacityM3, Math.max(least, share * cell.capacityM3));
};

// A tank that is fuller takes no more from the lines (our own).
const HAS_ROOM_SHARE = 0.9;

/** How high liquid stands in every tank that breathes and has room, over the lip of its outlets; a waste tank breathes by its pipes. */
const tankLevels = (situation: Situation, contents: Contents): TankLevels => {
  const { network } = situation;
  const breathing = new Set(
    liveOpenings(situation).flatMap((o) => (o.use === "vent" ? [o.cell] : [])),
  );
  return new Map(
    [...freshTanks(network).filter((i) => breathing.has(i)), ...wasteTanks(network)].flatMap(
      (i) => {
        const cell = network.cells[i] as Cell;
        const share = volumeOf(liquidIn(contents[i])) / cell.capacityM3;
        const overLip = Math.max(0, share - cell.drainRemainder);
        return share < HAS_ROOM_SHARE
          ? [[i, cell.bottomM + overLip * (cell.topM - cell.bottomM)]]
          : [];
      },
    ),
  );
};

export interface DrainSettings {
  /** Of what could leave a cell by an opening, what does: a tank takes its time. All of it where it is not said. */
  readonly pace?: (cell: Cell, exit: LiveOpening, couldM3: number) => number;
  /** Cells that gravity may work on; all of them where it is not said. */
  readonly only?: (cell: number) => boolean;
}

/**
 * Lets gravity work: until nothing more moves, or for as long as a pace gives it. What may leave, and why, is `drainWays`' to say.
 * Order of parts plays no role; liquid and glycol are conserved.
 */
export const drain = (
  situation: Situation,
  before: Contents,
  settings: DrainSettings = {},
): DrainResult => {
  let all = drainOnce(situation, before, settings);
  const isSame = (a: Contents, b: Contents): boolean => a.every((c, i) => c === b[i]);
  if (settings.pace || isSame(all.contents, before)) return all;
  // What ran into a tank, and what a full tank held back, runs on.
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = drainOnce(situation, all.contents, settings);
    if (isSame(next.contents, all.contents)) break;
    all = { ...next, left: [...all.left, ...next.left], out: joined(all.out, next.out) };
  }
  return all;
};

/** A cushion's air presses its water out by whatever stands open beyond it; what lies in its own pipe stays. */
const pressedOut = (
  situation: Situation,
  cell: number,
): { opening: LiveOpening; levelM: number } | undefined => {
  const { network } = situation;
  const met = reach(network, [cell], withChecks(network, passableLinks(situation)));
  const opening = liveOpenings(situation).find(
    (o) => met[o.cell] === 1 && o.use !== "vent" && o.use !== "raw" && o.use !== "pickup",
  );
  return opening && { opening, levelM: Number.NEGATIVE_INFINITY };
};

const MOST_ROUNDS = 4;

const joined = (
  a: ReadonlyMap<string, Mixture>,
  b: ReadonlyMap<string, Mixture>,
): ReadonlyMap<string, Mixture> => {
  const both = new Map(a);
  for (const [id, m] of b) {
    const there = both.get(id);
    both.set(id, there ? plus(there, m) : m);
  }
  return both;
};

const drainOnce = (
  situation: Situation,
  before: Contents,
  settings: DrainSettings,
): DrainResult => {
  const { network } = situation;
  const ways = drainWays(situation, tankLevels(situation, before));
  const off = bowlsOff(situation);
  const after: CellContents[] = [...before];
  const out = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  const drained: number[] = [];
  const kept: { cell: number; why: DrainResult["kept"][number]["why"] }[] = [];
  network.cells.forEach((cell, i) => {
    const held = volumeOf(liquidIn(before[i]));
    if (
      cell.form === "trap" ||
      cell.form === "waste-pipe" ||
      held <= 0 ||
      settings.only?.(i) === false
    )
      return;
    // What lies below every way out stays in any case.
    if (held <= leastIn(cell, off.has(i)) * (1 + 1e-9)) return;
    const bowl = off.get(i);
    const exit =
      // In the hand it needs no air from elsewhere.
      (bowl && { opening: bowl, levelM: Number.NEGATIVE_INFINITY }) ??
      ways.exitOf(i) ??
      (cell.prechargePa === undefined ? undefined : pressedOut(situation, i));
    if (!exit) {
      kept.push({ cell: i, why: ways.hasWayOut(i) ? "no air can enter" : "no way out" });
      return;
    }
    const keep = keptBelow(cell, exit.levelM, off.has(i));
    drained.push(i);
    // What rounding leaves above the level is not there.
    if (held <= keep * (1 + 1e-9)) return;
    if (keep > 0.5 * cell.capacityM3) kept.push({ cell: i, why: "below every way out" });
    const into = tankOf(exit.opening);
    const leaves =
      settings.pace && into === undefined
        ? Math.min(held - keep, settings.pace(cell, exit.opening, held - keep))
        : held - keep;
    const { taken, left } = take(liquidIn(after[i]), leaves);
    after[i] = holding(volumeOf(left) > 0 ? [left] : [], "worked out");
    if (into !== undefined) {
      after[into] = holding([plus(liquidIn(after[into]), taken)], "worked out");
      return;
    }
    const sofar = out.get(exit.opening.id);
    out.set(exit.opening.id, {
      at: exit.opening,
      liquid: sofar ? plus(sofar.liquid, taken) : taken,
    });
  });
  const fallen = fall(situation, after, [...out.values()]);
  return {
    contents: fallen.contents,
    left: fallen.left,
    out: new Map([...out].map(([id, { liquid }]) => [id, liquid])),
    drained,
    kept,
  };
};

// Common practice, no source: a tank's drain behaves like a short tube with a valve.
const DISCHARGE_COEFFICIENT = 0.6;

/**
 * Time to empty a vented vessel of even plan area through a hole in its bottom.
 * t = 2A (√h) / (Cd a √(2g)); Torricelli, as in White, Fluid Mechanics.
 * @returns seconds
 */
export const emptyingTimeS = (
  volumeM3: number,
  depthM: number,
  levelM: number,
  boreM: number,
): number => {
  const area = volumeM3 / Math.max(depthM, 1e-6);
  const hole = (Math.PI / 4) * boreM * boreM;
  return (
    (2 * area * Math.sqrt(Math.max(0, levelM))) /
    (DISCHARGE_COEFFICIENT * hole * Math.sqrt(2 * GRAVITY))
  );
};
