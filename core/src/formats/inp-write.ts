import { FOOT_M, GRAVITY } from "../quantity/index.ts";
import { startingContents } from "../contents/index.ts";
import type { HydraulicElement, HydraulicNetwork, Liquid } from "../hydraulics/index.ts";
import {
  buildNetwork,
  type Cell,
  cellTold,
  inUseLineup,
  kindOfPart,
  layOut,
  type Lineup,
  liveOpenings,
  type Network,
  type Part,
  type WaterMap,
} from "../watermap/index.ts";
import {
  COMMON_FLOW_SETTINGS,
  type FlowSettings,
  mapHydraulics,
  type MapHydraulics,
  presses,
  wetCells,
} from "../flows/index.ts";

/**
 * The water side of a map as an EPANET input file (format of the EPANET 2.2 users manual, EPA/600/R-20/133, appendix C): the very
 * network that flows are worked out on. Metric units, litres a second, Darcy-Weisbach. What the format cannot say is told in the report.
 */

export interface InpFile {
  readonly text: string;
  /** What could not be carried, in words. */
  readonly report: readonly string[];
}

/** As flows are worked out, but a supply gives whatever is drawn: its pressure is a reservoir's head. */
export const INP_SETTINGS: FlowSettings = { ...COMMON_FLOW_SETTINGS, supplyMostM3PerS: Infinity };

// m2/s: what the format's relative viscosity is relative to, 1.1e-5 ft2/s (users manual, water at 20 °C).
const VISCOSITY_M2PERS = 1.1e-5 * FOOT_M ** 2;
/** The longest name that the format takes. */
export const MOST_ID = 31;

const fixed = (value: number, digits = 4): string => String(Number(value.toFixed(digits)));

// Length m, bore mm and roughness mm of the way to an opening.
const NEXT_TO = [0.01, 50, 0.0015];

interface Names {
  readonly of: (id: string) => string;
}

/** Short names that the format takes: no blanks, at most 31 characters, each once. */
const shortNames = (): Names => {
  const given = new Map<string, string>();
  const taken = new Set<string>();
  return {
    of: (id) => {
      const there = given.get(id);
      if (there) return there;
      const base = id.replaceAll(/[^A-Za-z0-9_.~-]/gu, ".").slice(0, MOST_ID);
      let name = base;
      for (let n = 2; taken.has(name); n++) name = `${base.slice(0, MOST_ID - 4)}~${n}`;
      taken.add(name);
      given.set(id, name);
      return name;
    },
  };
};

interface Section {
  readonly title: string;
  readonly head: string;
  readonly lines: string[];
}

interface Book {
  readonly section: (title: string) => string[];
  readonly text: (first: readonly string[], options: readonly string[]) => string;
}

const HEADS: Readonly<Record<string, string>> = {
  JUNCTIONS: ";id elevation demand",
  RESERVOIRS: ";id head",
  TANKS: ";id elevation level least most diameter volume",
  PIPES: ";id from to length diameter roughness loss status",
  PUMPS: ";id from to parameters",
  VALVES: ";id from to diameter type setting loss",
  EMITTERS: ";junction coefficient",
  STATUS: ";link status",
  CURVES: ";id flow head",
  COORDINATES: ";node x y",
};

const book = (): Book => {
  const sections: Section[] = Object.entries(HEADS).map(([title, head]) => ({
    title,
    head,
    lines: [],
  }));
  return {
    section: (title) => {
      const found = sections.find((s) => s.title === title);
      if (!found) throw new Error(`There is no section ${title}.`);
      return found.lines;
    },
    text: (first, options) =>
      [
        ...first,
        ...sections.flatMap((s) =>
          s.lines.length ? [`[${s.title}]`, s.head, ...s.lines, ""] : [],
        ),
        "[OPTIONS]",
        "UNITS LPS",
        "HEADLOSS D-W",
        "EMITTER EXPONENT 0.5",
        ...options,
        "TRIALS 200",
        "ACCURACY 0.000001",
        "",
        "[TIMES]",
        "DURATION 0",
        "",
        "[END]",
        "",
      ].join("\n"),
  };
};

const say = (part: Part): string => `${part.id} "${part.name.replaceAll('"', "'")}"`;

const toM = (pa: number, { densityKgM3 }: Liquid): number => pa / (densityKgM3 * GRAVITY);

/** Nodes of each piece that has none whose head is held: it cannot be solved. Its first that may be a reservoir, not right at a machine. */
const sourceless = ({ nodes, elements }: HydraulicNetwork): number[] => {
  const near = nodes.map<number[]>(() => []);
  const atMachines = new Set<number>();
  for (const e of elements) {
    near[e.from]?.push(e.to);
    near[e.to]?.push(e.from);
    if (e.kind !== "pipe") for (const n of [e.from, e.to]) atMachines.add(n);
  }
  const seen = new Set<number>();
  const spread = (start: number): void => {
    const todo = [start];
    seen.add(start);
    for (const at of todo)
      for (const next of near[at] ?? [])
        if (!seen.has(next)) {
          seen.add(next);
          todo.push(next);
        }
  };
  nodes.forEach((n, i) => n.fixedPa !== undefined && spread(i));
  const inOrder = nodes
    .map((_, i) => i)
    .toSorted((a, b) => Number(atMachines.has(a)) - Number(atMachines.has(b)) || a - b);
  return inOrder.filter((i) => {
    if (seen.has(i)) return false;
    spread(i);
    return true;
  });
};

interface Writing {
  readonly network: Network;
  readonly made: MapHydraulics;
  readonly pages: Book;
  readonly names: Names;
  readonly liquid: Liquid;
  readonly report: string[];
}

/** The cell that a node of the hydraulics stands for. */
const cellsOf = ({ made }: Writing): Map<number, number> =>
  new Map([...made.nodeOf].map(([cell, node]) => [node, cell]));

const nodeName = (
  { network, made, names }: Writing,
  cells: ReadonlyMap<number, number>,
  node: number,
): string => {
  const cell = cells.get(node);
  return names.of(
    cell === undefined ? (made.network.nodes[node]?.id ?? "") : cellTold(network, cell),
  );
};

const isTank = (cell: Cell | undefined): cell is Cell & { readonly part: Part } =>
  cell?.part !== undefined &&
  cell.form === "vessel" &&
  kindOfPart(cell.part).role.vessel === "fresh";

const writeNodes = (w: Writing, cells: ReadonlyMap<number, number>): void => {
  const { network, made, pages, names, liquid, report } = w;
  const laid = new Map(layOut(network.map).parts.map((p) => [p.id, p.at]));
  const lacking = new Set(sourceless(made.network));
  made.network.nodes.forEach((n, i) => {
    const cell = network.cells[cells.get(i) ?? -1];
    const id = nodeName(w, cells, i);
    const note = cell?.part ? `;${say(cell.part)}` : "";
    const at = laid.get(cell?.ownerId ?? "");
    if (at) pages.section("COORDINATES").push(`${id} ${at.x} ${-at.y}`);
    if (lacking.has(i))
      report.push(`${id} has no source: it stands as a reservoir at its own height.`);
    if (isTank(cell)) {
      const depth = Math.max(cell.topM - cell.bottomM, 0.01);
      const diameter = Math.sqrt((4 * cell.capacityM3) / (Math.PI * depth));
      const level = Math.min(depth, toM(n.fixedPa ?? 0, liquid));
      pages
        .section("TANKS")
        .push(
          `${id} ${fixed(n.heightM)} ${fixed(level)} 0 ${fixed(depth)} ${fixed(diameter, 5)} 0 ${note}`,
        );
    } else if (n.fixedPa !== undefined || lacking.has(i))
      pages
        .section("RESERVOIRS")
        .push(`${id} ${fixed(n.heightM + toM(n.fixedPa ?? 0, liquid))} ${note}`);
    else pages.section("JUNCTIONS").push(`${id} ${fixed(n.heightM)} 0 ${note}`);
  });
  // An opening is an emitter of its own, at its own height, behind a check: an emitter that is sucked at would give water.
  for (const o of made.network.outlets) {
    if (made.network.nodes[o.node]?.fixedPa !== undefined || lacking.has(o.node)) continue;
    const id = names.of(`at~${o.id}`);
    pages.section("JUNCTIONS").push(`${id} ${fixed(o.heightM)} 0`);
    const at = laid.get(network.cells[cells.get(o.node) ?? -1]?.ownerId ?? "");
    if (at) pages.section("COORDINATES").push(`${id} ${at.x} ${-at.y}`);
    pages
      .section("PIPES")
      .push(
        `${names.of(`to~${o.id}`)} ${nodeName(w, cells, o.node)} ${id} ${NEXT_TO.join(" ")} 0 CV`,
      );
    pages
      .section("EMITTERS")
      .push(`${id} ${fixed(o.coefficient * 1000 * Math.sqrt(liquid.densityKgM3 * GRAVITY), 7)}`);
  }
};

/** The line of a pipe, a pump or a regulator. */
const writeElement = (
  w: Writing,
  e: HydraulicElement,
  id: string,
  ends: string,
  note: string,
): void => {
  const { pages, names, liquid, report } = w;
  if (e.kind === "pump") {
    const curve = names.of(id.replace("pump~", "curve~"));
    // One point makes the parabola: four thirds of its head against a shut pipe, twice its flow against none.
    pages
      .section("CURVES")
      .push(
        `${curve} ${fixed((e.mostM3PerS * 1000) / 2, 6)} ${fixed(toM(e.shutOffPa, liquid) * 0.75)}`,
      );
    pages.section("PUMPS").push(`${names.of(id)} ${ends} HEAD ${curve} ${note}`);
    if (e.shut) pages.section("STATUS").push(`${names.of(id)} CLOSED`);
  } else if (e.kind === "regulator")
    pages
      .section("VALVES")
      .push(`${names.of(id)} ${ends} 12 PRV ${fixed(toM(e.setPa, liquid))} 0 ${note}`);
  else {
    const status = e.shut ? "CLOSED" : e.oneWay ? "CV" : "OPEN";
    if (status === "CV" && (e.crackPa ?? 0) > 0)
      report.push(
        `${id}: what its check takes to open (${fixed((e.crackPa ?? 0) / 1000, 1)} kPa) is not carried.`,
      );
    pages
      .section("PIPES")
      .push(
        `${names.of(id)} ${ends} ${fixed(e.lengthM)} ${fixed(e.boreM * 1000, 3)} ${fixed(e.roughnessM * 1000, 5)} ${fixed(e.lossK)} ${status} ${note}`,
      );
  }
};

const writeElements = (w: Writing, cells: ReadonlyMap<number, number>): void => {
  const { network, made } = w;
  const runs = new Map([...made.elementOf].map(([id, element]) => [element, id]));
  const inside = new Map([...made.insideOf].map(([link, element]) => [element, link]));
  made.network.elements.forEach((e, i) => {
    const ends = `${nodeName(w, cells, e.from)} ${nodeName(w, cells, e.to)}`;
    const run = network.map.runs.find((r) => r.id === runs.get(i));
    if (run) {
      writeElement(w, e, run.id, ends, `;${run.id} "${run.pipe}"`);
      if (run.sag) w.report.push(`${run.name ?? run.id}: its dip is not carried.`);
      return;
    }
    const link = inside.get(i) ?? -1;
    const part = network.cells[network.links[link]?.a ?? -1]?.part;
    if (!part) return;
    const id = {
      pump: `pump~${part.id}`,
      regulator: `prv~${part.id}`,
      pipe: `in~${part.id}~${link}`,
    }[e.kind];
    writeElement(w, e, id, ends, e.kind === "pipe" ? `;inside ${say(part)}` : `;${say(part)}`);
  });
};

/** What of the parts the format has no word for. */
const notCarried = ({ network, made }: Writing, isSupplied: boolean): string[] => {
  const wet = wetCells(network);
  const has = new Set([...wet].map((c) => network.cells[c]?.ownerId));
  const runsPump = new Set(made.network.elements.flatMap((e) => (e.kind === "pump" ? [e.id] : [])));
  return [
    ...network.map.parts.flatMap((part) => {
      const { role } = kindOfPart(part);
      if (!has.has(part.id)) return [];
      return [
        ...(role.pump
          ? [
              `${part.name}: its pressure switch is not carried, only its curve${runsPump.has(part.id) ? "" : "; it stands still, and is the checks in it"}.`,
            ]
          : []),
        ...(role.cushion
          ? [`${part.name}: an accumulator is a junction here, its air is not carried.`]
          : []),
        ...(role.vessel === "heater" ? [`${part.name}: its volume and heat are not carried.`] : []),
        ...(part.unknown ? [`${part.name}: that it is not known is not carried.`] : []),
      ];
    }),
    ...(isSupplied
      ? [
          "A supply gives whatever is drawn at its pressure here: how much a site tap can give is not carried.",
        ]
      : []),
    ...(network.map.runs.some((r) => r.service === "waste")
      ? ["The waste side is not carried: it has no pressure to solve."]
      : []),
  ];
};

/** Writes a map's water side, full as in use. @param lineup how the unit stands; in use where it is not said */
export const writeInp = (map: WaterMap, lineup?: Lineup): InpFile => {
  const network = buildNetwork(map);
  const situation = { network, lineup: lineup ?? inUseLineup(network), apart: [] };
  const made = mapHydraulics(situation, startingContents(network), INP_SETTINGS);
  const pages = book();
  const report: string[] = [];
  const { liquid } = made;
  const w: Writing = { network, made, pages, names: shortNames(), liquid, report };
  const cells = cellsOf(w);
  writeNodes(w, cells);
  writeElements(w, cells);
  report.push(
    ...notCarried(
      w,
      liveOpenings(situation).some((o) => presses(o, INP_SETTINGS)),
    ),
  );
  const title = [
    "[TITLE]",
    `Upper Shed water map ${map.id}: ${map.name.replaceAll(/[\r\n]/gu, " ")}`,
    "",
  ];
  // Heads are in metres of the liquid itself: its density cancels out.
  const options = [
    `VISCOSITY ${fixed(liquid.viscosityPaS / liquid.densityKgM3 / VISCOSITY_M2PERS, 5)}`,
  ];
  return { text: pages.text(title, options), report: [...new Set(report)] };
};
