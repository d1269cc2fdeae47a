import { PA_PER_M } from "../quantity/index.ts";
import {
  buildNetwork,
  cellTold,
  gateOpen,
  inUseLineup,
  kindOfPart,
  layOut,
  type Lineup,
  linkOpen,
  type Part,
  PIPE_SYSTEMS,
  type WaterMap,
  pipeCellId,
} from "../watermap/index.ts";
import { wetCells } from "../flows/index.ts";

/**
 * The water side of a map as an EPANET input file (format of the EPANET 2.2 users manual, EPA/600/R-20/133, appendix C).
 * Metric units, litres a second, Darcy-Weisbach. What the format cannot say is told in the report.
 */

export interface InpFile {
  readonly text: string;
  /** What could not be carried, in words. */
  readonly report: readonly string[];
}

// Roughness of plastic pipe 1.5 µm (Darcy-Weisbach, in mm); common textbook value, from memory.
const ROUGHNESS_MM = 0.0015;
// Site pressure where a supply inlet is connected: 40 psi, a regulator's common setting (common practice, no source).
const SUPPLY_HEAD_M = 28;
// Flow of an open tap at one metre of head: 6 L/min at 20 m (our own estimate), emitter exponent 0.5.
const EMITTER_LPS = 0.1 / Math.sqrt(20);
const MOST_ID = 31;

const fixed = (value: number, digits = 4): string => String(Number(value.toFixed(digits)));

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
  readonly text: (first: readonly string[]) => string;
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
  const sections: Section[] = Object.entries(HEADS).map(([title, head]) => ({ title, head, lines: [] }));
  return {
    section: (title) => {
      const found = sections.find((s) => s.title === title);
      if (!found) throw new Error(`There is no section ${title}.`);
      return found.lines;
    },
    text: (first) =>
      [
        ...first,
        ...sections.flatMap((s) => (s.lines.length ? [`[${s.title}]`, s.head, ...s.lines, ""] : [])),
        "[OPTIONS]",
        "UNITS LPS",
        "HEADLOSS D-W",
        "EMITTER EXPONENT 0.5",
        "TRIALS 200",
        "ACCURACY 0.0001",
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

const pumpCurve = ({ shutOffPa, mostM3PerS }: { shutOffPa: number; mostM3PerS: number }): [number, number][] => [
  [(mostM3PerS * 1000) / 2, (shutOffPa / PA_PER_M) * 0.75],
];

/** A piece without tank or reservoir cannot be solved: its first node stands as a reservoir at its own height, as if open to the air. */
const giveSources = (pages: Book): string[] => {
  const words = (line: string): string[] => line.split(/\s+/u);
  const near = new Map<string, string[]>();
  for (const title of ["PIPES", "PUMPS", "VALVES"])
    for (const line of pages.section(title)) {
      const [, from = "", to = ""] = words(line);
      near.set(from, [...(near.get(from) ?? []), to]);
      near.set(to, [...(near.get(to) ?? []), from]);
    }
  const sources = ["TANKS", "RESERVOIRS"].flatMap((title) => pages.section(title).map((line) => words(line)[0] ?? ""));
  const seen = new Set<string>();
  const spread = (start: string): void => {
    const todo = [start];
    seen.add(start);
    for (let at = todo.pop(); at !== undefined; at = todo.pop())
      for (const next of near.get(at) ?? [])
        if (!seen.has(next)) {
          seen.add(next);
          todo.push(next);
        }
  };
  for (const source of sources) spread(source);
  const report: string[] = [];
  const junctions = pages.section("JUNCTIONS");
  // A reservoir may not stand right at a valve or pump.
  const atMachines = new Set(["PUMPS", "VALVES"].flatMap((title) => pages.section(title).flatMap((line) => words(line).slice(1, 3))));
  const inOrder = [...junctions].toSorted((a, b) => Number(atMachines.has(words(a)[0] ?? "")) - Number(atMachines.has(words(b)[0] ?? "")));
  for (const line of inOrder) {
    const [id = "", elevation = "0"] = words(line);
    if (seen.has(id)) continue;
    spread(id);
    junctions.splice(junctions.indexOf(line), 1);
    pages.section("RESERVOIRS").push(`${id} ${elevation} ${line.slice(line.indexOf(";"))}`);
    report.push(`${id} has no source: it stands as a reservoir at its own height.`);
  }
  return report;
};

/** Writes a map's water side. @param lineup how the unit stands; in use where it is not said */
export const writeInp = (map: WaterMap, lineup?: Lineup): InpFile => {
  const network = buildNetwork(map);
  const stands = lineup ?? inUseLineup(network);
  const names = shortNames();
  const pages = book();
  const report: string[] = [];
  const wet = wetCells(network);
  const laid = new Map(layOut(map).parts.map((p) => [p.id, p.at]));
  const vesselNode = (cell: number): "tank" | "supply" | "raw" | "junction" => {
    const part = network.cells[cell]?.part;
    if (part && network.cells[cell]?.form === "vessel" && kindOfPart(part).role.vessel === "fresh") return "tank";
    const opening = network.openings.find((o) => o.cell === cell && (o.use === "supply" || o.use === "raw" || o.use === "flush"));
    if (!opening) return "junction";
    if (opening.use === "raw") return "raw";
    return !opening.gate || gateOpen(opening.gate, stands) ? "supply" : "junction";
  };
  const nodeOf = (cell: number): string => names.of(cellTold(network, cell));

  for (const cell of [...wet].toSorted((a, b) => a - b)) {
    const c = network.cells[cell];
    const part = c?.part;
    if (!c || !part) continue;
    const note = `;${say(part)}`;
    const id = nodeOf(cell);
    switch (vesselNode(cell)) {
      case "tank": {
        const depth = Math.max(c.topM - c.bottomM, 0.01);
        const diameter = Math.sqrt((4 * c.capacityM3) / (Math.PI * depth));
        pages
          .section("TANKS")
          .push(
            `${id} ${fixed(c.bottomM)} ${fixed(depth * Math.max(c.inUseFraction, 0.05))} 0 ${fixed(depth)} ${fixed(diameter, 5)} 0 ${note}`,
          );
        break;
      }
      case "supply":
        pages.section("RESERVOIRS").push(`${id} ${fixed(c.bottomM + SUPPLY_HEAD_M)} ${note}`);
        break;
      case "raw":
        pages.section("RESERVOIRS").push(`${id} ${fixed(c.bottomM + 0.5)} ${note}`);
        break;
      default:
        pages.section("JUNCTIONS").push(`${id} ${fixed(c.bottomM)} 0 ${note}`);
        if (
          network.openings.some(
            (o) => o.cell === cell && o.use !== "vent" && o.use !== "pickup" && o.use !== "fill" && gateOpen(o.gate, stands),
          )
        )
          pages.section("EMITTERS").push(`${id} ${fixed(EMITTER_LPS, 6)}`);
    }
    const at = laid.get(part.id);
    if (at) pages.section("COORDINATES").push(`${id} ${at.x} ${-at.y}`);
  }

  for (const part of map.parts) {
    const cell = network.cells.findIndex((c) => c.ownerId === part.id);
    if (cell < 0 || !wet.has(cell)) continue;
    const { role } = kindOfPart(part);
    if (role.pump) report.push(`${part.name}: its pressure switch is not carried, only its curve.`);
    if (role.cushion) report.push(`${part.name}: an accumulator is a junction here, its air is not carried.`);
    if (role.vessel === "heater") report.push(`${part.name}: its volume and heat are not carried.`);
    if (part.unknown) report.push(`${part.name}: that it is not known is not carried.`);
  }

  for (const run of [...map.runs].toSorted((a, b) => (a.id < b.id ? -1 : 1))) {
    const index = network.cellIndex.get(pipeCellId(run.id));
    const system = PIPE_SYSTEMS.get(run.pipe);
    if (run.service === "waste" || index === undefined || !system) continue;
    const ends = (network.linksOf[index] ?? []).map((l) => network.links[l]);
    const [from = -1, to = -1] = ends.map((link) => (link ? (link.a === index ? link.b : link.a) : -1));
    const status = ends.every((link) => link && linkOpen(link, stands)) ? "OPEN" : "CLOSED";
    pages
      .section("PIPES")
      .push(
        `${names.of(run.id)} ${nodeOf(from)} ${nodeOf(to)} ${fixed(run.lengthM)} ${fixed(system.boreM * 1000, 3)} ${ROUGHNESS_MM} 0 ${status} ;${run.id} "${run.pipe}"`,
      );
    if (run.sag) report.push(`${run.name ?? run.id}: its dip is not carried.`);
  }

  // Pumps, regulators, and the ways inside a part as short pieces of pipe.
  network.links.forEach((link, i) => {
    const [a, b] = [network.cells[link.a], network.cells[link.b]];
    if (!a?.part || !b?.part || !wet.has(link.a) || !wet.has(link.b)) return;
    const ends = `${nodeOf(link.a)} ${nodeOf(link.b)}`;
    if (link.drives && link.drivenBy) {
      const curve = names.of(`curve~${a.ownerId}`);
      for (const [flow, head] of pumpCurve(link.drives)) pages.section("CURVES").push(`${curve} ${fixed(flow)} ${fixed(head)}`);
      const id = names.of(`pump~${a.ownerId}`);
      pages.section("PUMPS").push(`${id} ${ends} HEAD ${curve} ;${say(a.part)}`);
      if (stands[link.drivenBy] !== "on") pages.section("STATUS").push(`${id} CLOSED`);
      return;
    }
    if (link.regulatesPa !== undefined) {
      pages
        .section("VALVES")
        .push(`${names.of(`prv~${a.ownerId}`)} ${ends} 12 PRV ${fixed(link.regulatesPa / PA_PER_M)} 0 ;${say(a.part)}`);
      return;
    }
    const status = linkOpen(link, stands) ? (link.oneWay ? "CV" : "OPEN") : "CLOSED";
    pages.section("PIPES").push(`${names.of(`in~${a.ownerId}~${i}`)} ${ends} 0.05 10 ${ROUGHNESS_MM} 0 ${status} ;inside ${say(a.part)}`);
  });

  report.push(...giveSources(pages));

  if (map.runs.some((r) => r.service === "waste")) report.push("The waste side is not carried: it has no pressure to solve.");
  const title = ["[TITLE]", `Upper Shed water map ${map.id}: ${map.name.replaceAll(/[\r\n]/gu, " ")}`, ""];
  return { text: pages.text(title), report: [...new Set(report)] };
};
