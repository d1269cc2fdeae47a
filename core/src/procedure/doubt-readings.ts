import type { Measured } from "../contents/index.ts";
import {
  buildNetwork,
  controlKey,
  kindOfPart,
  type Lineup,
  type Network,
  type Part,
  pipeCellId,
  removePart,
  withLinks,
} from "../watermap/index.ts";
import type { Physical } from "./physical.ts";

/** One way in which a part that is not known may really be. */
export interface Reading {
  readonly unknown: Part;
  /** It is not there: its pipes run straight on. */
  readonly absent?: true;
  /** Nothing passes it. */
  readonly blocks?: true;
  /** It passes one way only: in by the first or the second of its two links. */
  readonly inBy?: 0 | 1;
  /** A valve that stands so, whatever is turned. */
  readonly stuck?: Lineup;
}

/** The network as one or several readings make it, and what is stuck in it. */
export interface MapReading {
  readonly readings: readonly Reading[];
  readonly network: Network;
  readonly stuck: Lineup;
}

/**
 * The ways in which a map may really be: each unknown for itself, and every two of them together, for a valve that does no harm may
 * do it beside another. Made one after another, and kept: a plan asks for them again and again.
 */
export const readingsOf = (network: Network): MapReading[] => {
  const known = remembered.get(network) ?? makeReadings(network);
  remembered.set(network, known);
  return known;
};

const remembered = new WeakMap<Network, MapReading[]>();

const makeReadings = (network: Network): MapReading[] => {
  const single = unknownParts(network).flatMap((p) => readingsOfPart(network, p));
  const pairs = single.flatMap((first, i) =>
    single
      .slice(i + 1)
      .flatMap((second) => (second.unknown.id === first.unknown.id ? [] : [[first, second]])),
  );
  return [...single.map((r) => [r]), ...pairs].flatMap(
    (readings) => readAs(network, readings) ?? [],
  );
};

const readingsOfPart = (network: Network, unknown: Part): Reading[] => {
  // What nobody knows may hold everything back, or pass one way only.
  if (kindOfPart(unknown).role.mystery)
    return [
      { unknown, blocks: true },
      ...(ownLinks(network, unknown.id).length === 2
        ? ([
            { unknown, inBy: 0 },
            { unknown, inBy: 1 },
          ] as const)
        : []),
    ];
  const valves = network.controls.filter(
    (c) => c.part.id === unknown.id && (c.spec.role === "valve" || c.spec.role === "selector"),
  );
  const isControl = kindOfPart(unknown).group === "control" && valves.length > 0;
  const nowhere: Reading[] = isControl ? [{ unknown, blocks: true }] : [];
  // What is not there, at all or of its pipe, is one of them.
  if (unknown.unknown?.of === "fitted") return [absentFrom(network, unknown), ...nowhere];
  const stuck = valves.flatMap<Reading>((c) =>
    c.spec.positions.map((p) => ({ unknown, stuck: { [c.key]: p.name } })),
  );
  return [
    ...stuck,
    ...(stuck.some((r) => letsNothingBy(network, unknown.id, r.stuck ?? {})) ? [] : nowhere),
  ];
};

/** What stands in a line and is not there passes everything, whatever is turned; without a check or a valve nothing hangs on it. */
const absentFrom = (network: Network, unknown: Part): Reading => {
  if (!isInLine(network, unknown)) return { unknown, absent: true };
  const stuck = wideOpen(network, unknown);
  return {
    unknown,
    absent: true,
    ...(hasDevice(network, unknown.id) && Object.keys(stuck).length === 0 ? {} : { stuck }),
  };
};

/** Whether a part that stands so passes nothing: all its pipes but one are shut off from it. */
const letsNothingBy = (network: Network, partId: string, stuck: Lineup): boolean => {
  const outward = outwardLinks(network, partId);
  return (
    outward.length === 2 &&
    outward.filter((l) => l.gates.every((g) => g.in.includes(stuck[g.key] ?? ""))).length < 2
  );
};

/** Networks that readings share, by what they have in common: what is worked out on one serves every reading of it. */
const variants = new WeakMap<Network, Map<string, Network>>();
const variantOf = (network: Network, key: string, make: () => Network): Network => {
  const known = variants.get(network) ?? new Map<string, Network>();
  variants.set(network, known);
  const made = known.get(key) ?? make();
  known.set(key, made);
  return made;
};

/** A map read so; nothing where it cannot be, or where nothing hangs on it. */
const readAs = (network: Network, readings: readonly Reading[]): MapReading | undefined => {
  const absent = readings.filter((r) => r.absent).map((r) => r.unknown);
  // What stands in a line is read as passing all; what ends one, or holds much, is taken out with its pipes.
  const gone = absent.filter((p) => !isInLine(network, p));
  let { map } = network;
  for (const part of gone) {
    const left = removePart(map, part.id);
    if (!left.ok) return undefined;
    ({ map } = left);
  }
  const without =
    gone.length === 0
      ? network
      : variantOf(network, `without ${gone.map((p) => p.id).join()}`, () => buildNetwork(map));
  const gated = variantOf(without, "gates", () => withGates(without));
  const devices = [
    ...absent
      .filter((p) => !gone.includes(p) && hasDevice(network, p.id))
      .map((p) => `free ${p.id}`),
    ...readings.flatMap((r) => (r.inBy === undefined ? [] : [`way ${r.inBy} ${r.unknown.id}`])),
  ].toSorted();
  const read =
    devices.length === 0
      ? gated
      : variantOf(gated, devices.join(), () => devices.reduce(withDevice, gated));
  const stuck: Record<string, string> = passing(network);
  for (const r of readings) {
    Object.assign(stuck, r.stuck ?? {});
    if (r.blocks) stuck[readKey(r.unknown.id)] = BLOCKS;
  }
  return { readings, network: read, stuck };
};

export const unknownParts = (network: Network): Part[] =>
  network.map.parts.filter((p) => p.unknown || kindOfPart(p).role.mystery);
const readKey = (partId: string): string => controlKey("", `read ${partId}`);
const PASSES = "passes";
const BLOCKS = "blocks";

/** Every part that is not known lets everything by. */
export const passing = (network: Network): Record<string, string> =>
  Object.fromEntries(unknownParts(network).map((p) => [readKey(p.id), PASSES]));

const ownLinks = (network: Network, partId: string): number[] =>
  network.links.flatMap((l, i) =>
    [l.a, l.b].some((c) => network.cells[c]?.ownerId === partId) ? [i] : [],
  );

/** Links of a part that lead out of it. */
const outwardLinks = (network: Network, partId: string): Network["links"] =>
  ownLinks(network, partId)
    .flatMap((i) => network.links[i] ?? [])
    .filter((l) => [l.a, l.b].some((c) => network.cells[c]?.ownerId !== partId));

const hasDevice = (network: Network, partId: string): boolean =>
  ownLinks(network, partId).some(
    (i) => network.links[i]?.oneWay === true || network.links[i]?.regulatesPa !== undefined,
  );

const isInLine = (network: Network, part: Part): boolean => {
  const { role, group } = kindOfPart(part);
  const isGated = outwardLinks(network, part.id).some((l) => l.gates.length > 0);
  const isPlain =
    !role.vessel &&
    !role.cushion &&
    !role.pump &&
    group !== "outlets" &&
    outwardLinks(network, part.id).length === 2;
  return isPlain && (!isGated || Object.keys(wideOpen(network, part)).length > 0);
};

/** How a part's own controls stand when everything passes it; nothing where they never do. */
const wideOpen = (network: Network, part: Part): Lineup => {
  const outward = outwardLinks(network, part.id);
  for (const c of network.controls)
    if (c.part.id === part.id && outward.some((l) => l.gates.some((g) => g.key === c.key)))
      for (const { name } of c.spec.positions)
        if (outward.every((l) => l.gates.every((g) => g.key !== c.key || g.in.includes(name))))
          return { [c.key]: name };
  return {};
};

/** The same network, each unknown part with a gate of its own that nothing aboard turns. */
const withGates = (network: Network): Network => {
  const gates = new Map(
    unknownParts(network).flatMap((p) => ownLinks(network, p.id).map((i) => [i, p.id] as const)),
  );
  const links = network.links.map((l, i) => {
    const id = gates.get(i);
    return id === undefined ? l : { ...l, gates: [...l.gates, { key: readKey(id), in: [PASSES] }] };
  });
  return withLinks(network, links);
};

/** The same network with a part's checks gone, or with what nobody knows passing one way only. */
const withDevice = (network: Network, device: string): Network => {
  const [what = "", ...rest] = device.split(" ");
  if (what === "free") {
    const owned = new Set(ownLinks(network, rest.join(" ")));
    const links = network.links.map((l, i) => {
      const free = { ...l, oneWay: false, crackPa: 0, regulatesPa: undefined };
      return owned.has(i) ? free : l;
    });
    return withLinks(network, links);
  }
  const [inBy, ...id] = rest;
  return passingOneWay(network, id.join(" "), inBy === "1" ? 1 : 0);
};

const passingOneWay = (network: Network, partId: string, inBy: 0 | 1): Network => {
  const owned = ownLinks(network, partId);
  const isIn = (cell: number): boolean => network.cells[cell]?.ownerId === partId;
  const links = network.links.map((l, i) => {
    if (!owned.includes(i)) return l;
    const into = i === owned[inBy];
    return {
      ...l,
      oneWay: true,
      ...(isIn(l.b) === into ? { a: l.a, b: l.b } : { a: l.b, b: l.a }),
    };
  });
  return withLinks(network, links);
};

/** The unit as it stands, carried over to another reading of its map: what has the same name holds the same. */
export const carriedOver = (from: Network, physical: Physical, to: Network): Physical => {
  if (from.map === to.map) return physical;
  const keys = new Set(to.controls.map((c) => c.key));
  const start = to.cells.map((cell, i) => {
    const was = from.cellIndex.get(cell.id);
    const held = was === undefined ? undefined : physical.contents[was];
    const fits =
      held &&
      held.plugs.reduce((sum, p) => sum + p.waterM3 + p.glycolM3, 0) <=
        (to.cells[i]?.capacityM3 ?? 0) + 1e-12;
    return held && fits
      ? held
      : {
          plugs: held ? [{ waterM3: cell.capacityM3, glycolM3: 0 }] : [],
          source: "assumed" as const,
        };
  });
  return {
    ...physical,
    lineup: Object.fromEntries(Object.entries(physical.lineup).filter(([key]) => keys.has(key))),
    apart: physical.apart.filter((e) => to.cellIndex.has(pipeCellId(e.run))),
    contents: start,
  };
};

export const carriedMeasured = (from: Network, measured: Measured, to: Network): Measured =>
  new Map(
    [...measured].flatMap(([cell, strength]) => {
      const index = to.cellIndex.get(from.cells[cell]?.id ?? "");
      return index === undefined ? [] : [[index, strength] as const];
    }),
  );
