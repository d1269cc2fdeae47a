import type { Cell } from "../watermap/network.ts";
import type { LiveOpening, Situation } from "../watermap/situation.ts";
import { type CellContents, type Contents, liquidIn } from "./contents.ts";
import { type Drive, findFlow, type FlowResult } from "./flow.ts";
import { type Mixture, NOTHING, plus, product, strengthOf, sum, volumeOf } from "./mixture.ts";
import { type Carriers, leave, moveOn, stationsOf } from "./move.ts";
import { fall, type Spill } from "./waste.ts";

export interface Push {
  readonly drive: Drive;
  /** What a jug at a pickup, or the source of a push, gives. Strength by volume. */
  readonly productStrength: number;
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
  /** In steps four times as large: quicker, and near enough to see whether anything is worth a closer look. */
  readonly rough?: boolean;
}

export interface PushResult {
  readonly contents: Contents;
  readonly outcome: "reached" | "stopped at volume" | "no way out" | "no way in" | "no pump";
  /** Product drawn, m3. */
  readonly drawnM3: number;
  /** Liquid that came in, product among it. */
  readonly came: Mixture;
  /** What left, and where to. */
  readonly left: readonly Spill[];
  /** Volume drawn when the first product showed at the watched opening, m3. */
  readonly arrivalM3?: number;
  /** Volume drawn when the watched opening first read the strength asked for, m3: what is on the way may not hold it yet. */
  readonly readsM3?: number;
  /** Strength at the watched opening at the end. */
  readonly strengthAtEnd: number;
  /** Cells that carried flow. */
  readonly swept: readonly number[];
}

// Share of the way's volume moved in one go; finer steps change the drawn volume by less than a per cent.
const STEP_SHARE = 1 / 60;
const SMALLEST_STEP_M3 = 5e-6;
const LARGEST_STEP_M3 = 2e-4;
const ROUGH_STEPS = 4;
const BESIDE_SHARE = 0.01;
// Colour is seen well before strength: a fiftieth of product shows (common practice, no source).
const VISIBLE_STRENGTH = 0.01;

/**
 * Forces liquid along the open ways from a pump's supply or a push, in small steps, until something is seen at an opening.
 * Runs that are full move as plugs; runs that are part empty fill up first with a mix of what was left and what comes; bodies mix.
 * Liquid volume and glycol are conserved: aboard before + came = aboard after + left.
 */
export const push = (situation: Situation, before: Contents, order: Push): PushResult => {
  const found: FlowResult = findFlow(situation, order.drive);
  const nothing = { contents: before, drawnM3: 0, came: NOTHING, left: [], strengthAtEnd: 0, swept: [] };
  if (!found.ok) return { ...nothing, outcome: found.reason };
  const { flow } = found;
  // Where a tank or an open end is drawn on beside the jug, nobody can say that product comes at all.
  const beside = flow.opening.some((o) => o.share < -BESIDE_SHARE && o.at.use !== "pickup");
  const path = stationsOf(situation.network, {
    link: flow.link,
    holes: flow.opening,
    forced: new Map(order.drive.kind === "push" ? [[order.drive.cell, 1]] : []),
  });
  const held: Mixture[][] = before.map((c) => [...c.plugs]);
  const pathM3 = path.reduce((v, s) => v + Math.min(s.cell.capacityM3, 0.02), 0);
  const fullStep = Math.min(LARGEST_STEP_M3, Math.max(SMALLEST_STEP_M3, pathM3 * STEP_SHARE)) * (order.rough ? ROUGH_STEPS : 1);
  const left = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  let [moved, drawn, came, strengthAtEnd] = [0, 0, NOTHING, 0];
  let [seenLiquid, seenAir] = [NOTHING, 0];
  let arrivalM3: number | undefined;
  let readsM3: number | undefined;
  let outcome: PushResult["outcome"] = "stopped at volume";

  // A vessel that only lets air in behind what is drawn (a tank) is not asked to hold anything.
  const onTheWay = path.filter((s) => !s.in.some((w) => w.opening && w.opening.use !== "pickup"));
  const carriers: Carriers = {
    comes: (volumeM3, _, opening) => {
      if (opening && opening.use !== "pickup") return { liquid: NOTHING, airM3: volumeM3 };
      drawn += volumeM3;
      const liquid = product(volumeM3, beside ? 0 : order.productStrength);
      came = plus(came, liquid);
      return { liquid, airM3: 0 };
    },
    leaves: ({ liquid, airM3 }, at) => {
      left.set(at.id, { at, liquid: plus(left.get(at.id)?.liquid ?? NOTHING, liquid) });
      if (at.id !== order.watch) return;
      seenLiquid = plus(seenLiquid, liquid);
      seenAir += airM3;
    },
  };
  while (moved < order.maxM3 - 1e-12) {
    const step = Math.min(fullStep, order.maxM3 - moved);
    [seenLiquid, seenAir] = [NOTHING, 0];
    moveOn(path, held, step, carriers);
    moved += step;
    const seen = volumeOf(seenLiquid);
    if (seen > 0) strengthAtEnd = strengthOf(seenLiquid);
    if (arrivalM3 === undefined && seen > 0 && strengthAtEnd >= VISIBLE_STRENGTH) arrivalM3 = drawn;
    const reads = order.untilStrength !== undefined && seen > seenAir && strengthAtEnd >= order.untilStrength;
    if (reads) readsM3 ??= drawn;
    const wetEnough =
      reads &&
      (order.byEyeM3 === undefined
        ? onTheWay.every((s) => holdsStrength(s.cell, held[s.index] as Mixture[], order.untilStrength as number))
        : drawn >= order.byEyeM3);
    const dryEnough = order.untilAir !== undefined && seenAir >= order.untilAir * (seen + seenAir) && seenAir > 0;
    if (wetEnough || dryEnough) {
      outcome = "reached";
      break;
    }
  }

  const touched = new Set(path.map((s) => s.index));
  const after = before.map<CellContents>((c, i) => (touched.has(i) ? { plugs: held[i] as Mixture[], source: "worked out" } : c));
  const settled = settleOverflow(situation, after);
  const fallen = fall(situation, settled.contents, [...left.values()]);
  return {
    contents: fallen.contents,
    outcome,
    drawnM3: drawn,
    came,
    left: [...fallen.left, ...settled.left],
    ...(arrivalM3 === undefined ? {} : { arrivalM3 }),
    ...(readsM3 === undefined ? {} : { readsM3 }),
    strengthAtEnd,
    swept: [...touched],
  };
};

// A cell within three per cent of the asked strength, and all but full, counts as holding it.
const holdsStrength = (cell: Cell, plugs: readonly Mixture[], strength: number): boolean => {
  if (cell.capacityM3 <= 0) return true;
  const liquid = sum(plugs);
  const notable = plugs.filter((p) => volumeOf(p) > 0.02 * cell.capacityM3);
  return volumeOf(liquid) > 0.9 * cell.capacityM3 && notable.every((p) => strengthOf(p) >= strength * 0.97);
};

/** Rounding, or a vessel pushed beyond full by two ways at once, may leave a cell over its volume: that much spills. */
export const settleOverflow = (situation: Situation, contents: Contents): { contents: Contents; left: Spill[] } => {
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
