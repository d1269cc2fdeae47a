import type { Cell } from "../watermap/network.ts";
import { type LiveOpening, liveOpenings, passableLinks, type Situation } from "../watermap/situation.ts";
import { type Arc, betweenOpenEnds } from "./between.ts";
import { type CellContents, type Contents, liquidIn } from "./contents.ts";
import { type Mixture, plus, take, volumeOf } from "./mixture.ts";
import { fall, type Spill } from "./waste.ts";

/**
 * Gravity. Liquid leaves a cell only when
 * 1. air can take its place: the cell lies on a way from one open end to another (a leg with one open end holds its water
 *    like a finger-stopped straw; wide vessels too, while they have a single small hole),
 * 2. checks allow it: air can come the way liquid goes, and liquid can go, from an open end that stands higher than the one
 *    by which it leaves (a full line siphons over its high places; heads aboard are far below the ten metres at which that fails),
 * 3. it stands above its spill level: the lowest, over all ways out, of the highest point on the way. Dips keep theirs.
 */

// Hydrostatics: head of water in m from a pressure in Pa, at 1000 kg/m3 and standard gravity 9.80665 m/s2.
const HEAD_PER_PA = 1 / (1000 * 9.80665);
// A check stiffer than this holds back any head found aboard (a pump's valves): one metre of water.
const GRAVITY_LIMIT_M = 1;

export interface DrainResult {
  readonly contents: Contents;
  readonly left: readonly Spill[];
  /** What came out of each opening before it fell anywhere, by opening id. */
  readonly out: ReadonlyMap<string, Mixture>;
  /** Cells that air now reaches. */
  readonly drained: readonly number[];
  /** Cells on the wet side that keep liquid although something stands open, and why. */
  readonly kept: readonly { readonly cell: number; readonly why: "no air can enter" | "no way out" | "below every way out" }[];
}

/** A way to a neighbouring cell, for liquid that comes from there and for air that goes there. */
interface Step {
  readonly to: number;
  readonly heightM: number;
  readonly crackM: number;
  readonly liquidComes: boolean;
  readonly airGoes: boolean;
}

/** Smallest cost from a start to every cell, where a step combines the cost so far with its own; grows only. */
const spread = (
  steps: readonly (readonly Step[])[],
  start: number,
  first: number,
  cost: (sofar: number, step: Step) => number | undefined,
): Float64Array => {
  const best = new Float64Array(steps.length).fill(Number.POSITIVE_INFINITY);
  const open: number[] = [start];
  best[start] = first;
  while (open.length > 0) {
    let least = 0;
    for (let i = 1; i < open.length; i++) if ((best[open[i] as number] as number) < (best[open[least] as number] as number)) least = i;
    const at = open[least] as number;
    open[least] = open.at(-1) as number;
    open.pop();
    for (const step of steps[at] as readonly Step[]) {
      const value = cost(best[at] as number, step);
      if (value === undefined || value >= (best[step.to] as number)) continue;
      if (best[step.to] === Number.POSITIVE_INFINITY) open.push(step.to);
      best[step.to] = value;
    }
  }
  return best;
};

// Liquid must stand as high as the highest place on its way; air loses the crack of every check.
const spillCost = (sofar: number, step: Step): number | undefined => (step.liquidComes ? Math.max(sofar, step.heightM) : undefined);
const airCost = (sofar: number, step: Step): number | undefined => (step.airGoes ? sofar + step.crackM : undefined);

/** Liquid that stays in a cell when everything above a level can leave, m3. */
const keptBelow = (cell: Cell, levelM: number): number => {
  const least = cell.drainRemainder * cell.capacityM3 + cell.sagM3;
  const top = cell.topM;
  // A dip counts by its own volume; the rest of a run rises from its lower end to its upper.
  const bottom = cell.endsM ? Math.min(...cell.endsM) : cell.bottomM;
  if (levelM <= bottom + 1e-9) return Math.min(least, cell.capacityM3);
  const share = top - bottom < 1e-9 ? 1 : Math.min(1, (levelM - bottom) / (top - bottom));
  return Math.min(cell.capacityM3, Math.max(least, share * cell.capacityM3));
};

export interface DrainSettings {
  /** Of what could leave a cell by an opening, what does: a tank takes its time. All of it where it is not said. */
  readonly pace?: (cell: Cell, exit: LiveOpening, couldM3: number) => number;
  /** Cells that gravity may work on; all of them where it is not said. */
  readonly only?: (cell: number) => boolean;
}

/**
 * Lets gravity work: until nothing more moves, or for as long as a pace gives it.
 * Order of parts plays no role; liquid and glycol are conserved.
 */
export const drain = (situation: Situation, before: Contents, settings: DrainSettings = {}): DrainResult => {
  const { network } = situation;
  const size = network.cells.length;
  const passable = passableLinks(situation).map((open, i) => open && (network.links[i]?.crackPa ?? 0) * HEAD_PER_PA < GRAVITY_LIMIT_M);
  // A seacock opens under water: no air there.
  const openings = liveOpenings(situation).filter((o) => o.use !== "raw");
  const arcs: Arc[][] = Array.from({ length: size + 1 }, () => []);
  const join = (a: number, b: number, id: number): void => {
    arcs[a]?.push({ to: b, id });
    arcs[b]?.push({ to: a, id });
  };
  network.links.forEach((l, i) => passable[i] && join(l.a, l.b, i));
  openings.forEach((o, i) => join(size, o.cell, network.links.length + i));
  const vented = betweenOpenEnds(size, arcs, size);

  const steps: Step[][] = network.cells.map(() => []);
  network.links.forEach((l, i) => {
    if (!passable[i]) return;
    const crackM = l.crackPa * HEAD_PER_PA;
    steps[l.a]?.push({ to: l.b, heightM: l.heightM, crackM, liquidComes: !l.oneWay, airGoes: true });
    steps[l.b]?.push({ to: l.a, heightM: l.heightM, crackM, liquidComes: true, airGoes: !l.oneWay });
  });
  // For every opening: how high liquid must stand in each cell to leave by it, and how much head air loses on its way from it.
  const ways = openings.map((o) => ({
    opening: o,
    spill: spread(steps, o.cell, o.heightM, spillCost),
    airLoss: spread(steps, o.cell, 0, airCost),
  }));

  const after: CellContents[] = [...before];
  const out = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  const drained: number[] = [];
  const kept: { cell: number; why: DrainResult["kept"][number]["why"] }[] = [];
  network.cells.forEach((cell, i) => {
    const held = volumeOf(liquidIn(before[i]));
    if (cell.form === "trap" || cell.form === "waste-pipe" || held <= 0 || settings.only?.(i) === false) return;
    let exit: { opening: LiveOpening; level: number } | undefined;
    for (const way of ways) {
      const level = way.spill[i] as number;
      const supplied = ways.some(
        (other) => other !== way && other.opening.heightM - (other.airLoss[i] as number) > way.opening.heightM + 1e-9,
      );
      if (Number.isFinite(level) && supplied && (!exit || level < exit.level)) exit = { opening: way.opening, level };
    }
    if (!vented[i] || !exit) {
      kept.push({ cell: i, why: ways.some((w) => Number.isFinite(w.spill[i])) ? "no air can enter" : "no way out" });
      return;
    }
    const keep = keptBelow(cell, exit.level);
    drained.push(i);
    // What rounding leaves above the level is not there.
    if (held <= keep * (1 + 1e-9)) return;
    if (keep > 0.5 * cell.capacityM3) kept.push({ cell: i, why: "below every way out" });
    const leaves = settings.pace ? Math.min(held - keep, settings.pace(cell, exit.opening, held - keep)) : held - keep;
    const { taken, left } = take(liquidIn(before[i]), leaves);
    after[i] = { plugs: volumeOf(left) > 0 ? [left] : [], source: "worked out" };
    const sofar = out.get(exit.opening.id);
    out.set(exit.opening.id, { at: exit.opening, liquid: sofar ? plus(sofar.liquid, taken) : taken });
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
const GRAVITY = 9.80665;

/**
 * Time to empty a vented vessel of even plan area through a hole in its bottom.
 * t = 2A (√h) / (Cd a √(2g)); Torricelli, as in White, Fluid Mechanics.
 * @returns seconds
 */
export const emptyingTimeS = (volumeM3: number, depthM: number, levelM: number, boreM: number): number => {
  const area = volumeM3 / Math.max(depthM, 1e-6);
  const hole = (Math.PI / 4) * boreM * boreM;
  return (2 * area * Math.sqrt(Math.max(0, levelM))) / (DISCHARGE_COEFFICIENT * hole * Math.sqrt(2 * GRAVITY));
};
