import { type Contents, liquidIn, overHumps, volumeOf } from "../contents/index.ts";
import {
  AIR,
  END_LOSS_K,
  HOLE_COEFFICIENT,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  type HydraulicOutlet,
  INSIDE,
  type Liquid,
  ROUGHNESS_M,
  TAP_COEFFICIENT,
} from "../hydraulics/index.ts";
import { GRAVITY } from "../quantity/index.ts";
import {
  type Cell,
  kindOfPart,
  type LiveOpening,
  liveOpenings,
  type Network,
  type Opening,
  passableLinks,
  PIPE_SYSTEMS,
  type Situation,
} from "../watermap/index.ts";
import {
  COMMON_FLOW_SETTINGS,
  type FlowSettings,
  HOLDS_HEAD_PA,
  presses,
} from "./flow-settings.ts";
import { cushionPa, isDry, levelIn, liquidOf } from "./standing-liquid.ts";

/** The pressurised side of a map as it stands, made ready to be solved, and the answer told in the map's own ids. */

const FULLY = 1;

const LEAVES: ReadonlySet<Opening["use"]> = new Set([
  "outlet",
  "low-point",
  "plug",
  "relief",
  "bowl",
  "dump",
  "overboard",
  "supply",
  "flush",
]);

export interface MapHydraulics {
  readonly network: HydraulicNetwork;
  /** Node of a part's cell, by cell index. */
  readonly nodeOf: ReadonlyMap<number, number>;
  /** Element of a run, by its id. */
  readonly elementOf: ReadonlyMap<string, number>;
  /** Element inside a part, by its link's number. */
  readonly insideOf: ReadonlyMap<number, number>;
  /** Element that feeds a supply opening, by the opening's id. */
  readonly supplyOf: ReadonlyMap<string, number>;
  /** Cells whose pressure is held: tanks, jugs, raw water, cushions. */
  readonly held: ReadonlySet<number>;
  /** What stands in a pipe where nothing else is said: water. */
  readonly liquid: Liquid;
}

/** What a map's hydraulics are made of while they are made. */
class Making {
  readonly nodes: HydraulicNode[] = [];
  readonly elements: HydraulicElement[] = [];
  readonly outlets: HydraulicOutlet[] = [];
  readonly nodeOf = new Map<number, number>();
  readonly elementOf = new Map<string, number>();
  readonly insideOf = new Map<number, number>();
  readonly supplyOf = new Map<string, number>();
  readonly held = new Set<number>();
  readonly network: Network;
  readonly lineup: Situation["lineup"];
  readonly contents: Contents;
  readonly settings: FlowSettings;
  readonly passable: boolean[];
  readonly common: Liquid;
  /** Whether any supply presses. */
  readonly driven: boolean;
  readonly #openAt = new Map<number, LiveOpening[]>();

  constructor(situation: Situation, contents: Contents, settings: FlowSettings) {
    this.network = situation.network;
    this.lineup = situation.lineup;
    this.contents = contents;
    this.settings = settings;
    this.passable = [...passableLinks(situation)];
    if (settings.dry)
      for (const link of overHumps(situation, contents)) this.passable[link] = false;
    this.common = liquidOf(undefined, settings.temperatureC);
    const live = liveOpenings(situation);
    this.driven = live.some((o) => presses(o, settings));
    for (const o of live) this.#openAt.set(o.cell, [...this.openAt(o.cell), o]);
  }

  openAt(cell: number): readonly LiveOpening[] {
    return this.#openAt.get(cell) ?? [];
  }

  node(n: HydraulicNode): number {
    return this.nodes.push(n) - 1;
  }

  supplyPa(of: LiveOpening): number {
    return this.settings.hosesPa?.[of.id] ?? this.settings.supplyPa;
  }

  /** What stands in a cell: liquid, or air where it is dry and that is asked for. */
  liquidIn(c: Cell, index: number): Liquid {
    return isDry(c, this.contents[index], this.settings)
      ? AIR
      : liquidOf(this.contents[index], this.settings.temperatureC);
  }
}

/** A supply that gives no more than so much, at an opening. */
const addSupply = (making: Making, to: number, of: LiveOpening): void => {
  const { settings, elements } = making;
  making.supplyOf.set(of.id, elements.length);
  const from = making.node({ id: `${of.id}:site`, heightM: of.heightM, fixedPa: 0 });
  elements.push({
    id: `${of.id}:supply`,
    kind: "pump",
    from,
    to,
    shutOffPa: making.supplyPa(of),
    mostM3PerS: settings.supplyMostM3PerS,
    liquid: making.common,
  });
};

/** The pressure at which a cell is held, Pa: by its own level, a supply without limit, a jug, raw water, or a cushion's air. */
const heldPa = (making: Making, cell: number, c: Cell): number | undefined => {
  const { contents, settings, common } = making;
  const here = making.openAt(cell);
  if (c.form === "vessel" && c.part && kindOfPart(c.part).role.vessel === "fresh")
    return common.densityKgM3 * GRAVITY * levelIn(c, volumeOf(liquidIn(contents[cell])));
  const holding =
    settings.supplyMostM3PerS === Infinity ? here.find((o) => presses(o, settings)) : undefined;
  if (holding) return making.supplyPa(holding);
  const source = here.find((o) => o.use === "raw" || o.use === "pickup");
  if (source)
    return settings.inAir?.has(source.id)
      ? 0
      : common.densityKgM3 * GRAVITY * (source.heightM - c.bottomM);
  return settings.cushions && c.prechargePa !== undefined && !settings.inAir?.has(c.id)
    ? cushionPa(c.capacityM3, c.prechargePa, volumeOf(liquidIn(contents[cell])))
    : undefined;
};

/** A part's cell as a node, with whatever stands open on it. */
const addCell = (making: Making, cell: number, c: Cell): void => {
  const { settings } = making;
  const fixedPa = heldPa(making, cell, c);
  if (fixedPa !== undefined) making.held.add(cell);
  const at = making.node({
    id: c.id,
    heightM: c.bottomM,
    ...(fixedPa === undefined ? {} : { fixedPa }),
  });
  making.nodeOf.set(cell, at);
  if (fixedPa !== undefined) return;
  for (const o of making.openAt(cell)) {
    if (presses(o, settings)) {
      addSupply(making, at, o);
      continue;
    }
    if (!LEAVES.has(o.use)) continue;
    const opened =
      settings.openings?.[o.opening?.gate?.key ?? o.id] ?? settings.openings?.[o.id] ?? FULLY;
    if (opened > 0)
      making.outlets.push({
        id: o.id,
        node: at,
        heightM: o.heightM,
        coefficient: opened * (o.use === "outlet" ? TAP_COEFFICIENT : HOLE_COEFFICIENT),
        densityKgM3: making.liquidIn(c, cell).densityKgM3,
      });
  }
};

/** The pipe's own end where it is undone: it stands open, and what was beyond it is another opening. */
const addLooseEnd = (making: Making, loose: LiveOpening, liquid: Liquid): number => {
  const node = making.node({ id: loose.id, heightM: loose.heightM });
  making.outlets.push({
    id: loose.id,
    node,
    heightM: loose.heightM,
    coefficient: HOLE_COEFFICIENT,
    densityKgM3: liquid.densityKgM3,
  });
  return node;
};

/** A pipe between the parts on its ends. */
const addRun = (making: Making, index: number, c: Cell): void => {
  const { network } = making;
  const { run } = c;
  const system = run && PIPE_SYSTEMS.get(run.pipe);
  if (!run || !system || run.service === "waste") return;
  const liquid = making.liquidIn(c, index);
  let shut = false;
  const [from, to] = (network.linksOf[index] ?? []).slice(0, 2).map((l, i) => {
    const link = network.links[l];
    if (!link) return undefined;
    const loose = making
      .openAt(index)
      .find(
        ({ undone }) =>
          undone?.side === "pipe" &&
          undone.run === run.id &&
          undone.end === (i === 0 ? "from" : "to"),
      );
    if (loose) return addLooseEnd(making, loose, liquid);
    shut ||= !making.passable[l];
    return making.nodeOf.get(link.a === index ? link.b : link.a);
  });
  if (from === undefined || to === undefined || from === to) return;
  making.elementOf.set(run.id, making.elements.length);
  making.elements.push({
    id: run.id,
    kind: "pipe",
    from,
    to,
    lengthM: run.lengthM,
    boreM: system.boreM,
    roughnessM: ROUGHNESS_M,
    lossK: 2 * END_LOSS_K,
    liquid,
    ...(shut ? { shut: true } : {}),
  });
};

/** What lies between two cells of a part: a pump that runs, a regulator, or a short way with or without a check. */
const addInside = (making: Making, link: Network["links"][number], i: number): void => {
  const { network, elements, nodeOf, settings, contents } = making;
  const [a, b] = [network.cells[link.a], network.cells[link.b]];
  const [from, to] = [nodeOf.get(link.a), nodeOf.get(link.b)];
  if (!a?.part || !b?.part || from === undefined || to === undefined || from === to) return;
  making.insideOf.set(i, elements.length);
  const liquid = liquidOf(contents[a.capacityM3 > 0 ? link.a : link.b], settings.temperatureC);
  const { id } = a.part;
  if (link.drives && link.drivenBy && making.lineup[link.drivenBy] === "on") {
    const { shutOffPa, mostM3PerS } = link.drives;
    elements.push({ id, kind: "pump", from, to, shutOffPa, mostM3PerS, liquid });
    return;
  }
  if (link.regulatesPa !== undefined) {
    elements.push({ id, kind: "regulator", from, to, setPa: link.regulatesPa, liquid });
    return;
  }
  // A stopped pump's valves hold whatever head stands aboard; a supply opens them.
  const holds = link.drivenBy !== undefined && link.crackPa > HOLDS_HEAD_PA && !making.driven;
  elements.push({
    id: `${id}:${i}`,
    kind: "pipe",
    from,
    to,
    ...INSIDE,
    roughnessM: ROUGHNESS_M,
    liquid,
    ...(link.oneWay ? { oneWay: true, crackPa: link.crackPa } : {}),
    ...(making.passable[i] && !holds ? {} : { shut: true }),
  });
};

/** Takes the network as it stands apart into nodes, pipes, pumps, regulators and outlets. */
export const mapHydraulics = (
  situation: Situation,
  contents: Contents,
  settings: FlowSettings = COMMON_FLOW_SETTINGS,
): MapHydraulics => {
  const { network } = situation;
  const making = new Making(situation, contents, settings);
  for (const cell of [...wetCells(network)].toSorted((a, b) => a - b)) {
    const c = network.cells[cell];
    if (c?.part) addCell(making, cell, c);
  }
  network.cells.forEach((c, index) => addRun(making, index, c));
  network.links.forEach((link, i) => addInside(making, link, i));
  const { nodes, elements, outlets, nodeOf, elementOf, insideOf, supplyOf, held } = making;
  return {
    network: { nodes, elements, outlets },
    nodeOf,
    elementOf,
    insideOf,
    supplyOf,
    held,
    liquid: making.common,
  };
};

/** Cells of parts that can bear pressure: everything but the waste side, and where a pressed line ends in it. */
export const wetCells = (network: Network): ReadonlySet<number> => {
  const known = wet.get(network) ?? findWetCells(network);
  wet.set(network, known);
  return known;
};

const wet = new WeakMap<Network, ReadonlySet<number>>();

const findWetCells = (network: Network): ReadonlySet<number> => {
  const ends = network.links.flatMap((l) => {
    const run = network.cells[l.a]?.run ?? network.cells[l.b]?.run;
    return run && run.service !== "waste" ? [l.a, l.b] : [];
  });
  const joined = new Set(ends);
  return new Set(
    network.cells.flatMap((c, i) => (c.part && (c.side !== "waste" || joined.has(i)) ? [i] : [])),
  );
};
