import { controlsOfPart, paramsOf, type Part, type PipeRun, type WaterMap } from "./document.ts";
import { reach, reachInOrder } from "./graph.ts";
import { cellId, controlKey, openingId, pipeCellId } from "./ids.ts";
import { type Gate, num, type PartKind, type PortSpec } from "./kind.ts";
import {
  type Cell,
  type CellGate,
  type Control,
  kindOfPart,
  type Link,
  type Network,
  type Opening,
  type WaterSide,
} from "./network.ts";
import { PIPE_SYSTEMS, pipeVolumeM3 } from "./pipes.ts";

/** A map taken apart into its network. */

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

/** A cell as files and the command line write it: a part that holds in one place by its own id, else "part:cell". */
export const cellTold = (network: Network, index: number): string => {
  const { id = "", ownerId = "" } = network.cells[index] ?? {};
  const holding = network.cells.filter((c) => c.ownerId === ownerId && c.capacityM3 > 0);
  return holding.length === 1 && holding[0]?.id === id ? ownerId : id;
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

/** A network while it is made. */
interface Building {
  readonly cells: Cell[];
  readonly links: Link[];
  readonly openings: Opening[];
  readonly controls: Control[];
  /** Where each port of a part is joined on to. */
  readonly portAt: Map<string, { cell: number; heightM: number; gate?: CellGate }>;
  /** The cell of the pipe on each port. */
  readonly runAt: Map<string, number>;
}

/** A part's cells, what lies between them and its ports, and what is turned on it. */
const addPart = ({ cells, links, controls, portAt }: Building, part: Part): void => {
  const kind = kindOfPart(part);
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
};

/** A pipe, and what joins it to the ports on its ends. */
const addRun = ({ cells, links, portAt, runAt }: Building, run: PipeRun): void => {
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
};

/** Where a part stands open to the air, or may. */
const addOpenings = (
  { openings, runAt }: Building,
  part: Part,
  cellIndex: ReadonlyMap<string, number>,
): void => {
  const anatomy = kindOfPart(part).anatomy(paramsOf(part));
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
};

// All of one kind have the same properties in the same order, what is absent as undefined: whatever walks over thousands of them is then
// compiled once, and not again for each shape that comes along.
const shapedCell = (c: Cell): Cell => ({
  id: c.id,
  ownerId: c.ownerId,
  name: c.name,
  part: c.part,
  kind: c.kind,
  run: c.run,
  side: c.side,
  form: c.form,
  capacityM3: c.capacityM3,
  bottomM: c.bottomM,
  topM: c.topM,
  drainRemainder: c.drainRemainder,
  sweepRemainder: c.sweepRemainder,
  tippedRemainder: c.tippedRemainder,
  sagM3: c.sagM3,
  endsM: c.endsM,
  allowedRemainder: c.allowedRemainder,
  frostBasis: c.frostBasis,
  label: c.label,
  inUseFraction: c.inUseFraction,
  mixesOverM3: c.mixesOverM3,
  lengthwise: c.lengthwise,
  resistance: c.resistance,
  prechargePa: c.prechargePa,
});

/** A cell with something about it otherwise. */
export const cellWith = (cell: Cell, change: Partial<Cell>): Cell =>
  shapedCell({ ...cell, ...change });

const shapedLink = (l: Link): Link => ({
  a: l.a,
  b: l.b,
  heightM: l.heightM,
  gates: l.gates,
  oneWay: l.oneWay,
  crackPa: l.crackPa,
  drivenBy: l.drivenBy,
  drives: l.drives,
  regulatesPa: l.regulatesPa,
});

const shapedOpening = (o: Opening): Opening => ({
  id: o.id,
  name: o.name,
  part: o.part,
  cell: o.cell,
  heightM: o.heightM,
  use: o.use,
  gate: o.gate,
  pressed: o.pressed,
  airOnly: o.airOnly,
  fallsTo: o.fallsTo,
  label: o.label,
});

/**
 * Takes a map apart. The map must have been read by `readWaterMap`.
 * The order of cells follows ids, so that the order in which parts are stored cannot change any result.
 */
export const buildNetwork = (map: WaterMap): Network => {
  const parts = [...map.parts].sort((x, y) => (x.id < y.id ? -1 : 1));
  const runs = [...map.runs].sort((x, y) => (x.id < y.id ? -1 : 1));
  const building: Building = {
    cells: [],
    links: [],
    openings: [],
    controls: [],
    portAt: new Map(),
    runAt: new Map(),
  };
  const { cells, links, openings, controls } = building;
  for (const part of parts) addPart(building, part);
  for (const run of runs) addRun(building, run);
  const cellIndex = new Map(cells.map((cell, i) => [cell.id, i]));
  for (const part of parts) addOpenings(building, part, cellIndex);

  const linksOf: number[][] = cells.map(() => []);
  links.forEach((link, i) => {
    linksOf[link.a]?.push(i);
    linksOf[link.b]?.push(i);
  });
  const bare: Network = { map, cells, links, openings, controls, cellIndex, linksOf };
  const shaped = { cells: withFacts(bare).map(shapedCell), openings: openings.map(shapedOpening) };
  return withLinks({ ...bare, ...shaped }, links);
};

/** The same network with links of another make in the places of its own. */
export const withLinks = (n: Network, links: readonly Link[]): Network => ({
  map: n.map,
  cells: n.cells,
  links: links.map(shapedLink),
  openings: n.openings,
  controls: n.controls,
  cellIndex: n.cellIndex,
  linksOf: n.linksOf,
});

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
