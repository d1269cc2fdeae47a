import type { Cell } from "../watermap/network.ts";
import type { LiveOpening, Situation } from "../watermap/situation.ts";
import { type CellContents, type Contents, liquidIn } from "./contents.ts";
import { type Drive, findFlow, type Flow, type FlowResult } from "./flow.ts";
import { type Mixture, NOTHING, plus, strengthOf, sum, take, volumeOf } from "./mixture.ts";
import { fall, type Spill } from "./waste.ts";

/** A bit of what moves: liquid and air. */
interface Packet {
  readonly liquid: Mixture;
  readonly airM3: number;
}

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
  /** Stop when the watched opening gives this share of air ("it spits"). */
  readonly untilAir?: number;
  /** Stop at this volume at the latest, m3. */
  readonly maxM3: number;
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
  /** Strength at the watched opening at the end. */
  readonly strengthAtEnd: number;
  /** Cells that carried flow. */
  readonly swept: readonly number[];
}

// Share of the way's volume moved in one go; finer steps change the drawn volume by less than a per cent.
const STEP_SHARE = 1 / 60;
const SMALLEST_STEP_M3 = 5e-6;
const LARGEST_STEP_M3 = 2e-4;
// Colour is seen well before strength: a fiftieth of product shows (common practice, no source).
const VISIBLE_STRENGTH = 0.01;

const merge = (plugs: readonly Mixture[]): Mixture[] => {
  const all = sum(plugs);
  return volumeOf(all) > 0 ? [all] : [];
};

/** Adds liquid at one end of a run that is full, or mixes it with what lies in one that is not. */
const enter = (cell: Cell, held: readonly Mixture[], coming: Packet, atFrom: boolean): Mixture[] => {
  if (volumeOf(coming.liquid) <= 0) return [...held];
  const air = cell.capacityM3 - volumeOf(sum(held));
  // Not full: what comes runs in over what was left and mixes with it until the length is full.
  if (cell.form !== "pipe" || air > cell.capacityM3 * 1e-6) return merge([...held, coming.liquid]);
  const edge = atFrom ? held[0] : held.at(-1);
  if (edge && Math.abs(strengthOf(edge) - strengthOf(coming.liquid)) < 1e-6) {
    const joined = plus(edge, coming.liquid);
    return atFrom ? [joined, ...held.slice(1)] : [...held.slice(0, -1), joined];
  }
  return atFrom ? [coming.liquid, ...held] : [...held, coming.liquid];
};

/** Takes liquid from one end of a run, or from the mixed body of anything else. */
const leave = (held: readonly Mixture[], volumeM3: number, atFrom: boolean): { out: Mixture; rest: Mixture[] } => {
  const rest = [...held];
  let out = NOTHING;
  for (let want = volumeM3; want > 0 && rest.length > 0;) {
    const plug = (atFrom ? rest.shift() : rest.pop()) as Mixture;
    const { taken, left } = take(plug, want);
    out = plus(out, taken);
    want -= volumeOf(taken);
    if (volumeOf(left) > 0) {
      if (atFrom) rest.unshift(left);
      else rest.push(left);
      break;
    }
  }
  return { out, rest };
};

/** How much of a volume that must leave through a hole at a height is liquid. */
const liquidShare = (cell: Cell, liquidM3: number, wantM3: number, heightM: number, onlyAirComes: boolean): number => {
  const air = cell.capacityM3 + wantM3 - liquidM3;
  if (cell.form === "vessel") {
    const depth = Math.max(cell.topM - cell.bottomM, 1e-6);
    const below = Math.min(1, Math.max(0, (heightM - cell.bottomM) / depth)) * cell.capacityM3;
    const kept = Math.max(below, cell.drainRemainder * cell.capacityM3);
    const available = heightM >= cell.topM - 1e-9 ? liquidM3 - cell.capacityM3 : liquidM3 - kept;
    return Math.min(wantM3, Math.max(0, available));
  }
  if (onlyAirComes) return Math.min(wantM3, Math.max(0, liquidM3 - cell.sweepRemainder * cell.capacityM3 - cell.sagM3));
  return wantM3 - Math.min(wantM3, Math.max(0, air));
};

interface Way {
  readonly share: number;
  readonly heightM: number;
  readonly atFrom: boolean;
  readonly link?: number;
  readonly opening?: LiveOpening;
}

interface Station {
  readonly index: number;
  readonly cell: Cell;
  readonly out: readonly Way[];
  readonly in: readonly Way[];
}

/** For every cell with flow, by which ways liquid comes and goes. */
const stations = (situation: Situation, flow: Flow): Station[] =>
  flow.order.flatMap((index) => {
    const { network } = situation;
    const cell = network.cells[index];
    if (!cell) return [];
    const ways = (network.linksOf[index] ?? []).flatMap((l, place) => {
      const link = network.links[l];
      const q = flow.link[l] ?? 0;
      if (!link || q === 0) return [];
      const outward = link.a === index ? q : -q;
      return [{ share: outward, heightM: link.heightM, atFrom: cell.run !== undefined && place === 0, link: l }];
    });
    const holes = flow.opening
      .filter((o) => o.at.cell === index && o.share !== 0)
      .map((o) => ({ share: o.share, heightM: o.at.heightM, atFrom: o.at.id.includes(":from:"), opening: o.at }));
    const all: Way[] = [...ways, ...holes];
    return [
      { index, cell, out: all.filter((w) => w.share > 0), in: all.filter((w) => w.share < 0).map((w) => ({ ...w, share: -w.share })) },
    ];
  });

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
  const path = stations(situation, flow);
  const held: Mixture[][] = before.map((c) => [...c.plugs]);
  const pathM3 = path.reduce((v, s) => v + Math.min(s.cell.capacityM3, 0.02), 0);
  const fullStep = Math.min(LARGEST_STEP_M3, Math.max(SMALLEST_STEP_M3, pathM3 * STEP_SHARE));
  let step = fullStep;
  const left = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  let [moved, drawn, came, strengthAtEnd] = [0, 0, NOTHING, 0];
  let arrivalM3: number | undefined;
  let outcome: PushResult["outcome"] = "stopped at volume";

  // A vessel that only lets air in behind what is drawn (a tank) is not asked to hold anything.
  const onTheWay = path.filter((s) => !s.in.some((w) => w.opening && w.opening.use !== "pickup"));
  const onLink = new Map<number, Packet>();
  const given = (amountM3: number): Packet => {
    drawn += amountM3;
    const liquid = { waterM3: amountM3 * (1 - order.productStrength), glycolM3: amountM3 * order.productStrength };
    came = plus(came, liquid);
    return { liquid, airM3: 0 };
  };
  const comesIn = (way: Way): Packet => {
    if (way.link !== undefined) return onLink.get(way.link) ?? { liquid: NOTHING, airM3: 0 };
    if (way.opening?.use === "pickup") return given(way.share * step);
    return { liquid: NOTHING, airM3: way.share * step };
  };

  while (moved < order.maxM3 - 1e-12) {
    step = Math.min(fullStep, order.maxM3 - moved);
    onLink.clear();
    let [seenLiquid, seenAir] = [NOTHING, 0];
    for (const station of path) {
      const { cell, index } = station;
      const packets = station.in.map((way) => ({ way, packet: comesIn(way) }));
      if (order.drive.kind === "push" && order.drive.cell === index)
        packets.push({ way: { share: 1, heightM: cell.topM, atFrom: true }, packet: given(step) });
      let now = held[index] as Mixture[];
      for (const { way, packet } of packets) now = enter(cell, now, packet, way.atFrom);
      const onlyAirComes = packets.every(({ packet }) => volumeOf(packet.liquid) <= 0);
      for (const way of station.out) {
        const want = way.share * step;
        const liquidM3 = volumeOf(sum(now));
        const wet = liquidShare(cell, liquidM3, want, way.heightM, onlyAirComes);
        // Two ways out of one full body: neither may leave it holding more than it can.
        const must = Math.max(wet, Math.min(want, liquidM3 - cell.capacityM3 - remaining(station.out, way) * step));
        const { out, rest } = leave(now, must, way.atFrom);
        now = rest;
        const packet = { liquid: out, airM3: Math.max(0, want - volumeOf(out)) };
        if (way.link !== undefined) onLink.set(way.link, packet);
        else if (way.opening) {
          const sofar = left.get(way.opening.id);
          left.set(way.opening.id, { at: way.opening, liquid: plus(sofar?.liquid ?? NOTHING, out) });
          if (way.opening.id === order.watch) {
            seenLiquid = plus(seenLiquid, out);
            seenAir += packet.airM3;
          }
        }
      }
      held[index] = now;
    }
    moved += step;
    const seen = volumeOf(seenLiquid);
    if (seen > 0) strengthAtEnd = strengthOf(seenLiquid);
    if (arrivalM3 === undefined && seen > 0 && strengthAtEnd >= VISIBLE_STRENGTH) arrivalM3 = drawn;
    const wetEnough =
      order.untilStrength !== undefined &&
      seen > seenAir &&
      strengthAtEnd >= order.untilStrength &&
      onTheWay.every((s) => holdsStrength(s.cell, held[s.index] as Mixture[], order.untilStrength as number));
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
    strengthAtEnd,
    swept: [...touched],
  };
};

// A cell within three per cent of the asked strength, and all but full, counts as holding it.
const holdsStrength = (cell: Cell, plugs: readonly Mixture[], strength: number): boolean => {
  const liquid = sum(plugs);
  const notable = plugs.filter((p) => volumeOf(p) > 0.02 * cell.capacityM3);
  return volumeOf(liquid) > 0.9 * cell.capacityM3 && notable.every((p) => strengthOf(p) >= strength * 0.97);
};

const remaining = (ways: readonly Way[], upTo: Way): number => ways.slice(ways.indexOf(upTo) + 1).reduce((s, w) => s + w.share, 0);

/** Rounding, or a vessel pushed beyond full by two ways at once, may leave a cell over its volume: that much spills. */
const settleOverflow = (situation: Situation, contents: Contents): { contents: Contents; left: Spill[] } => {
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
