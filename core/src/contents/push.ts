import { betweenOpenEnds } from "./between.ts";
import type { Cell } from "../watermap/network.ts";
import { againstChecks, reach } from "../watermap/graph.ts";
import {
  type LiveOpening,
  liveOpenings,
  onceForStand,
  passableLinks,
  type Situation,
} from "../watermap/situation.ts";
import { type AtRest, Cushions } from "./cushions.ts";
import { type CellContents, type Contents, liquidIn } from "./contents.ts";
import { downstream, type Drive, findFlow, type Flow, type FlowResult, pumpOf } from "./flow.ts";
import {
  bodiesOf,
  type Body,
  chlorineOf,
  type Mixture,
  NOTHING,
  plus,
  product,
  strengthOf,
  sum,
  take,
  volumeOf,
  water as waterOf,
} from "./mixture.ts";
import {
  type Carriers,
  leave,
  moveOn,
  Pace,
  type Station,
  stationsOf,
  stepOf,
  volumeIn,
} from "./move.ts";
import { levelTanks, linkedTanks } from "./tanks.ts";
import { fall, type Spill } from "./waste.ts";

/** What everything from the source to the watched opening is to be before it is shut again; all that is said. */
export interface Wanted {
  /** Glycol by volume, at most. */
  readonly glycolAtMost?: number | undefined;
  /** Free chlorine, mg/L. */
  readonly chlorineAtLeast?: number | undefined;
  readonly chlorineAtMost?: number | undefined;
  /** Full, with no air in what comes. */
  readonly full?: boolean | undefined;
  /** Not before so much has come, m3. */
  readonly atLeastM3?: number | undefined;
}

export interface Push {
  readonly drive: Drive;
  /** What a jug at a pickup, or the source of a push, gives. Strength by volume. */
  readonly productStrength: number;
  /** Free chlorine in it, mg/L. */
  readonly chlorineMgL?: number | undefined;
  /** Stop when what comes, and everything on the way, is so. */
  readonly wants?: Wanted | undefined;
  /** Where arrival and strength are watched. */
  readonly watch: string;
  /**
   * Stop when what leaves at the watched opening has at least this strength, 0 to 1, and everything on the way holds it too:
   * a hose already full from the other side of a mixer shows strength at once and proves nothing.
   */
  readonly untilStrength?: number;
  /** Whoever runs it goes by what comes out and by this volume, m3, and cannot see what is on the way. */
  readonly byEyeM3?: number;
  /** Stop when the watched opening gives this share of air ("it spits"). */
  readonly untilAir?: number;
  /** Stop at this volume at the latest, m3. */
  readonly maxM3: number;
  /** How each accumulator stands to the pressure of the line. */
  readonly cushions?: AtRest;
  /** In steps so many times as large: quicker, and near enough to see whether anything is worth a closer look. */
  readonly rough?: boolean;
}

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

const ROUGH_STEPS = 6;
const MOST_SHARE = 0.5;
// Where nothing can be read on the way, so much more is drawn than should do.
const BLIND_OVER = 1.08;
const BLIND_MORE_M3 = 1e-4;
// So much air, or liquid at less than half of what is asked, shows that what stood there before has gone (our own).
const SHOWS_M3 = 3e-5;
const GIVES_UP_AT = 4;
const GIVES_UP_M3 = 0.001;
// A way that takes less than this of the flow may as well take nothing, or a few times as much (our own).
const TELLABLE_SHARE = 0.05;
// A body that ends with so much less than it began with has had air through it (our own).
const AIRED_SHARE = 0.02;
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

// So are the cells on its way.
const paths = new WeakMap<Flow, Station[]>();
const pathOf = (
  { network }: Situation,
  drive: Drive,
  flow: Flow,
  isAsFound: boolean,
): Station[] => {
  const known = paths.get(flow);
  if (known) return known;
  const forced = new Map(drive.kind === "push" ? [[drive.cell, 1]] : []);
  const made = stationsOf(
    network,
    { link: flow.link, holes: flow.opening, forced },
    isAsFound ? flow.order : undefined,
  );
  paths.set(flow, made);
  return made;
};

const known = new WeakMap<Situation["network"], boolean>();
const nothingUnknown = (network: Situation["network"]): boolean => {
  const before = known.get(network);
  if (before !== undefined) return before;
  const is = network.map.parts.every((p) => p.unknown === undefined);
  known.set(network, is);
  return is;
};

/** Where not all is known of a map nothing is made of a hose that does not mix: what stood in it may hide what comes after it. */
const mixingHoses = (path: readonly Station[]): readonly Station[] => {
  if (!path.some((s) => s.cell.lengthwise)) return path;
  const before = mixing.get(path);
  if (before) return before;
  const made = path.map((s) => {
    const { lengthwise, ...cell } = s.cell;
    return lengthwise ? { ...s, cell } : s;
  });
  mixing.set(path, made);
  return made;
};
const mixing = new WeakMap<readonly Station[], readonly Station[]>();

interface DrawnOn {
  readonly beside: readonly LiveOpening[];
  readonly jugToo: boolean;
}

/** What a pump's inlet can draw on, whatever springs there are on the way: jugs, and whatever is beside them. */
const drawnOn = (situation: Situation, drive: Drive): DrawnOn =>
  drive.kind === "pump"
    ? sources(situation, drive.switchKey, () => findSources(situation, drive))
    : { beside: [], jugToo: false };
const MOST_PUMPS = 10;
const sources = onceForStand<DrawnOn>(MOST_PUMPS);

const findSources = (situation: Situation, drive: Drive): DrawnOn => {
  const { network } = situation;
  const inlet =
    drive.kind === "pump"
      ? network.links.find((l) => l.drivenBy === drive.switchKey)?.a
      : undefined;
  if (inlet === undefined) return { beside: [], jugToo: false };
  const met = reach(network, [inlet], againstChecks(network, passableLinks(situation)));
  const drawn = liveOpenings(situation).filter((o) => met[o.cell] === 1);
  return {
    beside: drawn.filter((o) => o.use !== "pickup"),
    jugToo: drawn.some((o) => o.use === "pickup"),
  };
};

/** Whether what a pump gives runs back into a tank: it goes round and round, and nothing is emptied by it. */
const goesRound = ({ network }: Situation, { drive }: Push, flow: Flow): boolean => {
  const pump = pumpOf(network, drive, flow);
  const outlet = network.links[pump]?.b;
  if (outlet === undefined) return false;
  const isVessel = (cell: number): boolean => network.cells[cell]?.form === "vessel";
  const beyond = downstream(network, flow, outlet, pump, (cell) => !isVessel(cell));
  return beyond.some(
    (mark, cell) =>
      mark === 1 && isVessel(cell) && network.cells[cell]?.kind?.role.vessel === "fresh",
  );
};

/**
 * Beyond the pump air takes the easier of two ways as soon as it is through, and leaves the other as it was: only the way with the
 * greatest share counts as swept.
 */
const byTheEasierWay = ({ network }: Situation, { drive, watch }: Push, flow: Flow): Flow => {
  const pump = pumpOf(network, drive, flow);
  const out = flow.opening.find((o) => o.at.id === watch && o.share > 0);
  const start = drive.kind === "pump" ? network.links[pump]?.b : drive.cell;
  if (!out || start === undefined) return flow;
  const beyond = downstream(network, flow, start, pump);
  const kept = new Set<number>();
  for (let at = out.at.cell, steps = 0; at !== start && steps <= network.links.length; steps++) {
    let [best, most] = [-1, 0];
    for (const i of network.linksOf[at] ?? []) {
      const coming = network.links[i]?.b === at ? (flow.link[i] ?? 0) : -(flow.link[i] ?? 0);
      if (coming > most && !kept.has(i)) [best, most] = [i, coming];
    }
    const l = network.links[best];
    if (!l) return flow;
    kept.add(best);
    at = l.a === at ? l.b : l.a;
  }
  const link = flow.link.map((q, i) => {
    const l = network.links[i];
    if (q === 0 || !l || i === pump || !(beyond[l.a] && beyond[l.b])) return q;
    return kept.has(i) ? Math.sign(q) : 0;
  });
  const opening = flow.opening.map((o) =>
    o === out ? { ...o, share: 1 } : o.share > 0 ? { ...o, share: 0 } : o,
  );
  return { ...flow, link, opening };
};

/** Pipes and bodies that such a flow passes, taken as full of water: nobody can say what comes of it. */
const asWater = ({ network }: Situation, before: Contents, flow: Flow): Contents =>
  before.map((held, i) => {
    const cell = network.cells[i];
    const passed = (network.linksOf[i] ?? []).some((l) => flow.link[l] !== 0);
    return cell && passed && cell.form !== "vessel" && cell.capacityM3 > 0
      ? { plugs: [waterOf(cell.capacityM3)], source: "assumed" }
      : held;
  });

// A flow belongs to one standing of a network: what lies between its ends is looked for once.
const besides = new WeakMap<Flow, readonly number[]>();
const besideOf = (
  situation: Situation,
  flow: Flow,
  pump: number,
  start: number,
): readonly number[] => {
  const known = besides.get(flow);
  if (known) return known;
  const { network } = situation;
  const passable = passableLinks(situation);
  const ends = [start, ...flow.opening.filter((o) => o.share > 0).map((o) => o.at.cell)];
  const between = betweenOpenEnds(network, (i) => i !== pump && passable[i] === true, ends);
  const takesLittle = (cell: number): boolean =>
    (network.linksOf[cell] ?? []).every((l) => Math.abs(flow.link[l] ?? 0) < TELLABLE_SHARE);
  const found = network.cells.flatMap((cell, i) =>
    between[i] && cell.form !== "vessel" && cell.capacityM3 > 0 && takesLittle(i) ? [i] : [],
  );
  besides.set(flow, found);
  return found;
};

/**
 * Pipes and bodies on a way that lies open beside the one that is gone: which share each takes hangs on a spring or on a crumb of
 * pressure, so what they hold after it cannot be told and is taken as water.
 */
const besideAsWater = (
  situation: Situation,
  before: Contents,
  { drive }: Push,
  flow: Flow,
): Contents => {
  const { network } = situation;
  const pump = pumpOf(network, drive, flow);
  const start = drive.kind === "pump" ? network.links[pump]?.b : drive.cell;
  if (start === undefined) return before;
  const beside = besideOf(situation, flow, pump, start);
  if (beside.length === 0) return before;
  const after = [...before];
  for (const i of beside)
    after[i] = { plugs: [waterOf(network.cells[i]?.capacityM3 ?? 0)], source: "assumed" };
  return after;
};

/** What came in and went out while something is pushed, and what is seen at the opening that is watched. */
class Tally implements Carriers {
  drawnM3 = 0;
  came = NOTHING;
  readonly left = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  /** What has left at the watched opening since it was last looked at. */
  seen = NOTHING;
  seenAirM3 = 0;
  readonly #watch: string;
  readonly #strength: number;

  readonly #chlorineMgL: number;

  constructor(watch: string, strength: number, chlorineMgL = 0) {
    this.#watch = watch;
    this.#strength = strength;
    this.#chlorineMgL = chlorineMgL;
  }

  look(): void {
    [this.seen, this.seenAirM3] = [NOTHING, 0];
  }

  readonly comes: Carriers["comes"] = (volumeM3, _, opening) => {
    if (opening?.use === "raw") {
      const liquid = { ...waterOf(volumeM3), foreignM3: volumeM3 };
      this.came = plus(this.came, liquid);
      return { liquid, airM3: 0 };
    }
    if (opening && opening.use !== "pickup") return { liquid: NOTHING, airM3: volumeM3 };
    this.drawnM3 += volumeM3;
    const plain = product(volumeM3, this.#strength);
    const liquid =
      this.#chlorineMgL > 0
        ? { ...plain, chlorineMg: volumeM3 * LITRES_PER_M3 * this.#chlorineMgL }
        : plain;
    this.came = plus(this.came, liquid);
    return { liquid, airM3: 0 };
  };

  readonly leaves = (
    { liquid, airM3 }: { readonly liquid: Mixture; readonly airM3: number },
    at: LiveOpening,
  ): void => {
    this.left.set(at.id, { at, liquid: plus(this.left.get(at.id)?.liquid ?? NOTHING, liquid) });
    if (at.id !== this.#watch) return;
    this.seen = plus(this.seen, liquid);
    this.seenAirM3 += airM3;
  };
}

/** What everything holds when it is over. */
const afterPush = (
  { network }: Situation,
  start: Contents,
  held: readonly Body[][],
  touched: ReadonlySet<number>,
  isGuess: boolean,
): CellContents[] => {
  // By the sheet no pipe is counted as emptied by the air that product drives out of an empty heater: how much of the flow goes there cannot
  // be told.
  const isAiredOut = (i: number): boolean => {
    const form = network.cells[i]?.form;
    return (
      isGuess &&
      form !== "vessel" &&
      form !== "trap" &&
      volumeIn(held[i] as Mixture[]) < volumeOf(liquidIn(start[i])) * (1 - AIRED_SHARE)
    );
  };
  return start.map<CellContents>((c, i) => {
    if (!touched.has(i)) return c;
    return isAiredOut(i)
      ? { plugs: [waterOf(volumeOf(liquidIn(c)))], source: "assumed" }
      : { plugs: held[i] as Mixture[], source: "worked out" };
  });
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
  const held = bodiesOf(start);
  const linked = order.drive.kind === "pump" ? linkedTanks(situation) : [];
  const pace = new Pace(path, stepOf(path) * (order.rough ? ROUGH_STEPS : 1));
  const tally = new Tally(
    order.watch,
    jugToo && water ? 0 : order.productStrength,
    order.chlorineMgL,
  );
  let [moved, strengthAtEnd] = [0, 0];
  let arrivalM3: number | undefined;
  let readsM3: number | undefined;
  let heldM3: number | undefined;
  let cameM3 = 0;
  let outcome: PushResult["outcome"] = "stopped at volume";

  // A vessel that only lets air in behind what is drawn (a tank) is not asked to hold anything.
  const onTheWay = path.filter((s) => !s.in.some((w) => w.opening && w.opening.use !== "pickup"));
  const holdsAll = (): boolean =>
    onTheWay.every((s) =>
      holdsStrength(s.cell, held[s.index] as Mixture[], order.untilStrength ?? 0),
    );
  // What was strong before proves nothing: only the volume says when to stop.
  const watchedCell = flow.opening.find((o) => o.at.id === order.watch)?.at.cell;
  const half = (order.untilStrength ?? 1) / 2;
  const wasPink = strengthOf(liquidIn(before[watchedCell ?? -1])) >= half;
  let isBlind = wasPink;
  // Where not everything aboard is known a spit may be another's: the margin stays.
  const isKnown = nothingUnknown(situation.network);
  // Unless it spits, or comes pale, in between: then what was there before has gone, and what reads strong after it is what was pushed.
  let shownM3 = 0;
  // Whoever goes by the sheet gives up when far more has gone in than it says.
  const mostM3 =
    order.byEyeM3 === undefined
      ? order.maxM3
      : Math.min(order.maxM3, order.byEyeM3 * GIVES_UP_AT + GIVES_UP_M3);
  if (order.untilAir !== undefined) {
    for (let n = 0; n < (linked.length > 0 ? MOST_DRAWS : 1); n++) {
      const gone = drawnAtOnce(path, held, mostM3 - moved, order.watch);
      if (!gone) break;
      tally.leaves({ liquid: gone.liquid, airM3: 0 }, gone.at);
      moved += volumeOf(gone.liquid);
      levelTanks(situation.network, linked, held);
    }
  }
  const cushions = new Cushions(
    situation,
    order.drive,
    flow,
    held,
    tally,
    order.untilAir === undefined ? order.cushions : undefined,
  );
  // Air that comes presses less than any bladder: they have given all before it spits.
  if (order.untilAir !== undefined) cushions.empty();
  while (moved < mostM3 - 1e-12) {
    const step = Math.min(pace.next(held, moved), mostM3 - moved);
    tally.look();
    moveOn(path, held, step, tally);
    levelTanks(situation.network, linked, held);
    moved += step;
    moved += cushions.follow(moved);
    const { drawnM3, seenAirM3 } = tally;
    const seen = volumeOf(tally.seen);
    cameM3 += seen;
    if (seen > 0) strengthAtEnd = strengthOf(tally.seen);
    if (isBlind && isKnown && heldM3 === undefined) {
      if (seenAirM3 > seen) shownM3 += seenAirM3;
      else if (strengthAtEnd < half) shownM3 += seen;
      if (shownM3 >= SHOWS_M3) isBlind = false;
    }
    if (arrivalM3 === undefined && seen > 0 && strengthAtEnd >= VISIBLE_STRENGTH)
      arrivalM3 = drawnM3;
    const reads =
      order.untilStrength !== undefined && seen > seenAirM3 && strengthAtEnd >= order.untilStrength;
    if (reads) readsM3 ??= drawnM3;
    if (order.byEyeM3 === undefined && reads && heldM3 === undefined && holdsAll()) heldM3 = moved;
    const wetEnough =
      order.byEyeM3 === undefined
        ? heldM3 !== undefined &&
          reads &&
          (!isBlind || moved >= heldM3 * BLIND_OVER + BLIND_MORE_M3)
        : drawnM3 >= order.byEyeM3 && (reads || isBlind);
    const soEnough =
      order.wants !== undefined &&
      seen > 0 &&
      cameM3 >= (order.wants.atLeastM3 ?? 0) &&
      isSo(tally.seen, order.wants) &&
      (order.wants.full !== true || seenAirM3 < AIR_SEEN_SHARE * (seen + seenAirM3)) &&
      onTheWay.every((s) => isAllSo(s.cell, held[s.index] as Mixture[], order.wants as Wanted));
    const dryEnough =
      order.untilAir !== undefined &&
      seenAirM3 >= order.untilAir * (seen + seenAirM3) &&
      seenAirM3 > 0;
    if (wetEnough || dryEnough || soEnough) {
      outcome = "reached";
      break;
    }
  }

  // By the sheet nobody goes on: what came of it cannot be told.
  const isGuess = order.byEyeM3 !== undefined && order.untilStrength !== undefined;
  // And a spit is believed only where all that is known agrees with it.
  if (isGuess && (outcome !== "reached" || (wasPink && !holdsAll())))
    return { ...nothing, contents: asWater(situation, before, flow), outcome };
  const touched = new Set([
    ...path.map((s) => s.index),
    ...cushions.touched,
    ...linked.flatMap((g) => g.tanks),
  ]);
  const settled = settleOverflow(situation, afterPush(situation, start, held, touched, isGuess));
  const fallen = fall(situation, settled.contents, [...tally.left.values()]);
  return {
    contents: fallen.contents,
    outcome,
    drawnM3: tally.drawnM3,
    movedM3: moved,
    blind: isBlind && order.untilStrength !== undefined,
    shown: shownM3 >= SHOWS_M3,
    watched: tally.left.get(order.watch)?.liquid ?? NOTHING,
    came: tally.came,
    left: [...fallen.left, ...settled.left],
    ...(arrivalM3 === undefined ? {} : { arrivalM3 }),
    ...(readsM3 === undefined ? {} : { readsM3 }),
    strengthAtEnd,
    swept: [...touched],
  };
};

// A slug of it shorter than this share of a pipe is not looked for; a body is full from here on; less air than this is not seen (our own).
const SLUG_SHARE = 0.02;
const FULL_FROM = 0.9;
const AIR_SEEN_SHARE = 0.01;
const LITRES_PER_M3 = 1000;

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

/** Rounding, or a vessel pushed beyond full by two ways at once, may leave a cell over its volume: that much spills. */
export const settleOverflow = (
  situation: Situation,
  contents: Contents,
): { contents: Contents; left: Spill[] } => {
  const left: Spill[] = [];
  const settled = contents.map<CellContents>((c, i) => {
    const cell = situation.network.cells[i] as Cell;
    const over = volumeOf(liquidIn(c)) - cell.capacityM3;
    if (over <= 0) return c;
    const { out, rest } = leave(c.plugs, over, false);
    left.push({ from: cell.id, to: "ground", liquid: out });
    return { ...c, plugs: rest };
  });
  return { contents: settled, left };
};
