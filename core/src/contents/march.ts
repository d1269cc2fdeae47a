import type { Cell } from "../watermap/network.ts";
import type { LiveOpening, Situation } from "../watermap/situation.ts";
import type { Contents } from "./contents.ts";
import { Cushions } from "./cushions.ts";
import type { Flow } from "./flow-ways.ts";
import {
  bodiesOf,
  type Body,
  chlorineOf,
  type Mixture,
  strengthOf,
  sum,
  take,
  volumeOf,
} from "./mixture.ts";
import { streamAlong } from "./move.ts";
import { Pace, stepOf } from "./pace.ts";
import { type Station } from "./stations.ts";
import type { Push, Wanted } from "./push-order.ts";
import { Tally } from "./tally.ts";
import { levelTanks, linkedTanks } from "./tanks.ts";

/** What is pushed goes on step by step along its way until something is seen where it is watched. */

const ROUGH_STEPS = 6;
// Where nothing can be read on the way, so much more is drawn than should do.
const BLIND_OVER = 1.08;
const BLIND_MORE_M3 = 1e-4;
// So much air, or liquid at less than half of what is asked, shows that what stood there before has gone (our own).
const SHOWS_M3 = 3e-5;
const GIVES_UP_AT = 4;
const GIVES_UP_M3 = 0.001;
// Colour is seen well before strength: a fiftieth of product shows (common practice, no source).
const VISIBLE_STRENGTH = 0.01;

// All but this share of a tank goes at once while nothing but its water moves; with tanks that level, so many times.
const LAST_SHARE = 0.002;
const MOST_DRAWS = 12;

/**
 * Water that a pump takes from a tank through full pipes of water comes out as it went in: all but the last of it is moved at once.
 * The vessel's row in `held` is changed in place.
 */
const drawnAtOnce = (
  path: readonly Station[],
  held: Body[][],
  mostM3: number,
  watch: string,
): { liquid: Mixture; at: LiveOpening; station: Station } | undefined => {
  const vessels = path.filter((s) => s.cell.form === "vessel");
  const [tank] = vessels;
  const station = path.find((s) => s.out.some((w) => w.opening?.id === watch));
  const at = station?.out.find((w) => w.opening?.id === watch)?.opening;
  const isPlain = path.every((s) => {
    const liquid = sum(held[s.index] as Mixture[]);
    const isFull = s.cell.form === "vessel" || volumeOf(liquid) >= s.cell.capacityM3 * (1 - 1e-9);
    return (
      isFull &&
      liquid.glycolM3 === 0 &&
      !liquid.foreignM3 &&
      s.out.length === 1 &&
      s.in.length <= 1 &&
      s.ahead.length === 0
    );
  });
  if (!tank || vessels.length !== 1 || !station || !at || !isPlain) return undefined;
  const [way] = tank.out;
  const depthM = Math.max(tank.cell.topM - tank.cell.bottomM, 1e-6);
  const below = Math.min(1, Math.max(0, ((way?.heightM ?? 0) - tank.cell.bottomM) / depthM));
  const stays = Math.max(below, tank.cell.drainRemainder) * tank.cell.capacityM3;
  const spareM3 = volumeOf(sum(held[tank.index] as Mixture[])) - stays;
  const volumeM3 = Math.min(mostM3, spareM3 * (1 - LAST_SHARE));
  if (volumeM3 <= 0) return undefined;
  const { taken, left } = take(sum(held[tank.index] as Mixture[]), volumeM3);
  held[tank.index] = [left];
  return { liquid: taken, at, station };
};

/** What goes on its way. */
export interface March {
  readonly situation: Situation;
  readonly order: Push;
  readonly flow: Flow;
  readonly path: readonly Station[];
  readonly start: Contents;
  /** Strength of what comes, by volume. */
  readonly strength: number;
  /** What stood at the watched opening was strong already. */
  readonly wasPink: boolean;
}

/** What has come of it. */
export interface Marched {
  readonly isReached: boolean;
  readonly movedM3: number;
  readonly tally: Pick<Tally, "drawnM3" | "came" | "left">;
  readonly arrivalM3: number | undefined;
  readonly readsM3: number | undefined;
  readonly isBlind: boolean;
  readonly isShown: boolean;
  readonly strengthAtEnd: number;
  /** All on the way holds the strength that was asked for. */
  readonly holdsAll: boolean;
  /** What every cell holds that anything has passed. */
  readonly held: ReadonlyMap<number, readonly Mixture[]>;
}

const networksKnown = new WeakMap<Situation["network"], boolean>();
const nothingUnknown = (network: Situation["network"]): boolean => {
  const before = networksKnown.get(network);
  if (before !== undefined) return before;
  const is = network.map.parts.every((p) => p.unknown === undefined);
  networksKnown.set(network, is);
  return is;
};

/** What whoever stands at the opening sees, and what is made of it. */
class Watcher {
  strengthAtEnd = 0;
  arrivalM3: number | undefined;
  readsM3: number | undefined;
  isBlind: boolean;
  // Unless it spits, or comes pale, in between: then what was there before has gone, and what reads strong after it is what was pushed.
  shownM3 = 0;
  private heldM3: number | undefined;
  private short: Station | undefined;
  private cameM3 = 0;
  private readonly order: Push;
  private readonly tally: Tally;
  private readonly held: readonly Body[][];
  private readonly onTheWay: readonly Station[];
  private readonly half: number;
  private readonly isKnown: boolean;

  constructor({ order, path, wasPink, situation }: March, tally: Tally, held: readonly Body[][]) {
    this.order = order;
    this.tally = tally;
    this.held = held;
    // What was strong before proves nothing: only the volume says when to stop.
    this.isBlind = wasPink;
    this.half = (order.untilStrength ?? 1) / 2;
    // Where not everything aboard is known a spit may be another's: the margin stays.
    this.isKnown = nothingUnknown(situation.network);
    // A vessel that only lets air in behind what is drawn (a tank) is not asked to hold anything.
    this.onTheWay = path.filter((s) => !s.in.some((w) => w.opening && w.opening.use !== "pickup"));
  }

  holdsAll(): boolean {
    const strength = this.order.untilStrength ?? 0;
    const holds = (s: Station): boolean => holdsStrength(s.cell, this.bodiesIn(s), strength);
    // The one that was short of it is likely short of it still.
    if (this.short && !holds(this.short)) return false;
    this.short = this.onTheWay.find((s) => !holds(s));
    return this.short === undefined;
  }

  private bodiesIn({ index }: Station): readonly Mixture[] {
    return this.held[index] as Mixture[];
  }

  /** Whether what is wanted has come, when so much has moved. */
  look(movedM3: number): boolean {
    const { order } = this;
    const { drawnM3, seenAirM3 } = this.tally;
    const seen = volumeOf(this.tally.seen);
    this.cameM3 += seen;
    if (seen > 0) this.strengthAtEnd = strengthOf(this.tally.seen);
    if (this.isBlind && this.isKnown && this.heldM3 === undefined) this.seeWhetherGone(seen);
    if (seen > 0 && this.strengthAtEnd >= VISIBLE_STRENGTH) this.arrivalM3 ??= drawnM3;
    const reads =
      order.untilStrength !== undefined &&
      seen > seenAirM3 &&
      this.strengthAtEnd >= order.untilStrength;
    if (reads) this.readsM3 ??= drawnM3;
    return this.isStrong(movedM3, reads) || this.spits() || this.isAsWanted();
  }

  private seeWhetherGone(seenM3: number): void {
    if (this.tally.seenAirM3 > seenM3) this.shownM3 += this.tally.seenAirM3;
    else if (this.strengthAtEnd < this.half) this.shownM3 += seenM3;
    if (this.shownM3 >= SHOWS_M3) this.isBlind = false;
  }

  private isStrong(movedM3: number, reads: boolean): boolean {
    const { byEyeM3 } = this.order;
    if (byEyeM3 !== undefined) return this.tally.drawnM3 >= byEyeM3 && (reads || this.isBlind);
    if (reads && this.heldM3 === undefined && this.holdsAll()) this.heldM3 = movedM3;
    return (
      this.heldM3 !== undefined &&
      reads &&
      (!this.isBlind || movedM3 >= this.heldM3 * BLIND_OVER + BLIND_MORE_M3)
    );
  }

  private spits(): boolean {
    const { untilAir } = this.order;
    const { seen, seenAirM3 } = this.tally;
    return (
      untilAir !== undefined &&
      seenAirM3 >= untilAir * (volumeOf(seen) + seenAirM3) &&
      seenAirM3 > 0
    );
  }

  private isAsWanted(): boolean {
    const { wants } = this.order;
    const { seen, seenAirM3 } = this.tally;
    const seenM3 = volumeOf(seen);
    return (
      wants !== undefined &&
      seenM3 > 0 &&
      this.cameM3 >= (wants.atLeastM3 ?? 0) &&
      isSo(seen, wants) &&
      (wants.full !== true || seenAirM3 < AIR_SEEN_SHARE * (seenM3 + seenAirM3)) &&
      this.onTheWay.every((s) => isAllSo(s.cell, this.bodiesIn(s), wants))
    );
  }
}

/** Goes on its way until what is wanted has come, or as far as it may. */
export const marched = (march: March): Marched => {
  const { situation, order, flow, path } = march;
  const held = bodiesOf(march.start);
  const linked = order.drive.kind === "pump" ? linkedTanks(situation) : [];
  const pace = new Pace(path, stepOf(path) * (order.rough ? ROUGH_STEPS : 1));
  const tally = new Tally(order.watch, march.strength, order.chlorineMgL);
  const watcher = new Watcher(march, tally, held);
  // Whoever goes by the sheet gives up when far more has gone in than it says.
  const mostM3 =
    order.byEyeM3 === undefined
      ? order.maxM3
      : Math.min(order.maxM3, order.byEyeM3 * GIVES_UP_AT + GIVES_UP_M3);
  let moved = 0;
  if (order.untilAir !== undefined) {
    for (let n = 0; n < (linked.length > 0 ? MOST_DRAWS : 1); n++) {
      const drawn = drawnAtOnce(path, held, mostM3 - moved, order.watch);
      if (!drawn) break;
      tally.leaves({ liquid: drawn.liquid, airM3: 0 }, drawn.at);
      moved += volumeOf(drawn.liquid);
      levelTanks(situation.network, linked, held);
    }
  }
  const atRest = order.untilAir === undefined ? order.cushions : undefined;
  const cushions = new Cushions(situation, order.drive, flow, held, tally, atRest);
  // Air that comes presses less than any bladder: they have given all before it spits.
  if (order.untilAir !== undefined) cushions.empty();
  const stream = streamAlong(path);
  let isReached = false;
  while (!isReached && moved < mostM3 - 1e-12) {
    const step = Math.min(pace.next(held, moved), mostM3 - moved);
    tally.look();
    // What accumulators take or give runs through the same pipes.
    if (cushions.haveMoved()) stream.rouse();
    stream.move(held, step, tally);
    levelTanks(situation.network, linked, held);
    moved += step;
    moved += cushions.follow(moved);
    isReached = watcher.look(moved);
  }
  const touched = new Set([
    ...path.map((s) => s.index),
    ...cushions.touched,
    ...linked.flatMap((g) => g.tanks),
  ]);
  const { isBlind, shownM3, strengthAtEnd, arrivalM3, readsM3 } = watcher;
  return {
    isReached,
    movedM3: moved,
    tally,
    arrivalM3,
    readsM3,
    isBlind,
    isShown: shownM3 >= SHOWS_M3,
    strengthAtEnd,
    holdsAll: watcher.holdsAll(),
    held: new Map([...touched].map((i) => [i, held[i] as Body[]])),
  };
};

// A slug of it shorter than this share of a pipe is not looked for; a body is full from here on; less air than this is not seen (our own).
const SLUG_SHARE = 0.02;
const FULL_FROM = 0.9;
const AIR_SEEN_SHARE = 0.01;

const isSo = (m: Mixture, wants: Wanted): boolean =>
  (wants.glycolAtMost === undefined || strengthOf(m) <= wants.glycolAtMost) &&
  (wants.chlorineAtLeast === undefined || chlorineOf(m) >= wants.chlorineAtLeast) &&
  (wants.chlorineAtMost === undefined || chlorineOf(m) <= wants.chlorineAtMost);

/** Whether all that a cell on the way holds is as wanted. */
const isAllSo = (cell: Cell, plugs: readonly Mixture[], wants: Wanted): boolean => {
  if (cell.capacityM3 <= 0) return true;
  if (wants.full === true && volumeOf(sum(plugs)) < FULL_FROM * cell.capacityM3) return false;
  return plugs.every((p) => volumeOf(p) <= SLUG_SHARE * cell.capacityM3 || isSo(p, wants));
};

// A cell within three per cent of the asked strength, and all but full, counts as holding it.
const holdsStrength = (cell: Cell, plugs: readonly Mixture[], strength: number): boolean => {
  if (cell.capacityM3 <= 0) return true;
  const liquid = sum(plugs);
  const notable = plugs.filter((p) => volumeOf(p) > 0.02 * cell.capacityM3);
  return (
    volumeOf(liquid) > 0.9 * cell.capacityM3 &&
    notable.every((p) => strengthOf(p) >= strength * 0.97)
  );
};
