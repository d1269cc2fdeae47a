import { ATMOSPHERE_PA, GRAVITY, PA_PER_M } from "../quantity/index.ts";
import {
  type CellContents,
  type Contents,
  liquidIn,
  overHumps,
  strengthOf,
  startingContents,
  volumeOf,
} from "../contents/index.ts";
import {
  glycolDensityKgM3,
  glycolViscosityPaS,
  massFractionFromStrength,
  type Property,
  waterDensityKgM3,
  waterViscosityPaS,
} from "../fluid/index.ts";
import {
  type Cell,
  kindOfPart,
  type Lineup,
  type LiveOpening,
  liveOpenings,
  type Network,
  type Opening,
  passableLinks,
  PIPE_SYSTEMS,
  type Situation,
} from "../watermap/index.ts";
import {
  AIR,
  BOILS_AT_PA,
  END_LOSS_K,
  HOLE_COEFFICIENT,
  type HydraulicAnswer,
  type HydraulicElement,
  type HydraulicNetwork,
  type HydraulicNode,
  type HydraulicOutlet,
  INSIDE,
  type Liquid,
  ROUGHNESS_M,
  solveHydraulics,
  TAP_COEFFICIENT,
} from "../hydraulics/index.ts";

/** The pressurised side of a map as it stands, made ready to be solved, and the answer told in the map's own ids. */

export interface FlowSettings {
  /** Pressure of a connected supply against a shut tap, Pa. */
  readonly supplyPa: number;
  /** What that supply gives into an open bucket, m3/s; Infinity: it holds its pressure, whatever is drawn. */
  readonly supplyMostM3PerS: number;
  /** Of all liquid aboard, °C, 0 to 20. */
  readonly temperatureC: number;
  /** How far an opening is open, by its control or its id, 0 to 1; fully where it is not said. */
  readonly openings?: Readonly<Record<string, number>>;
  /** Ways in, by opening, that hang in the air instead of in a jug. */
  readonly inAir?: ReadonlySet<string>;
  /** Pipes that hold no liquid let air pass; else every pipe counts as full. */
  readonly dry?: boolean;
  /** Accumulators stand at the pressure of the air behind their bladder. */
  readonly cushions?: boolean;
  /** Pressure of each inlet that has a hose on it, by opening, Pa; another that is open is a hole. Where it is not said, every open inlet has its supply. */
  readonly hosesPa?: Readonly<Record<string, number>>;
}

/** 40 psi and 20 L/min, cold water: a site tap behind a common regulator (common practice, no source). */
export const COMMON_FLOW_SETTINGS: FlowSettings = {
  supplyPa: 276_000,
  supplyMostM3PerS: 20e-3 / 60,
  temperatureC: 15,
};

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

/** Whether a supply presses at an opening. */
export const presses = (o: LiveOpening, settings: Pick<FlowSettings, "hosesPa">): boolean =>
  (o.use === "supply" || o.use === "flush") &&
  (settings.hosesPa === undefined ||
    o.opening?.pressed === true ||
    settings.hosesPa[o.id] !== undefined);

const valueOf = (property: Property, otherwise: number): number =>
  property.ok ? property.value : otherwise;

// Fuller than this a pipe counts as one of water; emptier, air gets along over what lies in it (our own).
const DRY_SHARE = 0.3;
// A stopped pump's valves, opened by less than this, let a head of water through: one metre.
export const HOLDS_HEAD_PA = PA_PER_M;

/** Pressure that the air behind a bladder has when so much water has come in; Boyle, at one temperature. */
export const cushionPa = (volumeM3: number, prechargePa: number, waterM3: number): number =>
  ((prechargePa + ATMOSPHERE_PA) * volumeM3) / Math.max(volumeM3 - waterM3, volumeM3 * 1e-3) -
  ATMOSPHERE_PA;

/** How high a tank stands, m; what lies below the lip of its outlets presses nothing. */
const levelIn = (tank: Cell, liquidM3: number): number => {
  const share = liquidM3 / Math.max(tank.capacityM3, 1e-9);
  return share <= tank.drainRemainder * NEARLY ? 0 : (tank.topM - tank.bottomM) * share;
};
const NEARLY = 1.001;

/** Whether a pipe or a body holds so little that air passes it. */
export const isDry = (
  cell: Cell,
  held: CellContents | undefined,
  { dry }: Pick<FlowSettings, "dry">,
): boolean =>
  dry === true &&
  cell.form !== "vessel" &&
  cell.capacityM3 > 0 &&
  volumeOf(liquidIn(held)) < DRY_SHARE * cell.capacityM3;

const MOST_LIQUIDS = 2000;
const liquids = new Map<number, Liquid>();
let liquidsAtC = Number.NaN;

const liquidOf = (held: CellContents | undefined, temperatureC: number): Liquid => {
  const strength = Math.min(strengthOf(liquidIn(held)), 0.6);
  // Most of a unit holds one of two liquids.
  if (liquidsAtC !== temperatureC || liquids.size > MOST_LIQUIDS) {
    liquids.clear();
    liquidsAtC = temperatureC;
  }
  const known = liquids.get(strength) ?? liquidAt(strength, temperatureC);
  liquids.set(strength, known);
  return known;
};

const liquidAt = (strength: number, temperatureC: number): Liquid => {
  if (strength === 0)
    return {
      densityKgM3: valueOf(waterDensityKgM3(temperatureC), 1000),
      viscosityPaS: valueOf(waterViscosityPaS(temperatureC), 1e-3),
    };
  const mass = valueOf(massFractionFromStrength(strength), 0.6);
  return {
    densityKgM3: valueOf(glycolDensityKgM3(mass), 1040),
    viscosityPaS: valueOf(glycolViscosityPaS(mass, Math.min(20, Math.max(0, temperatureC))), 9e-3),
  };
};

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

export type MapFlows =
  | {
      readonly ok: true;
      /** m3/s by run, positive from the run's `from` to its `to`. */
      readonly flowsM3PerS: ReadonlyMap<string, number>;
      /** Pa above the air by part: its highest where it has several cells. Absent where it is closed off from every source and opening. */
      readonly pressuresPa: ReadonlyMap<string, number>;
      /** Parts where the water would boil before so much came: it does not come, the pump cavitates. Their pressure is told as the lowest that there is. */
      readonly boils: readonly string[];
      /** m3/s by opening. */
      readonly outM3PerS: ReadonlyMap<string, number>;
    }
  | { readonly ok: false; readonly problem: string };

/**
 * What flows where in a full system standing like this.
 * @param lineup positions by control @param contents what the pipes hold, for density and viscosity and the tanks' levels; in use where it is not said
 */
export const mapFlows = (
  network: Network,
  lineup: Lineup,
  settings: FlowSettings = COMMON_FLOW_SETTINGS,
  contents?: Contents,
): MapFlows => {
  const held = contents ?? startingContents(network);
  const made = mapHydraulics({ network, lineup, apart: [] }, held, settings);
  const solved: HydraulicAnswer = solveHydraulics(made.network);
  if (!solved.ok) return solved;
  const flows = new Map<string, number>();
  for (const run of network.map.runs) {
    const element = made.elementOf.get(run.id);
    if (element === undefined) continue;
    const q = solved.flowsM3PerS[element] ?? 0;
    flows.set(run.id, q);
  }
  const pressures = new Map<string, number>();
  const boils = new Set<string>();
  for (const [cell, at] of made.nodeOf) {
    const p = solved.pressuresPa[at];
    const { ownerId: owner, capacityM3 = 0 } = network.cells[cell] ?? {};
    if (p === undefined || owner === undefined) continue;
    if (p < BOILS_AT_PA) boils.add(owner);
    if (capacityM3 > 0)
      pressures.set(
        owner,
        Math.max(p, BOILS_AT_PA, pressures.get(owner) ?? Number.NEGATIVE_INFINITY),
      );
  }
  return {
    ok: true,
    flowsM3PerS: flows,
    pressuresPa: pressures,
    boils: [...boils].toSorted(),
    outM3PerS: new Map(made.network.outlets.map((o, i) => [o.id, solved.outM3PerS[i] ?? 0])),
  };
};
