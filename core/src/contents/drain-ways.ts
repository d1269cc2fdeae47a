import { PA_PER_M } from "../quantity/index.ts";
import { betweenOpenEnds } from "./between.ts";
import {
  type Cheapest,
  BACK,
  cheapest,
  lowestWays,
  type MayGo,
  ONWARD,
  reach,
  type Way,
  wayBy,
  wayTo,
} from "../watermap/graph.ts";
import {
  airOnlyOpenings,
  type LiveOpening,
  liveOpenings,
  onceForStand,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";

/**
 * By which opening each cell runs out, and down to which level. Liquid leaves a cell only when
 * 1. there is a way out for it, past checks only their own way, and a way in for air from another opening, past checks only the
 *    way that liquid goes: everything moves from where air comes in to where liquid goes out;
 * 2. the two ways share no neck: air does not rise through a pipe in which liquid falls. In a tube closed at its top a bubble does
 *    not rise at all below about 5 mm bore in water (Bretherton, J. Fluid Mech. 10, 1961); wider tubes glug when they stand
 *    upright and shake, which nobody can count on, so only the wide throat of a vessel's own dump counts (see GLUGS);
 * 3. air stands higher than the liquid's way out all along its own way: a water seal lower than the way out holds the air back.
 *    A full line siphons over its high places (heads aboard are far below the ten metres at which that fails);
 * 4. it stands above its spill level: the highest point on its way out, the lowest over all ways;
 * 5. a check with a spring is lifted only by water that stands on it: a column that hangs below it may break at any tee, and no
 *    air is counted on to come through it.
 */
export interface DrainWays {
  /** The opening that a cell runs out by and the level that stays; nothing where it keeps everything. Looked for when it is asked. */
  readonly exitOf: (cell: number) => Exit | undefined;
  /** Whether there is a way out at all, air or no air. */
  readonly hasWayOut: (cell: number) => boolean;
}

interface Exit {
  readonly opening: LiveOpening;
  readonly levelM: number;
}

// Hydrostatics: head of water in m from a pressure in Pa, at 1000 kg/m3 and standard gravity 9.80665 m/s2.
const HEAD_PER_PA = 1 / PA_PER_M;
// A check stiffer than this holds back any head found aboard (a pump's valves): one metre of water.
const GRAVITY_LIMIT_M = 1;
const EPS_M = 1e-9;
/** Openings wide and short enough to let air in past what leaves: a waste tank's gate, 38 mm and more, with no neck before it. */
const GLUGS: ReadonlySet<LiveOpening["use"]> = new Set(["dump"]);

const MOST_LEVELS = 20;
const remembered = onceForStand<DrainWays>(MOST_LEVELS);

/** Water in a tank: by cell, how high it stands over the lip of its outlets, m. */
export type TankLevels = ReadonlyMap<number, number>;

/** The way out into a tank that has room: named by the tank's cell. */
const intoTank = (cell: number, heightM: number): LiveOpening => ({
  id: `into:${cell}`,
  cell,
  heightM,
  use: "fill",
});

/** The tank's cell where a way out leads into one. */
export const tankOf = (o: LiveOpening): number | undefined =>
  o.id === `into:${o.cell}` ? o.cell : undefined;

/**
 * The ways out and in as things stand.
 * @param levels of the tanks that have room and breathe: what runs down to one ends in it
 */
export const drainWays = (situation: Situation, levels: TankLevels = new Map()): DrainWays => {
  const told = [...levels].map(([cell, m]) => `${cell}:${m.toFixed(3)}`).join(" ");
  return remembered(situation, told, () => new Finder(situation, levels).find());
};

class Finder {
  private readonly network: Situation["network"];
  private readonly passable: readonly boolean[];
  private readonly openings: readonly LiveOpening[];
  /** From tank to tank liquid only levels: none empties itself into another. */
  private readonly pastTanks: readonly LiveOpening[];
  private readonly openAt = new Map<number, LiveOpening[]>();
  private readonly crackM: readonly number[];
  /** By link, how high liquid must stand to go by it, and which ways it may. */
  private readonly spillM: Float64Array;
  private readonly flows: Uint8Array;
  private readonly levels: TankLevels;
  private readonly breakers: readonly LiveOpening[];
  private readonly linkTaken: Int32Array;
  private readonly neckTaken: Int32Array;
  private lastMark = 0;
  /** For openings, by cell, how high liquid must stand to leave by any of them. */
  private readonly lowestM = new Map<readonly LiveOpening[], Float64Array>();
  private readonly airReach = new Map<LiveOpening, Uint8Array>();
  private readonly searches = new Map<LiveOpening, Cheapest>();
  /** How often a way out has been looked for. */
  private asked = 0;

  constructor(situation: Situation, levels: TankLevels) {
    const { network } = situation;
    // A seacock opens under water: no air there.
    const openings = liveOpenings(situation).filter((o) => o.use !== "raw");
    this.levels = levels;
    this.breakers = airOnlyOpenings(situation);
    this.network = network;
    // No way bears the mark 0, and nothing is looked up under it.
    this.linkTaken = new Int32Array(network.links.length).fill(-1);
    this.neckTaken = new Int32Array(network.cells.length).fill(-1);
    this.crackM = network.links.map((l) => l.crackPa * HEAD_PER_PA);
    this.passable = passableLinks(situation).map(
      (is, i) => is && (this.crackM[i] as number) < GRAVITY_LIMIT_M,
    );
    const { links } = network;
    this.spillM = Float64Array.from(links, (l, i) => l.heightM + (this.crackM[i] as number));
    this.flows = Uint8Array.from(links, (l, i) =>
      this.passable[i] ? (l.oneWay ? ONWARD : ONWARD + BACK) : 0,
    );
    this.openings = [...openings, ...[...levels].map(([cell, heightM]) => intoTank(cell, heightM))];
    this.pastTanks =
      levels.size === 0 ? this.openings : this.openings.filter((o) => tankOf(o) === undefined);
    // A hose that stands in a jug lets liquid out, and no air in.
    for (const o of [...openings.filter((x) => x.use !== "pickup"), ...this.breakers])
      this.openAt.set(o.cell, [...(this.openAt.get(o.cell) ?? []), o]);
  }

  find(): DrainWays {
    const between = this.betweenEnds();
    const found = new Map<number, Exit | undefined>();
    const exitOf = (cell: number): Exit | undefined => {
      if (!between[cell] && !this.openAt.get(cell)?.some((o) => GLUGS.has(o.use))) return undefined;
      if (!found.has(cell)) found.set(cell, this.exit(cell));
      return found.get(cell);
    };
    let wayOut: Uint8Array | undefined;
    return { exitOf, hasWayOut: (cell) => (wayOut ??= this.haveWayOut())[cell] === 1 };
  }

  private haveWayOut(): Uint8Array {
    const ends = this.openings.map((o) => o.cell);
    return reach(this.network, ends, (link, from) => this.spill(0, link, from) !== undefined);
  }

  /** Backwards from an opening, over every cell. */
  private searchFrom(opening: LiveOpening): Cheapest {
    const known = this.searches.get(opening);
    if (known) return known;
    const made = lowestWays(this.network, [opening], this.spillM, this.flows, false);
    this.searches.set(opening, made);
    return made;
  }

  /**
   * How high liquid in a cell must stand to leave by each opening; infinite where it cannot. It is the highest place between them, from
   * whichever side it is looked for: from the cell while few are asked for, from each opening when many are.
   */
  private levelsFrom(cell: number): (o: LiveOpening) => number {
    if (this.asked++ > this.openings.length) return (o) => this.searchFrom(o).cost[cell] as number;
    const from = { cell, heightM: Number.NEGATIVE_INFINITY };
    const { cost } = lowestWays(this.network, [from], this.spillM, this.flows, true);
    return (o) => Math.max(cost[o.cell] as number, o.heightM);
  }

  private waysOutOf(cell: number): readonly LiveOpening[] {
    return this.isNeck(cell) ? this.openings : this.pastTanks;
  }

  /** The opening that liquid in a cell comes down lowest by; of some that are as low, the first by its id. */
  private lowestOut(cell: number): Exit | undefined {
    const openings = this.waysOutOf(cell);
    const lowestM =
      this.lowestM.get(openings) ??
      lowestWays(this.network, openings, this.spillM, this.flows, false).cost;
    this.lowestM.set(openings, lowestM);
    const levelM = lowestM[cell] as number;
    if (!Number.isFinite(levelM)) return undefined;
    let first: LiveOpening | undefined;
    for (const o of openings)
      if (
        o.heightM <= levelM &&
        (!first || o.id < first.id) &&
        this.searchFrom(o).cost[cell] === levelM
      )
        first = o;
    return first && { opening: first, levelM };
  }

  /** Whether a cell runs out by an opening, and down to where. */
  private goesBy(cell: number, way: Exit): Exit | undefined {
    if (!this.mayBreathe(cell, way.opening)) return undefined;
    const out = wayBy(this.network, this.searchFrom(way.opening), cell);
    if (this.airBeside(cell, way.opening, out)) return way;
    const levelM = this.outBesideAir(cell, way.opening);
    return levelM === undefined ? undefined : { opening: way.opening, levelM };
  }

  private exit(cell: number): Exit | undefined {
    // Mostly the lowest serves: the others are not looked for.
    const lowest = this.lowestOut(cell);
    if (!lowest) return undefined;
    const found = this.goesBy(cell, lowest);
    if (found) return found;
    const levelOf = this.levelsFrom(cell);
    const isBefore = (x: Exit, y: Exit): boolean =>
      x.levelM < y.levelM || (x.levelM === y.levelM && x.opening.id < y.opening.id);
    const ways = this.waysOutOf(cell)
      .filter((o) => o !== lowest.opening)
      .map((opening) => ({ opening, levelM: levelOf(opening) }))
      .filter(({ levelM }) => Number.isFinite(levelM));
    while (ways.length > 0) {
      let first = 0;
      ways.forEach((w, i) => {
        if (isBefore(w, ways[first] as Exit)) first = i;
      });
      const [way] = ways.splice(first, 1) as [Exit];
      const other = this.goesBy(cell, way);
      if (other) return other;
    }
    return undefined;
  }

  /** Cells on a way from one open end to another, whatever checks and heights say: no other runs out. */
  private betweenEnds(): Uint8Array {
    const ends = [...this.openings, ...this.breakers].map((o) => o.cell);
    return betweenOpenEnds(this.network, (i) => this.passable[i] === true, ends);
  }

  /** How high liquid must stand to go by a link into a cell, and on; nothing where it cannot. */
  private spill(sofar: number, link: number, into: number): number | undefined {
    const isOnward = this.network.links[link]?.b === into;
    if (((this.flows[link] as number) & (isOnward ? ONWARD : BACK)) === 0) return undefined;
    return Math.max(sofar, this.spillM[link] as number);
  }

  /** Wide bodies let liquid and air pass each other; necks do not. */
  private isNeck(cell: number): boolean {
    return this.network.cells[cell]?.form !== "vessel";
  }

  /** Whether air can come to a cell at all while liquid leaves by an exit, whatever ways they share; looked for once for each exit. */
  private mayBreathe(cell: number, exit: LiveOpening): boolean {
    if (exit.cell === cell && GLUGS.has(exit.use)) return true;
    const known = this.airReach.get(exit);
    if (known) return known[cell] === 1;
    const inlets = [...this.openAt].flatMap(([at, here]) =>
      here.some((o) => o !== exit && this.isAbove(o, exit)) ? [at] : [],
    );
    const found = reach(this.network, inlets, (link, from, to) =>
      this.airPasses(link, to, from, exit),
    );
    this.airReach.set(exit, found);
    return found[cell] === 1;
  }

  private isAbove(o: LiveOpening, exit: LiveOpening): boolean {
    return o.heightM > exit.heightM + EPS_M;
  }

  /** Whether air comes by a link to a cell from the next, while liquid leaves by an exit. */
  private airPasses(link: number, from: number, to: number, exit: LiveOpening): boolean {
    const l = this.network.links[link];
    if (
      !l ||
      !this.passable[link] ||
      (l.oneWay && l.b !== from) ||
      (this.crackM[link] as number) > 0
    )
      return false;
    const far = this.network.cells[to];
    // Air does not come out of a tank by a mouth that is under its water.
    if ((this.levels.get(to) ?? Number.NEGATIVE_INFINITY) > l.heightM + EPS_M) return false;
    // A dip full of water on the air's way is a seal as low as its bottom.
    const lowestM = far && far.sagM3 > 0 ? Math.min(l.heightM, far.bottomM) : l.heightM;
    return lowestM >= exit.heightM - EPS_M;
  }

  /** Whether air can come to a cell by a way that shares nothing with the way out, which it must stand higher than. */
  private airBeside(cell: number, exit: LiveOpening, out: Way): boolean {
    return this.airWay(cell, exit, this.takenBy(out, cell)) !== undefined;
  }

  /** Marks what a way takes: nothing else may go by its links, nor through its necks. @returns the mark */
  private takenBy(way: Way, but: number): number {
    const mark = ++this.lastMark;
    for (const c of way.cells) if (c !== but && this.isNeck(c)) this.neckTaken[c] = mark;
    for (const l of way.links) this.linkTaken[l] = mark;
    return mark;
  }

  /** @param mark of what is taken; 0 where nothing is */
  private airWay(cell: number, exit: LiveOpening, mark: number): Way | undefined {
    const may: MayGo = (link, from, to) =>
      this.linkTaken[link] !== mark &&
      this.neckTaken[to] !== mark &&
      this.airPasses(link, from, to, exit);
    const letsAirIn = (o: LiveOpening, at: number): boolean =>
      o === exit ? GLUGS.has(o.use) && at === cell : this.isAbove(o, exit);
    return wayTo(this.network, cell, may, (at) =>
      (this.openAt.get(at) ?? []).some((o) => letsAirIn(o, at)),
    );
  }

  /** The other way about: air by its shortest way, liquid by the best that is left. The level, or nothing. */
  private outBesideAir(cell: number, exit: LiveOpening): number | undefined {
    const air = this.airWay(cell, exit, 0);
    if (!air) return undefined;
    const mark = this.takenBy(air, cell);
    if (this.neckTaken[exit.cell] === mark) return undefined;
    const search = cheapest(this.network, [[exit.cell, exit.heightM]], (sofar, link, from, to) =>
      this.linkTaken[link] === mark || this.neckTaken[to] === mark
        ? undefined
        : this.spill(sofar, link, from),
    );
    const levelM = search.cost[cell] as number;
    if (!Number.isFinite(levelM)) return undefined;
    return this.airBeside(cell, exit, wayBy(this.network, search, cell)) ? levelM : undefined;
  }
}
