import { controlsOfPart, type Part, paramsOf, type PipeRun, type WaterMap } from "./document.ts";
import {
  type CellId,
  cellId,
  type ControlKey,
  controlKey,
  type OpeningId,
  openingId,
  type PartId,
  pipeCellId,
  type PipeRunId,
} from "./ids.ts";
import {
  type CellSpec,
  type DriveSpec,
  type Gate,
  num,
  type OpeningUse,
  type PartKind,
  type PortSpec,
} from "./kind.ts";
import { reach, reachInOrder } from "./graph.ts";
import { PART_KINDS } from "./kinds/index.ts";
import { PIPE_SYSTEMS, pipeVolumeM3 } from "./pipes.ts";

/**
 * The map taken apart into what physics needs: cells that hold liquid, links between them, openings to the air.
 * Made once per map; a lineup then says which links and openings are open.
 */

export interface Cell {
  /** A run's own id, or "part id:cell", however many cells the part has. */
  readonly id: CellId;
  readonly ownerId: PartId | PipeRunId;
  /** What the kind calls it: "vessel", "cold"; of a run "pipe". */
  readonly name: string;
  readonly part?: Part;
  /** What the part is: its role, its group. */
  readonly kind?: PartKind;
  readonly run?: PipeRun;
  /** Which water it carries. */
  readonly side: WaterSide;
  readonly form: CellSpec["form"] | "pipe" | "waste-pipe";
  readonly capacityM3: number;
  readonly bottomM: number;
  readonly topM: number;
  readonly drainRemainder: number;
  readonly sweepRemainder: number;
  readonly tippedRemainder?: number;
  /** Volume lying in a dip below both ends, m3. */
  readonly sagM3: number;
  /** For a run: height of its from and to ends. */
  readonly endsM?: readonly [number, number];
  readonly allowedRemainder?: number;
  readonly frostBasis: "burst" | "no-ice";
  readonly label?: string;
  readonly inUseFraction: number;
  /** While it fills, what comes in mixes with no more than this of what it holds, m3; all of it where it is not said. */
  readonly mixesOverM3?: number;
  /** Of a part, but like a pipe: from its links to its opening nothing mixes. */
  readonly lengthwise?: true;
  /** Resistance to flow, any consistent unit: length over bore to the fourth power. */
  readonly resistance: number;
  /** Pressed air behind a bladder, Pa above the surroundings with no water in it. */
  readonly prechargePa?: number;
}

/** Fresh and everything that carries drinking water; raw: sea, lake or a tank's rinse; waste: what has been used. */
type WaterSide = "fresh" | "raw" | "waste";

export interface Link {
  readonly a: number;
  readonly b: number;
  readonly heightM: number;
  readonly gates: readonly CellGate[];
  /** Passes only from a to b. */
  readonly oneWay: boolean;
  readonly crackPa: number;
  /** Control key of the switch that drives liquid from a to b, and what its pump gives. */
  readonly drivenBy?: ControlKey;
  readonly drives?: DriveSpec;
  /** Lets no more than this through from a to b, Pa. */
  readonly regulatesPa?: number;
}

/** A gate bound to its part: lineup key and the positions that open it. */
export interface CellGate {
  readonly key: ControlKey;
  readonly in: readonly string[];
}

export interface Opening {
  readonly id: OpeningId;
  readonly name: string;
  readonly part: Part;
  readonly cell: number;
  readonly heightM: number;
  readonly use: OpeningUse;
  readonly gate?: CellGate;
  readonly pressed?: boolean;
  readonly airOnly?: boolean;
  /** Cell into which it falls; undefined means the ground, a bucket or a sink without a mapped waste. */
  readonly fallsTo?: number;
  readonly label: string;
}

export interface Control {
  readonly key: ControlKey;
  readonly part: Part;
  readonly spec: PartKind["controls"][number];
}

export interface Network {
  readonly map: WaterMap;
  readonly cells: readonly Cell[];
  readonly links: readonly Link[];
  readonly openings: readonly Opening[];
  readonly controls: readonly Control[];
  readonly cellIndex: ReadonlyMap<CellId, number>;
  /** Links of each cell, by cell index. */
  readonly linksOf: readonly (readonly number[])[];
}

export type Lineup = Readonly<Record<string, string>>;

/**
 * A pump fills a bore of up to this as a full front, which drives what was left before it: faster than 0.54 √(g·bore), as a cavity runs
 * along a tube (Benjamin, J. Fluid Mech. 31, 1968, from memory), 0.24 m/s or 4.5 L/min here. Wider, what comes runs in under the air.
 */
const FILLS_WHOLE_M = 0.02;
// Along a turbulent front mixing reaches some tenths of a metre (Taylor, Proc. R. Soc. A 223, 1954, from memory); much more is taken.
const MIXES_OVER_M = 2;

// Our own estimate: a fitting hinders like half a metre of 12 mm pipe. Only the split between parallel ways depends on it.
const FITTING_RESISTANCE = 0.5 / 0.012 ** 4;

const bindGate = (part: Part, gate: Gate | undefined): CellGate | undefined =>
  gate && { key: controlKey(part.id, gate.control), in: gate.in };

const only = <T>(value: T | undefined): T[] => (value === undefined ? [] : [value]);

/** The index of a cell by its id; of a part's id, its largest cell; −1 where there is none. */
export const cellAt = (network: Network, id: string): number => {
  const exact = network.cellIndex.get(id);
  if (exact !== undefined) return exact;
  let found = -1;
  network.cells.forEach((cell, i) => {
    if (cell.ownerId === id && cell.capacityM3 > (network.cells[found]?.capacityM3 ?? -1))
      found = i;
  });
  return found;
};

/** A cell as files and the command line write it: a part that holds in one place by its own id, else "part:cell". */
export const cellTold = (network: Network, index: number): string => {
  const { id = "", ownerId = "" } = network.cells[index] ?? {};
  const holding = network.cells.filter((c) => c.ownerId === ownerId && c.capacityM3 > 0);
  return holding.length === 1 && holding[0]?.id === id ? ownerId : id;
};

const kindOf = (part: Part): PartKind => {
  const kind = PART_KINDS.get(part.kind);
  if (!kind) throw new Error(`Unknown kind ${part.kind}: read the map with readWaterMap first.`);
  return kind;
};

/** A check, a pump or a regulator in a port. */
const hasDevice = (p: PortSpec): boolean =>
  p.check !== undefined || p.drives !== undefined || p.regulatesPa !== undefined;

/** The place before a port's device, where a pipe ends: it holds nothing. */
const neckOf = (part: Part, kind: PartKind, p: PortSpec, heightM: number): Cell => ({
  id: cellId(part.id, `${p.name}-neck`),
  ownerId: part.id,
  name: `${p.name}-neck`,
  part,
  kind,
  side: "fresh",
  form: "fitting",
  capacityM3: 0,
  bottomM: heightM,
  topM: heightM,
  drainRemainder: 0,
  sweepRemainder: 0,
  sagM3: 0,
  frostBasis: "burst",
  inUseFraction: 0,
  resistance: FITTING_RESISTANCE,
});

const deviceLink = (
  part: Part,
  p: PortSpec,
  neck: number,
  inner: number,
  heightM: number,
): Link => {
  // A check "in" lets liquid pass from the pipe into the part.
  const inward = p.check !== "out";
  return {
    a: inward ? neck : inner,
    b: inward ? inner : neck,
    heightM,
    gates: [],
    oneWay: p.check !== undefined,
    crackPa: p.crackPa ?? 0,
    ...(p.drives ? { drivenBy: controlKey(part.id, p.drives.control), drives: p.drives } : {}),
    ...(p.regulatesPa === undefined ? {} : { regulatesPa: p.regulatesPa }),
  };
};

/**
 * Takes a map apart. The map must have been read by `readWaterMap`.
 * The order of cells follows ids, so that the order in which parts are stored cannot change any result.
 */
export const buildNetwork = (map: WaterMap): Network => {
  const cells: Cell[] = [];
  const links: Link[] = [];
  const openings: Opening[] = [];
  const controls: Control[] = [];
  const parts = [...map.parts].sort((x, y) => (x.id < y.id ? -1 : 1));
  const runs = [...map.runs].sort((x, y) => (x.id < y.id ? -1 : 1));
  const portAt = new Map<string, { cell: number; heightM: number; gate?: CellGate }>();

  for (const part of parts) {
    const kind = kindOf(part);
    const anatomy = kind.anatomy(paramsOf(part));
    const precharge = kind.role.cushion ? num(paramsOf(part), "prechargePa") : undefined;
    const index = new Map<string, number>();
    for (const spec of anatomy.cells) {
      index.set(spec.name, cells.length);
      cells.push({
        id: cellId(part.id, spec.name),
        ownerId: part.id,
        name: spec.name,
        part,
        kind,
        side: "fresh",
        form: spec.form,
        capacityM3: spec.volumeM3,
        bottomM: part.heightM + spec.bottomM,
        topM: part.heightM + spec.topM,
        drainRemainder: spec.drainRemainder,
        sweepRemainder: spec.sweepRemainder,
        ...(spec.tippedRemainder === undefined ? {} : { tippedRemainder: spec.tippedRemainder }),
        sagM3: 0,
        ...(spec.allowedRemainder === undefined ? {} : { allowedRemainder: spec.allowedRemainder }),
        frostBasis: spec.frostBasis,
        ...(spec.label === undefined ? {} : { label: spec.label }),
        inUseFraction: spec.inUseFraction,
        ...(spec.lengthwise ? { lengthwise: true as const } : {}),
        resistance: FITTING_RESISTANCE,
        ...(precharge === undefined ? {} : { prechargePa: precharge }),
      });
    }
    const at = (name: string): number => {
      const found = index.get(name);
      if (found === undefined) throw new Error(`Kind ${kind.kind} names no cell ${name}.`);
      return found;
    };
    for (const p of anatomy.ports) {
      const heightM = part.heightM + p.heightM;
      const inner = at(p.cell);
      const neck = hasDevice(p) ? cells.push(neckOf(part, kind, p, heightM)) - 1 : undefined;
      // The device stays with its part: a pump whose inlet line is undone still pumps.
      if (neck !== undefined) links.push(deviceLink(part, p, neck, inner, heightM));
      portAt.set(`${part.id}.${p.name}`, {
        cell: neck ?? inner,
        heightM,
        ...(p.gate ? { gate: bindGate(part, p.gate) } : {}),
      });
    }
    for (const l of anatomy.links)
      links.push({
        a: at(l.from),
        b: at(l.to),
        heightM: part.heightM + l.heightM,
        gates: only(bindGate(part, l.gate)),
        oneWay: l.check === true,
        crackPa: l.crackPa ?? 0,
      });
    for (const spec of controlsOfPart(part))
      controls.push({ key: controlKey(part.id, spec.name), part, spec });
  }

  const runAt = new Map<string, number>();
  for (const run of runs) {
    const from = portAt.get(`${run.from.part}.${run.from.port}`);
    const to = portAt.get(`${run.to.part}.${run.to.port}`);
    const system = PIPE_SYSTEMS.get(run.pipe);
    if (!from || !to || !system)
      throw new Error(`Run ${run.id} is not sound: read the map with readWaterMap first.`);
    const low = Math.min(from.heightM, to.heightM);
    const me = cells.length;
    const waste = run.service === "waste";
    const capacityM3 = pipeVolumeM3(system.boreM, run.lengthM);
    const sagM3 = run.sag ? pipeVolumeM3(system.boreM, Math.min(run.sag.lengthM, run.lengthM)) : 0;
    runAt.set(`${run.from.part}.${run.from.port}`, me);
    runAt.set(`${run.to.part}.${run.to.port}`, me);
    cells.push({
      id: pipeCellId(run.id),
      ownerId: run.id,
      name: "pipe",
      run,
      side: "fresh",
      form: waste ? "waste-pipe" : "pipe",
      capacityM3,
      bottomM: low - (run.sag?.depthM ?? 0),
      topM: Math.max(from.heightM, to.heightM),
      // Common practice, no source: a drained tube keeps a film of about three per cent, a swept one two.
      drainRemainder: 0.03,
      sweepRemainder: 0.02,
      sagM3,
      ...(waste || system.boreM > FILLS_WHOLE_M
        ? {}
        : { mixesOverM3: pipeVolumeM3(system.boreM, MIXES_OVER_M) }),
      endsM: [from.heightM, to.heightM],
      frostBasis: "burst",
      // What falls through a waste pipe leaves its dips full.
      inUseFraction: waste ? sagM3 / capacityM3 : run.service === "fill" ? 0 : 1,
      resistance: run.lengthM / system.boreM ** 4,
    });
    for (const end of [from, to])
      links.push({
        a: me,
        b: end.cell,
        heightM: end.heightM,
        gates: only(end.gate),
        oneWay: false,
        crackPa: 0,
      });
  }

  const cellIndex = new Map(cells.map((cell, i) => [cell.id, i]));
  for (const part of parts) {
    const anatomy = kindOf(part).anatomy(paramsOf(part));
    for (const o of anatomy.openings) {
      const cell = cellIndex.get(cellId(part.id, o.cell));
      if (cell === undefined) throw new Error(`Kind ${part.kind} names no cell ${o.cell}.`);
      const fallsTo =
        o.fallsTo === undefined
          ? undefined
          : "port" in o.fallsTo
            ? runAt.get(`${part.id}.${o.fallsTo.port}`)
            : cellIndex.get(cellId(part.id, o.fallsTo.cell));
      const gate = bindGate(part, o.gate);
      openings.push({
        id: openingId(part.id, o.name),
        name: o.name,
        part,
        cell,
        heightM: part.heightM + o.heightM,
        use: o.use,
        ...(gate ? { gate } : {}),
        ...(o.pressed ? { pressed: true } : {}),
        ...(o.airOnly ? { airOnly: true } : {}),
        ...(fallsTo === undefined ? {} : { fallsTo }),
        label: o.label,
      });
    }
  }

  const linksOf: number[][] = cells.map(() => []);
  links.forEach((link, i) => {
    linksOf[link.a]?.push(i);
    linksOf[link.b]?.push(i);
  });
  const bare: Network = { map, cells, links, openings, controls, cellIndex, linksOf };
  return { ...bare, cells: withFacts(bare) };
};

const SIDES: Readonly<Record<PipeRun["service"], WaterSide>> = {
  cold: "fresh",
  hot: "fresh",
  suction: "fresh",
  fill: "fresh",
  raw: "raw",
  waste: "waste",
};

/** What a cell is by where it lies: which water it carries, and what stands in it in use. */
const withFacts = (network: Network): Cell[] => {
  const { cells } = network;
  const isPart = (cell: number): boolean => cells[cell]?.part !== undefined;
  // Pressed as soon as a supply or a pump is on, whatever stands shut today: up to the tanks.
  const pressedFrom = [
    ...network.openings.filter((o) => o.use === "supply").map((o) => o.cell),
    ...network.links.flatMap((l) => (l.drives ? [l.b] : [])),
  ];
  const pressed = reach(
    network,
    pressedFrom,
    (link, from) => cells[from]?.form !== "vessel" && network.links[link]?.drives === undefined,
  );
  const fillers = new Set<string>(
    network.openings.flatMap((o) => (o.use === "fill" ? [o.part.id] : [])),
  );
  return cells.map((cell, i) => {
    if (cell.run) {
      // A filler's own hose stands open above and runs down by itself.
      const isFiller = [cell.run.from.part, cell.run.to.part].some((id) => fillers.has(id));
      const fills = cell.run.service === "fill" && pressed[i] === 1 && !isFiller;
      return { ...cell, side: SIDES[cell.run.service], ...(fills ? { inUseFraction: 1 } : {}) };
    }
    const own = reachInOrder(
      network,
      [i],
      (_, from, to) => isPart(from) && (isPart(to) ? cells[to]?.ownerId === cell.ownerId : true),
    );
    const sides = new Set(own.flatMap((c) => (cells[c]?.run ? [SIDES[cells[c].run.service]] : [])));
    if (cell.form === "trap" || cell.kind?.group === "waste") return { ...cell, side: "waste" };
    const [one] = sides;
    if (sides.size !== 1 || one === undefined) return cell;
    // A joint in a waste pipe empties with it: what falls through it keeps a film.
    return one === "waste" && cell.kind?.role.joint
      ? { ...cell, side: one, form: "waste-pipe" as const, inUseFraction: 0 }
      : { ...cell, side: one };
  });
};

/** Every control's position for use on the tank, with the map's own exceptions. */
export const inUseLineup = (network: Network): Lineup => ({
  ...Object.fromEntries(network.controls.map((control) => [control.key, control.spec.inUse])),
  ...network.map.lineup,
});

/** Where a place comes on the walk round a unit; what has none comes last. */
export const placeRank = (
  { places }: Pick<WaterMap, "places">,
  place: string | undefined,
): number => {
  const at = places.indexOf(place ?? "");
  return at < 0 ? places.length : at;
};

export const gateOpen = (gate: CellGate | undefined, lineup: Lineup): boolean =>
  !gate || gate.in.includes(lineup[gate.key] ?? "");
export const linkOpen = (link: Link, lineup: Lineup): boolean =>
  link.gates.every((gate) => gateOpen(gate, lineup));

/** What a position is called on this part: a selector's positions carry the names of what they join. */
export const positionLabel = (control: Control, position: string): string => {
  if (control.spec.role === "selector") {
    const named = paramsOf(control.part)[position];
    if (typeof named === "string") return named;
  }
  return control.spec.positions.find((p) => p.name === position)?.label ?? position;
};

/** How the handle lies in a position, or empty. */
export const handleOf = (control: Control, position: string): string => {
  const found = control.spec.positions.find((p) => p.name === position)?.handle ?? "";
  return control.spec.role === "selector" && found
    ? `handle to ${positionLabel(control, position)}`
    : found;
};

/** A name for a cell that a technician understands: "Galley tap, hot cartridge", "hot main", "pipe from Pump to Tee 1". */
export const cellName = (network: Network, index: number): string => {
  const cell = network.cells[index];
  if (!cell) return "unknown";
  if (cell.part) return cell.label ? `${cell.part.name}, ${cell.label}` : cell.part.name;
  const run = cell.run;
  if (!run) return cell.id;
  if (run.name) return run.name;
  const partName = (partId: string): string =>
    network.map.parts.find((p) => p.id === partId)?.name ?? partId;
  return `pipe from ${partName(run.from.part)} to ${partName(run.to.part)}`;
};

/** Everything that heats water, in a vessel or as it passes: its part, and the cell that holds most of it. */
export const heatersOf = (network: Network): { readonly part: Part; readonly cell: number }[] =>
  network.map.parts.flatMap((part) =>
    kindOf(part).role.energies ? [{ part, cell: cellAt(network, part.id) }] : [],
  );

/** What a part is to a planner: a heater, a pump, a joint. */
export const roleOf = (part: Part): PartKind["role"] => kindOf(part).role;
export const kindOfPart = kindOf;
