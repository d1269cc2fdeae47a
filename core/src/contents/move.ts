import type { Cell, Network } from "../watermap/network.ts";
import type { LiveOpening } from "../watermap/situation.ts";
import { alike, type Mixture, NOTHING, plus, sum, take, volumeOf } from "./mixture.ts";

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
  if (edge && alike(edge, coming.liquid)) {
    const joined = plus(edge, coming.liquid);
    return atFrom ? [joined, ...held.slice(1)] : [...held.slice(0, -1), joined];
  }
  return atFrom ? [coming.liquid, ...held] : [...held, coming.liquid];
};

/** Takes liquid from one end of a run, or from the mixed body of anything else. */
export const leave = (held: readonly Mixture[], volumeM3: number, atFrom: boolean): { out: Mixture; rest: Mixture[] } => {
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
const liquidShare = (cell: Cell, liquidM3: number, wantM3: number, heightM: number, onlyAirComes: boolean, sagShare: number): number => {
  const air = cell.capacityM3 + wantM3 - liquidM3;
  // A bladder keeps its air.
  if (cell.prechargePa !== undefined) return Math.min(wantM3, Math.max(0, liquidM3 - cell.drainRemainder * cell.capacityM3));
  if (cell.form === "vessel") {
    const depth = Math.max(cell.topM - cell.bottomM, 1e-6);
    const below = Math.min(1, Math.max(0, (heightM - cell.bottomM) / depth)) * cell.capacityM3;
    const kept = Math.max(below, cell.drainRemainder * cell.capacityM3);
    const available = heightM >= cell.topM - 1e-9 ? liquidM3 - cell.capacityM3 : liquidM3 - kept;
    return Math.min(wantM3, Math.max(0, available));
  }
  if (onlyAirComes) return Math.min(wantM3, Math.max(0, liquidM3 - cell.sweepRemainder * cell.capacityM3 - sagShare * cell.sagM3));
  return wantM3 - Math.min(wantM3, Math.max(0, air));
};

const remaining = (ways: readonly Way[], upTo: Way): number => ways.slice(ways.indexOf(upTo) + 1).reduce((s, w) => s + w.share, 0);

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

/**
 * Moves everything on by an amount: shares times it is the volume through each way. Liquid is conserved: what `held` gains is
 * what came less what left.
 * @param held plugs by cell, changed in place
 */
export const moveOn = (stations: readonly Station[], held: Mixture[][], amount: number, carriers: Carriers): void => {
  const onLink = new Map<number, Packet>();
  for (const { cell, index, ahead } of stations)
    for (const way of ahead) {
      const now = held[index] as Mixture[];
      const want = way.share * amount;
      const wet = liquidShare(cell, volumeOf(sum(now)), want, way.heightM, false, 1);
      const { out, rest } = leave(now, Math.max(wet, Math.min(want, volumeOf(sum(now)))), way.atFrom);
      held[index] = rest;
      onLink.set(way.link as number, { liquid: out, airM3: Math.max(0, want - volumeOf(out)) });
    }
  for (const station of stations) {
    const { cell, index } = station;
    const packets = station.in.map((way) => ({
      way,
      packet: way.link === undefined ? carriers.comes(way.share * amount, station, way.opening) : (onLink.get(way.link) ?? NO_PACKET),
    }));
    if (station.forced > 0)
      packets.push({
        way: { share: station.forced, heightM: cell.topM, atFrom: true },
        packet: carriers.comes(station.forced * amount, station, undefined),
      });
    let now = held[index] as Mixture[];
    for (const { way, packet } of packets) {
      carriers.passes?.(station, packet);
      now = enter(cell, now, packet, way.atFrom);
    }
    const onlyAirComes = packets.every(({ packet }) => volumeOf(packet.liquid) <= 0);
    const sag = onlyAirComes && cell.sagM3 > 0 ? (carriers.sagShare?.(station) ?? 1) : 1;
    for (const way of station.out) {
      const want = way.share * amount;
      const liquidM3 = volumeOf(sum(now));
      const wet = liquidShare(cell, liquidM3, want, way.heightM, onlyAirComes, sag);
      // Two ways out of one full body: neither may leave it holding more than it can.
      const must = Math.max(wet, Math.min(want, liquidM3 - cell.capacityM3 - remaining(station.out, way) * amount));
      const { out, rest } = leave(now, must, way.atFrom);
      now = rest;
      const packet = { liquid: out, airM3: Math.max(0, want - volumeOf(out)) };
      if (way.link !== undefined) onLink.set(way.link, packet);
      else if (way.opening) carriers.leaves(packet, way.opening, station);
    }
    held[index] = now;
  }
};
