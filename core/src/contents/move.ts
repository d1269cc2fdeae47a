import type { Cell } from "../watermap/network.ts";
import type { LiveOpening } from "../watermap/situation.ts";
import {
  alike,
  type Body,
  bodyOf,
  carries,
  drawOut,
  type Mixture,
  NOTHING,
  part,
  plus,
  pourIn,
  strengthOf,
  volumeOf,
} from "./mixture.ts";
import type { Station, Way } from "./stations.ts";

/** Carries contents along a flow that stands still for a moment: plugs in pipes, mixed bodies elsewhere. */

/** A bit of what moves: liquid and air. */
export interface Packet {
  readonly liquid: Mixture;
  readonly airM3: number;
}

export const NO_PACKET: Packet = { liquid: NOTHING, airM3: 0 };

/** Volume of a row of plugs, m3. */
export const volumeIn = (plugs: readonly Mixture[]): number => {
  let m3 = 0;
  for (const p of plugs) m3 += p.waterM3 + p.glycolM3;
  return m3;
};

/** Adds liquid at one end of a run that is full, or mixes it with what lies in one that is not; in place. */
const enter = (cell: Cell, plugs: Body[], liquid: Mixture, atFrom: boolean): void => {
  if (volumeOf(liquid) <= 0) return;
  const isLong = cell.form === "pipe" || cell.lengthwise === true;
  const isFull = cell.capacityM3 - volumeIn(plugs) <= cell.capacityM3 * 1e-6;
  const mixesOverM3 = cell.mixesOverM3 ?? Number.POSITIVE_INFINITY;
  // Not full: what comes runs in over what was left and mixes with it, in a narrow bore over a few metres of it, until the length is full.
  if (!isLong || (!isFull && mixesOverM3 === Number.POSITIVE_INFINITY)) {
    const [body] = plugs;
    if (!body) {
      plugs.push(bodyOf(liquid));
      return;
    }
    pourIn(body, liquid);
    for (let k = 1; k < plugs.length; k++) pourIn(body, plugs[k] as Body);
    plugs.length = 1;
    return;
  }
  const edge = plugs[atFrom ? 0 : plugs.length - 1];
  if (edge && ((!isFull && volumeOf(edge) < mixesOverM3) || alike(edge, liquid)))
    pourIn(edge, liquid);
  else if (atFrom) plugs.unshift(bodyOf(liquid));
  else plugs.push(bodyOf(liquid));
};

/** Takes liquid from one end of a run, or from the mixed body of anything else; in place. */
const draw = (plugs: Body[], volumeM3: number, atFrom: boolean): Mixture => {
  let out = NOTHING;
  for (let want = volumeM3; want > 0 && plugs.length > 0;) {
    const body = plugs[atFrom ? 0 : plugs.length - 1] as Body;
    const there = volumeOf(body);
    if (want < there) {
      const taken = drawOut(body, want);
      if (volumeOf(body) <= 0) dropEnd(plugs, atFrom);
      return out === NOTHING ? taken : plus(out, taken);
    }
    out = out === NOTHING ? body : plus(out, body);
    want -= there;
    dropEnd(plugs, atFrom);
  }
  return out;
};

const dropEnd = (plugs: Body[], atFrom: boolean): void => {
  if (atFrom) plugs.shift();
  else plugs.pop();
};

/** Takes liquid from one end, leaving the row that is given as it is. */
export const leave = (
  held: readonly Mixture[],
  volumeM3: number,
  atFrom: boolean,
): { out: Mixture; rest: Body[] } => {
  const rest = held.map(bodyOf);
  return { out: draw(rest, volumeM3, atFrom), rest };
};

/**
 * How much of a volume that must leave through a hole at a height is liquid. Out of a small body or a pipe the air that comes drives
 * liquid before it, the liquid that comes drives air before it: by their shares, so that a trace of liquid lets no air past.
 * @param airShare of what came in
 */
const liquidShare = (
  cell: Cell,
  liquidM3: number,
  wantM3: number,
  heightM: number,
  airShare: number,
  sagShare: number,
): number => {
  // A bladder keeps its air.
  if (cell.prechargePa !== undefined)
    return Math.min(wantM3, Math.max(0, liquidM3 - cell.drainRemainder * cell.capacityM3));
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

// Fuller than this is full.
const FULL_SHARE = 1 - 1e-9;

/** Whether a cell is full of just what comes: it goes straight through, and before a front and behind it nothing changes. */
const isFullOf = (
  { cell }: Station,
  now: readonly Mixture[],
  { liquid, airM3 }: Packet,
): boolean => {
  const [held] = now;
  return (
    held !== undefined &&
    now.length === 1 &&
    airM3 <= 0 &&
    cell.form !== "vessel" &&
    cell.prechargePa === undefined &&
    volumeOf(held) >= cell.capacityM3 * FULL_SHARE &&
    alike(liquid, held)
  );
};

/** What goes by a way out: liquid by what the cell holds, air for the rest. */
const given = (
  cell: Cell,
  now: Body[],
  way: Way,
  want: number,
  least: number,
  airShare: number,
  sag: number,
): Packet => {
  const wet = liquidShare(cell, volumeIn(now), want, way.heightM, airShare, sag);
  const liquid = draw(now, Math.max(wet, least), way.atFrom);
  // A bladder keeps its air: with its water gone it gives nothing.
  return {
    liquid,
    airM3: cell.prechargePa === undefined ? Math.max(0, want - volumeOf(liquid)) : 0,
  };
};

/** Air's share of what came, and how much of a dip's water air leaves in it. */
const sagOf = (station: Station, airShare: number, carriers: Carriers): number =>
  airShare === 1 && station.cell.sagM3 > 0 ? (carriers.sagShare?.(station) ?? 1) : 1;

/** One way in and one way out: most cells of a system. */
const passOn = (
  station: Station,
  out: Way,
  now: Body[],
  packet: Packet,
  amount: number,
  carriers: Carriers,
  atFrom: boolean,
): Packet => {
  carriers.passes?.(station, packet);
  if (isFullOf(station, now, packet)) return packet;
  const { cell } = station;
  enter(cell, now, packet.liquid, atFrom);
  const cameM3 = volumeOf(packet.liquid) + packet.airM3;
  const airShare = cameM3 > 0 ? packet.airM3 / cameM3 : 1;
  const want = out.share * amount;
  return given(
    cell,
    now,
    out,
    want,
    Math.min(want, volumeIn(now) - cell.capacityM3),
    airShare,
    sagOf(station, airShare, carriers),
  );
};

// Nearer than this what comes is just what came before: less than rounding leaves after a few thousand steps.
const UNCHANGED = 1e-12;
// Of what is no liquid alone, or carries something, nothing is remembered.
const NOT_PLAIN = -1;

/** Strength of a packet that is full of plain liquid. */
const plainStrength = ({ liquid, airM3 }: Packet): number =>
  airM3 > 0 || carries(liquid) ? NOT_PLAIN : strengthOf(liquid);

/**
 * What flows along a row of stations. A station that is full of just what comes to it stays so until something else comes: it is not looked
 * at again before. Where liquid comes in or goes out, and in a vessel, it always is.
 */
class Stream {
  private readonly stations: readonly Station[];
  /** By link, what passes it, and for which amount that was so. */
  private readonly packets: (Packet | undefined)[];
  private readonly packetFor: Float64Array;
  /** By link, the strength that the station beyond it was last told of, and how much liquid for each m3 that is moved. */
  private readonly told: Float64Array;
  private readonly toldPer: Float64Array;
  /** By link, the place in the row of the station that it leads to; −1 where there is none. */
  private readonly leadsTo: Int32Array;
  /** A circle has been cut somewhere. */
  private readonly isRound: boolean;
  private readonly isAlwaysAstir: Uint8Array;
  private readonly astir: Uint8Array;

  constructor(stations: readonly Station[]) {
    this.stations = stations;
    let links = 0;
    for (const s of stations)
      for (const ways of [s.in, s.out, s.ahead])
        for (const way of ways) links = Math.max(links, (way.link ?? -1) + 1);
    this.packets = Array.from<Packet | undefined>({ length: links });
    this.packetFor = new Float64Array(links);
    this.told = new Float64Array(links).fill(NOT_PLAIN);
    this.toldPer = new Float64Array(links);
    this.leadsTo = new Int32Array(links).fill(-1);
    this.isAlwaysAstir = new Uint8Array(stations.length);
    this.isRound = stations.some((s) => s.ahead.length > 0);
    for (let place = 0; place < stations.length; place++) {
      const s = stations[place] as Station;
      let isOpen = false;
      for (const way of s.out) if (way.link === undefined) isOpen = true;
      for (const way of s.in)
        if (way.link === undefined) isOpen = true;
        else this.leadsTo[way.link] = place;
      if (this.isRound || isOpen || s.forced > 0 || s.cell.form === "vessel")
        this.isAlwaysAstir[place] = 1;
    }
    this.astir = new Uint8Array(stations.length).fill(1);
  }

  /** Every station is looked at again: something else may have changed what it holds. */
  rouse(): void {
    this.astir.fill(1);
  }

  /** Moves everything on by an amount; `moveOn` says how. */
  move(held: Body[][], amount: number, carriers: Carriers): void {
    if (carriers.passes) this.rouse();
    if (this.isRound) for (const station of this.stations) this.giveAhead(station, held, amount);
    for (let place = 0; place < this.stations.length; place++) {
      if (this.astir[place] === 0) continue;
      const station = this.stations[place] as Station;
      const now = held[station.index] as Body[];
      const { only } = station;
      let isStill: boolean;
      if (only) {
        const packet = this.comes(station, only.in, amount, carriers);
        const gone = passOn(station, only.out, now, packet, amount, carriers, only.in.atFrom);
        isStill = gone === packet;
        this.goes(station, only.out, gone, amount, carriers);
      } else isStill = this.mix(station, now, amount, carriers);
      this.astir[place] = isStill ? (this.isAlwaysAstir[place] as number) : 1;
    }
  }

  private giveAhead({ cell, index, ahead }: Station, held: Body[][], amount: number): void {
    for (const way of ahead) {
      const now = held[index] as Body[];
      const want = way.share * amount;
      const wet = liquidShare(cell, volumeIn(now), want, way.heightM, 0, 1);
      const liquid = draw(now, Math.max(wet, Math.min(want, volumeIn(now))), way.atFrom);
      this.packets[way.link as number] = { liquid, airM3: Math.max(0, want - volumeOf(liquid)) };
      this.packetFor[way.link as number] = amount;
    }
  }

  private comes(station: Station, way: Way, amount: number, carriers: Carriers): Packet {
    if (way.link === undefined) return carriers.comes(way.share * amount, station, way.opening);
    const packet = this.packets[way.link];
    if (!packet) return NO_PACKET;
    const madeFor = this.packetFor[way.link] as number;
    // Whoever feeds it has been still since another amount was moved.
    return madeFor === amount
      ? packet
      : { liquid: part(packet.liquid, amount / madeFor), airM3: packet.airM3 };
  }

  private goes(
    station: Station,
    { link, opening }: Way,
    packet: Packet,
    amount: number,
    carriers: Carriers,
  ): void {
    if (link === undefined) {
      if (opening) carriers.leaves(packet, opening, station);
      return;
    }
    this.packets[link] = packet;
    this.packetFor[link] = amount;
    const strength = plainStrength(packet);
    const perAmount = volumeOf(packet.liquid) / amount;
    const [told, toldPer] = [this.told[link] as number, this.toldPer[link] as number];
    const isAsTold =
      strength !== NOT_PLAIN &&
      Math.abs(strength - told) <= UNCHANGED &&
      Math.abs(perAmount - toldPer) <= UNCHANGED * toldPer;
    if (isAsTold) return;
    this.told[link] = strength;
    this.toldPer[link] = perAmount;
    const next = this.leadsTo[link] as number;
    if (next >= 0) this.astir[next] = 1;
  }

  /** Several ways in or out. @returns whether all went straight through */
  private mix(station: Station, now: Body[], amount: number, carriers: Carriers): boolean {
    const { cell, out, ahead, forced } = station;
    const packets = station.in.map((way) => this.comes(station, way, amount, carriers));
    for (const packet of packets) carriers.passes?.(station, packet);
    const [way] = out;
    if (
      way &&
      out.length === 1 &&
      ahead.length === 0 &&
      forced <= 0 &&
      packets.length > 0 &&
      packets.every((p) => isFullOf(station, now, p))
    ) {
      const liquid = packets.reduce((all, p) => plus(all, p.liquid), NOTHING);
      const gone = packets.length === 1 ? (packets[0] as Packet) : { liquid, airM3: 0 };
      this.goes(station, way, gone, amount, carriers);
      return true;
    }
    let [cameM3, cameAirM3] = [0, 0];
    const takeIn = (packet: Packet, atFrom: boolean): void => {
      enter(cell, now, packet.liquid, atFrom);
      cameM3 += volumeOf(packet.liquid) + packet.airM3;
      cameAirM3 += packet.airM3;
    };
    station.in.forEach((w, i) => takeIn(packets[i] as Packet, w.atFrom));
    if (forced > 0) {
      const packet = carriers.comes(forced * amount, station, undefined);
      carriers.passes?.(station, packet);
      takeIn(packet, true);
    }
    const airShare = cameM3 > 0 ? cameAirM3 / cameM3 : 1;
    const sag = sagOf(station, airShare, carriers);
    let others = 0;
    for (const w of out) others += w.share;
    for (const w of out) {
      others -= w.share;
      const want = w.share * amount;
      // Two ways out of one full body: neither may leave it holding more than it can.
      const least = Math.min(want, volumeIn(now) - cell.capacityM3 - others * amount);
      this.goes(station, w, given(cell, now, w, want, least, airShare, sag), amount, carriers);
    }
    return false;
  }
}

const streams = new WeakMap<readonly Station[], Stream>();

/** What flows along a row of stations, with nothing known of it yet; one for each row, used again and again. */
export const streamAlong = (stations: readonly Station[]): Stream => {
  const stream = streams.get(stations) ?? new Stream(stations);
  streams.set(stations, stream);
  stream.rouse();
  return stream;
};

/**
 * Moves everything on by an amount: shares times it is the volume through each way. Liquid is conserved: what `held` gains is
 * what came less what left.
 * @param held plugs by cell, nobody else's; rows and bodies are changed in place
 */
export const moveOn = (
  stations: readonly Station[],
  held: Body[][],
  amount: number,
  carriers: Carriers,
): void => streamAlong(stations).move(held, amount, carriers);
