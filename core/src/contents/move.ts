import type { Cell, Network } from "../watermap/network.ts";
import type { LiveOpening } from "../watermap/situation.ts";
import { alike, type Mixture, NOTHING, plus, take, volumeOf } from "./mixture.ts";

/** Carries contents along a flow that stands still for a moment: plugs in pipes, mixed bodies elsewhere. */

/** A bit of what moves: liquid and air. */
export interface Packet {
  readonly liquid: Mixture;
  readonly airM3: number;
}

export const NO_PACKET: Packet = { liquid: NOTHING, airM3: 0 };

interface Way {
  readonly share: number;
  readonly heightM: number;
  readonly atFrom: boolean;
  readonly link?: number;
  readonly opening?: LiveOpening;
}

/** A cell with flow: by which ways liquid comes and goes. */
export interface Station {
  readonly index: number;
  readonly cell: Cell;
  readonly out: readonly Way[];
  /** Ways out into a cell that comes before this one, where a circle has been cut: what goes there is given first. */
  readonly ahead: readonly Way[];
  readonly in: readonly Way[];
  /** Forced in here from outside by no opening, in the unit of the shares. */
  readonly forced: number;
}

/** Flow through a network at a moment, in shares of a whole or in m3/s. */
export interface Passage {
  /** By link, positive from a to b. */
  readonly link: readonly number[];
  /** By opening, positive outward. */
  readonly holes: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Forced in at a cell. */
  readonly forced: ReadonlyMap<number, number>;
}

/** Cells with flow, each after all that feed it; a circle (a pump feeding its own inlet) is cut where it is met. */
export const flowOrder = (network: Pick<Network, "links">, { link, holes, forced }: Passage): number[] => {
  const next = new Map<number, number[]>();
  const waiting = new Map<number, number>();
  const touch = (cell: number, feeds = 0): void => void waiting.set(cell, (waiting.get(cell) ?? 0) + feeds);
  network.links.forEach((l, i) => {
    const q = link[i] as number;
    if (q === 0) return;
    const [from, to] = q > 0 ? [l.a, l.b] : [l.b, l.a];
    const after = next.get(from);
    if (after) after.push(to);
    else next.set(from, [to]);
    touch(from);
    touch(to, 1);
  });
  for (const o of holes) if (o.share !== 0) touch(o.at.cell);
  for (const cell of forced.keys()) touch(cell);
  const order: number[] = [];
  let ready = [...waiting].filter(([, n]) => n === 0).map(([cell]) => cell);
  while (waiting.size > 0) {
    if (ready.length === 0) ready = [waiting.keys().next().value as number];
    const batch = ready;
    ready = [];
    for (const cell of batch) {
      waiting.delete(cell);
      order.push(cell);
      for (const to of next.get(cell) ?? []) {
        const left = waiting.get(to);
        if (left === undefined) continue;
        waiting.set(to, Math.max(0, left - 1));
        if (left === 1) ready.push(to);
      }
    }
    ready = ready.filter((cell) => waiting.has(cell));
  }
  return order;
};

/** For every cell with flow, in the order in which liquid meets them, by which ways it comes and goes. */
export const stationsOf = (network: Pick<Network, "cells" | "links" | "linksOf">, passage: Passage): Station[] => {
  const order = flowOrder(network, passage);
  const place = new Map(order.map((cell, i) => [cell, i]));
  const isAhead = (way: Way, index: number): boolean => {
    const link = way.link === undefined ? undefined : network.links[way.link];
    if (!link) return false;
    return (place.get(link.a === index ? link.b : link.a) ?? 0) < (place.get(index) ?? 0);
  };
  return order.flatMap((index) => {
    const cell = network.cells[index];
    if (!cell) return [];
    const ways = (network.linksOf[index] ?? []).flatMap((l, end) => {
      const link = network.links[l];
      const q = passage.link[l] ?? 0;
      if (!link || q === 0) return [];
      const outward = link.a === index ? q : -q;
      return [{ share: outward, heightM: link.heightM, atFrom: cell.form === "pipe" && end === 0, link: l }];
    });
    const holes = passage.holes
      .filter((o) => o.at.cell === index && o.share !== 0)
      .map((o) => ({ share: o.share, heightM: o.at.heightM, atFrom: o.at.id.includes(":from:"), opening: o.at }));
    const all: Way[] = [...ways, ...holes];
    const out = all.filter((w) => w.share > 0);
    return [
      {
        index,
        cell,
        out: out.filter((w) => !isAhead(w, index)),
        ahead: out.filter((w) => isAhead(w, index)),
        in: all.filter((w) => w.share < 0).map((w) => ({ ...w, share: -w.share })),
        forced: passage.forced.get(index) ?? 0,
      },
    ];
  });
};

/** Volume of a row of plugs, m3. */
export const volumeIn = (plugs: readonly Mixture[]): number => {
  let m3 = 0;
  for (const p of plugs) m3 += p.waterM3 + p.glycolM3;
  return m3;
};

/** Adds liquid at one end of a run that is full, or mixes it with what lies in one that is not; in place. */
const enter = (cell: Cell, plugs: Mixture[], liquid: Mixture, atFrom: boolean): void => {
  if (volumeOf(liquid) <= 0) return;
  // Not full: what comes runs in over what was left and mixes with it until the length is full.
  if (cell.form !== "pipe" || cell.capacityM3 - volumeIn(plugs) > cell.capacityM3 * 1e-6) {
    let all = liquid;
    for (const p of plugs) all = plus(p, all);
    plugs.length = 0;
    plugs.push(all);
    return;
  }
  const at = atFrom ? 0 : plugs.length - 1;
  const edge = plugs[at];
  if (edge && alike(edge, liquid)) plugs[at] = plus(edge, liquid);
  else if (atFrom) plugs.unshift(liquid);
  else plugs.push(liquid);
};

/** Takes liquid from one end of a run, or from the mixed body of anything else; in place. */
const draw = (plugs: Mixture[], volumeM3: number, atFrom: boolean): Mixture => {
  let out = NOTHING;
  for (let want = volumeM3; want > 0 && plugs.length > 0;) {
    const at = atFrom ? 0 : plugs.length - 1;
    const { taken, left } = take(plugs[at] as Mixture, want);
    out = out === NOTHING ? taken : plus(out, taken);
    want -= volumeOf(taken);
    if (volumeOf(left) > 0) {
      plugs[at] = left;
      break;
    }
    if (atFrom) plugs.shift();
    else plugs.pop();
  }
  return out;
};

/** Takes liquid from one end, leaving the row that is given as it is. */
export const leave = (held: readonly Mixture[], volumeM3: number, atFrom: boolean): { out: Mixture; rest: Mixture[] } => {
  const rest = [...held];
  return { out: draw(rest, volumeM3, atFrom), rest };
};

/**
 * How much of a volume that must leave through a hole at a height is liquid. Out of a small body or a pipe the air that comes drives
 * liquid before it, the liquid that comes drives air before it: by their shares, so that a trace of liquid lets no air past.
 * @param airShare of what came in
 */
const liquidShare = (cell: Cell, liquidM3: number, wantM3: number, heightM: number, airShare: number, sagShare: number): number => {
  // A bladder keeps its air.
  if (cell.prechargePa !== undefined) return Math.min(wantM3, Math.max(0, liquidM3 - cell.drainRemainder * cell.capacityM3));
  if (cell.form === "vessel") {
    const depth = Math.max(cell.topM - cell.bottomM, 1e-6);
    const below = Math.min(1, Math.max(0, (heightM - cell.bottomM) / depth)) * cell.capacityM3;
    const kept = Math.max(below, cell.drainRemainder * cell.capacityM3);
    const available = heightM >= cell.topM - 1e-9 ? liquidM3 - cell.capacityM3 : liquidM3 - kept;
    return Math.min(wantM3, Math.max(0, available));
  }
  const [byAirM3, byLiquidM3] = [wantM3 * airShare, wantM3 * (1 - airShare)];
  const stays = cell.sweepRemainder * cell.capacityM3 + sagShare * cell.sagM3;
  const displaced = Math.min(byLiquidM3, Math.max(0, liquidM3 - cell.capacityM3));
  // With liquid among it, air finds liquid before it only as far as the body is full.
  const before = airShare < 1 ? Math.min(1, liquidM3 / Math.max(cell.capacityM3, 1e-15)) : 1;
  return displaced + Math.min(byAirM3 * before, Math.max(0, liquidM3 - displaced - stays));
};

// A step moves this share of what the way holds, and no more than so many times its smallest mixed body, between these bounds, m3.
const STEP_SHARE = 1 / 100;
const SMALLEST_BODIES = 1.5;
const SMALLEST_STEP_M3 = 3e-6;
const LARGEST_STEP_M3 = 2.5e-4;
// Smaller than this a body mixes at once, m3.
const NO_BODY_M3 = 1e-6;

// A step may be this share of all that has moved so far: the longer something runs, the coarser is it looked at.
const GROWS = 0.004;
// A vessel that fills is come up to in steps of this share of its room.
const ROOM_SHARE = 0.25;

/** Steps of something that runs: fine where fronts move, coarse while a vessel fills or a tank empties. The same for planner and sandbox. */
export class Pace {
  private sinceM3: number | undefined;
  private fills = true;
  private readonly leastM3: number;
  private readonly vessels: readonly Station[];

  constructor(stations: readonly Station[], leastM3 = stepOf(stations)) {
    this.leastM3 = leastM3;
    this.vessels = stations.filter((s) => s.cell.form === "vessel" && s.in.some((w) => w.link !== undefined));
  }

  /** The next step, m3, when so much has moved. */
  next(held: readonly (readonly Mixture[])[], movedM3: number): number {
    const rooms = this.vessels.map((s) => s.cell.capacityM3 - volumeIn(held[s.index] ?? []));
    const room = Math.min(...rooms.filter((r) => r > this.leastM3), Number.POSITIVE_INFINITY);
    const fills = Number.isFinite(room);
    // A vessel has just run full: a front goes on from it.
    if (this.sinceM3 === undefined || (this.fills && !fills)) this.sinceM3 = movedM3;
    this.fills = fills;
    const grown = Math.max(this.leastM3, (movedM3 - this.sinceM3) * GROWS);
    return Math.min(grown, Math.max(this.leastM3, room * ROOM_SHARE));
  }
}

/** How much to move in one go: small enough that halving it changes what arrives by less than a hundredth. Wide vessels are left out of it. */
export const stepOf = (stations: readonly Station[]): number => {
  let [wayM3, smallestM3] = [0, Number.POSITIVE_INFINITY];
  for (const { cell } of stations) {
    if (cell.form === "vessel") continue;
    wayM3 += cell.capacityM3;
    if (cell.form === "fitting" && cell.capacityM3 > NO_BODY_M3) smallestM3 = Math.min(smallestM3, cell.capacityM3);
  }
  return Math.min(LARGEST_STEP_M3, Math.max(SMALLEST_STEP_M3, Math.min(wayM3 * STEP_SHARE, smallestM3 * SMALLEST_BODIES)));
};

export interface Carriers {
  /** What comes in by an opening, or where something is forced in. */
  readonly comes: (volumeM3: number, station: Station, opening: LiveOpening | undefined) => Packet;
  /** Told of everything that leaves by an opening. */
  readonly leaves: (packet: Packet, opening: LiveOpening, station: Station) => void;
  /** Told of what comes to a cell before it is taken in. */
  readonly passes?: (station: Station, packet: Packet) => void;
  /** Part of a dip's water that air leaves in it, 0 to 1; all of it where it is not said. */
  readonly sagShare?: (station: Station) => number;
}

const takeIn = (station: Station, now: Mixture[], packet: Packet, atFrom: boolean, carriers: Carriers): Packet => {
  carriers.passes?.(station, packet);
  enter(station.cell, now, packet.liquid, atFrom);
  return packet;
};

/** One more than the highest number of a link that something passes. */
const linksIn = (stations: readonly Station[]): number => {
  const known = counted.get(stations);
  if (known !== undefined) return known;
  const links = stations.flatMap((s) => [...s.in, ...s.out, ...s.ahead].map((w) => w.link ?? -1));
  const count = Math.max(-1, ...links) + 1;
  counted.set(stations, count);
  return count;
};
const counted = new WeakMap<readonly Station[], number>();

// Fuller than this is full.
const FULL_SHARE = 1 - 1e-9;

/** What goes straight through a cell that is full of just what comes: before a front and behind it nothing changes. */
const passesThrough = ({ cell, out, ahead, forced }: Station, now: readonly Mixture[], packets: readonly Packet[]): Packet | undefined => {
  const [held] = now;
  const [first] = packets;
  if (!held || !first || now.length > 1 || out.length !== 1 || ahead.length > 0 || forced > 0) return undefined;
  if (cell.form === "vessel" || cell.prechargePa !== undefined || volumeOf(held) < cell.capacityM3 * FULL_SHARE) return undefined;
  if (!packets.every((p) => p.airM3 <= 0 && alike(p.liquid, held))) return undefined;
  return packets.length === 1 ? first : { liquid: packets.reduce((all, p) => plus(all, p.liquid), NOTHING), airM3: 0 };
};

/**
 * Moves everything on by an amount: shares times it is the volume through each way. Liquid is conserved: what `held` gains is
 * what came less what left.
 * @param held plugs by cell; the rows are changed in place
 */
export const moveOn = (stations: readonly Station[], held: Mixture[][], amount: number, carriers: Carriers): void => {
  const onLink: (Packet | undefined)[] = [];
  onLink.length = linksIn(stations);
  for (const { cell, index, ahead } of stations)
    for (const way of ahead) {
      const now = held[index] as Mixture[];
      const want = way.share * amount;
      const wet = liquidShare(cell, volumeIn(now), want, way.heightM, 0, 1);
      const liquid = draw(now, Math.max(wet, Math.min(want, volumeIn(now))), way.atFrom);
      onLink[way.link as number] = { liquid, airM3: Math.max(0, want - volumeOf(liquid)) };
    }
  for (const station of stations) {
    const { cell, index } = station;
    const now = held[index] as Mixture[];
    let [cameM3, cameAirM3] = [0, 0];
    const count = (packet: Packet): void => {
      cameM3 += volumeOf(packet.liquid) + packet.airM3;
      cameAirM3 += packet.airM3;
    };
    const packets = station.in.map((way) =>
      way.link === undefined ? carriers.comes(way.share * amount, station, way.opening) : (onLink[way.link] ?? NO_PACKET),
    );
    const through = passesThrough(station, now, packets);
    if (through) {
      for (const packet of packets) carriers.passes?.(station, packet);
      const [way] = station.out;
      if (way?.link !== undefined) onLink[way.link] = through;
      else if (way?.opening) carriers.leaves(through, way.opening, station);
      continue;
    }
    station.in.forEach((way, i) => count(takeIn(station, now, packets[i] as Packet, way.atFrom, carriers)));
    if (station.forced > 0) count(takeIn(station, now, carriers.comes(station.forced * amount, station, undefined), true, carriers));
    const airShare = cameM3 > 0 ? cameAirM3 / cameM3 : 1;
    const sag = airShare === 1 && cell.sagM3 > 0 ? (carriers.sagShare?.(station) ?? 1) : 1;
    let others = 0;
    for (const way of station.out) others += way.share;
    for (const way of station.out) {
      others -= way.share;
      const want = way.share * amount;
      const liquidM3 = volumeIn(now);
      const wet = liquidShare(cell, liquidM3, want, way.heightM, airShare, sag);
      // Two ways out of one full body: neither may leave it holding more than it can.
      const liquid = draw(now, Math.max(wet, Math.min(want, liquidM3 - cell.capacityM3 - others * amount)), way.atFrom);
      // A bladder keeps its air: with its water gone it gives nothing.
      const packet = { liquid, airM3: cell.prechargePa === undefined ? Math.max(0, want - volumeOf(liquid)) : 0 };
      if (way.link !== undefined) onLink[way.link] = packet;
      else if (way.opening) carriers.leaves(packet, way.opening, station);
    }
  }
};
