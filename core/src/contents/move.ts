import type { Cell } from "../watermap/network.ts";
import type { LiveOpening } from "../watermap/situation.ts";
import {
  alike,
  type Body,
  bodyOf,
  drawOut,
  type Mixture,
  NOTHING,
  plus,
  pourIn,
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

/**
 * A place for what passes each link; one for every row of stations, used again and again: whoever feeds a link writes it before whoever
 * is fed by it reads.
 */
const onLinksOf = (stations: readonly Station[]): (Packet | undefined)[] => {
  const known = onLinks.get(stations);
  if (known) return known;
  const links = stations.flatMap((s) => [...s.in, ...s.out, ...s.ahead].map((w) => w.link ?? -1));
  const made = Array.from({ length: Math.max(-1, ...links) + 1 }, () => undefined);
  onLinks.set(stations, made);
  return made;
};

const onLinks = new WeakMap<readonly Station[], (Packet | undefined)[]>();

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
): void => {
  const onLink = onLinksOf(stations);
  const come = (station: Station, way: Way): Packet =>
    way.link === undefined
      ? carriers.comes(way.share * amount, station, way.opening)
      : (onLink[way.link] ?? NO_PACKET);
  const go = (station: Station, way: Way, packet: Packet): void => {
    if (way.link !== undefined) onLink[way.link] = packet;
    else if (way.opening) carriers.leaves(packet, way.opening, station);
  };
  for (const { cell, index, ahead } of stations)
    for (const way of ahead) {
      const now = held[index] as Body[];
      const want = way.share * amount;
      const wet = liquidShare(cell, volumeIn(now), want, way.heightM, 0, 1);
      const liquid = draw(now, Math.max(wet, Math.min(want, volumeIn(now))), way.atFrom);
      onLink[way.link as number] = { liquid, airM3: Math.max(0, want - volumeOf(liquid)) };
    }
  for (const station of stations) {
    const now = held[station.index] as Body[];
    const { only } = station;
    if (only)
      go(
        station,
        only.out,
        passOn(station, only.out, now, come(station, only.in), amount, carriers, only.in.atFrom),
      );
    else mixOn(station, now, amount, carriers, come, go);
  }
};

/** Several ways in or out. */
const mixOn = (
  station: Station,
  now: Body[],
  amount: number,
  carriers: Carriers,
  come: (station: Station, way: Way) => Packet,
  go: (station: Station, way: Way, packet: Packet) => void,
): void => {
  const { cell, out, ahead, forced } = station;
  const packets = station.in.map((way) => come(station, way));
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
    return go(station, way, packets.length === 1 ? (packets[0] as Packet) : { liquid, airM3: 0 });
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
    go(
      station,
      w,
      given(
        cell,
        now,
        w,
        want,
        Math.min(want, volumeIn(now) - cell.capacityM3 - others * amount),
        airShare,
        sag,
      ),
    );
  }
};
