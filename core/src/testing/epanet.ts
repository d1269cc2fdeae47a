import { GRAVITY } from "../quantity/index.ts";
import * as epanet from "epanet-js";
import { type HydraulicNetwork, type Liquid, solveHydraulics } from "../hydraulics/index.ts";

/** The EPANET 2.3 engine itself, by way of the package epanet-js, on networks of one liquid. */

const workspace = new epanet.Workspace();
const ready = workspace.loadModule();

export interface Reference {
  readonly flowsM3PerS: readonly number[];
  readonly outM3PerS: readonly number[];
  readonly pressuresPa: readonly number[];
}

/** How long the engine takes, ms each: with an open network, and with its matrix still to be set up. */
export interface EpanetTimes {
  readonly coldMs: readonly number[];
  /** From first flows of its own. */
  readonly solveMs: readonly number[];
  /** From the flows that it ended with. */
  readonly resolveMs: readonly number[];
}

const liquidOf = (network: HydraulicNetwork): Liquid =>
  network.elements[0]?.liquid ?? { densityKgM3: 1000, viscosityPaS: 1e-3 };

// Pressures of an EPANET file are metres of its liquid; its own gravity is 32.2 ft/s2, 0.08 % more than the standard.
const paPerM = (network: HydraulicNetwork): number => liquidOf(network).densityKgM3 * GRAVITY;

/**
 * The same network in the form that EPANET can take: outlets each at a node of their own height, nothing shut, and no piece
 * without a source.
 */
export const forReference = (network: HydraulicNetwork): HydraulicNetwork => {
  const liquid = liquidOf(network);
  const nodes = [...network.nodes];
  // Its check valves open at nothing: ours do the same where they are compared.
  const elements = network.elements
    .filter((e) => !("shut" in e && e.shut === true))
    .map((e) => (e.kind === "pipe" && e.crackPa ? { ...e, crackPa: 0 } : e));
  const outlets = network.outlets.map((o) => {
    const node = nodes.push({ id: `${o.id}:end`, heightM: o.heightM }) - 1;
    elements.push({
      id: `${o.id}:spout`,
      kind: "pipe",
      from: o.node,
      to: node,
      lengthM: 0.02,
      boreM: 0.012,
      roughnessM: 1.5e-6,
      lossK: 0,
      liquid,
    });
    return { ...o, node };
  });
  const solved = solveHydraulics({ nodes, elements, outlets });
  if (!solved.ok) throw new Error(solved.problem);
  const kept = nodes.flatMap((_, i) => (solved.pressuresPa[i] === undefined ? [] : [i]));
  const at = new Map(kept.map((i, n) => [i, n]));
  const moved = (i: number): number => at.get(i) ?? -1;
  return {
    nodes: kept.map((i) => nodes[i] as (typeof nodes)[number]),
    elements: elements
      .filter((e) => at.has(e.from) && at.has(e.to))
      .map((e) => ({ ...e, from: moved(e.from), to: moved(e.to) })),
    outlets: outlets.filter((o) => at.has(o.node)).map((o) => ({ ...o, node: moved(o.node) })),
  };
};

interface Quality {
  /** Node, always of fixed pressure, whose water carries the tracer. */
  readonly from: number;
  readonly seconds: number;
  /** Whole seconds. */
  readonly stepS: number;
}

const inpOf = (network: HydraulicNetwork, quality?: Quality): string => {
  const liquid = liquidOf(network);
  const metre = paPerM(network);
  const lines: Record<string, string[]> = {
    JUNCTIONS: [],
    RESERVOIRS: [],
    PIPES: [],
    PUMPS: [],
    CURVES: [],
    VALVES: [],
    EMITTERS: [],
  };
  network.nodes.forEach((n, i) => {
    if (n.fixedPa === undefined)
      lines["JUNCTIONS"]?.push(`n${i} ${n.heightM} ${(n.drawM3PerS ?? 0) * 1000}`);
    else lines["RESERVOIRS"]?.push(`n${i} ${n.heightM + n.fixedPa / metre}`);
  });
  network.elements.forEach((e, i) => {
    if (e.kind === "pipe") {
      const status = e.shut ? "CLOSED" : e.oneWay ? "CV" : "OPEN";
      lines["PIPES"]?.push(
        `e${i} n${e.from} n${e.to} ${e.lengthM} ${e.boreM * 1000} ${e.roughnessM * 1000} ${e.lossK} ${status}`,
      );
    } else if (e.kind === "pump") {
      // One point stands for a parabola: a third more head at no flow, none at twice the flow.
      lines["CURVES"]?.push(`c${i} ${e.mostM3PerS * 500} ${(0.75 * e.shutOffPa) / metre}`);
      lines["PUMPS"]?.push(`e${i} n${e.from} n${e.to} HEAD c${i}`);
    } else lines["VALVES"]?.push(`e${i} n${e.from} n${e.to} 20 PRV ${e.setPa / metre} 0`);
  });
  for (const o of network.outlets)
    lines["EMITTERS"]?.push(`n${o.node} ${o.coefficient * 1000 * Math.sqrt(metre)}`);
  const sections = Object.entries(lines).map(([title, rows]) => `[${title}]\n${rows.join("\n")}\n`);
  const viscosity = liquid.viscosityPaS / liquid.densityKgM3;
  return `${sections.join("\n")}
[OPTIONS]
UNITS LPS
HEADLOSS D-W
VISCOSITY ${viscosity.toFixed(12)}
EMITTER EXPONENT 0.5
BACKFLOW ALLOWED NO
TRIALS 1000
ACCURACY 0.00001
HEADERROR 0.00001
FLOWCHANGE 0.0000001
${quality ? `QUALITY Chemical mg/L\nDIFFUSIVITY 0\nTOLERANCE 0.0001\n[QUALITY]\nn${quality.from} 100` : ""}
[TIMES]
DURATION ${quality ? clock(quality.seconds) : 0}
${quality ? `HYDRAULIC TIMESTEP ${clock(quality.seconds)}\nQUALITY TIMESTEP ${clock(quality.stepS)}\nREPORT TIMESTEP ${clock(quality.seconds)}` : ""}
[END]
`;
};

const clock = (seconds: number): string =>
  [seconds / 3600, (seconds / 60) % 60, seconds % 60]
    .map((n) => String(Math.floor(n)).padStart(2, "0"))
    .join(":");

/**
 * Carries a tracer from a node through the network from the first second on, in EPANET's own transport.
 * @returns share of the source's strength at each outlet's node, at every step
 */
export const tracedInEpanet = async (
  network: HydraulicNetwork,
  quality: Quality,
): Promise<number[][]> => {
  await ready;
  workspace.writeFile("net.inp", inpOf(network, quality));
  const project = new epanet.Project(workspace);
  project.open("net.inp", "net.rpt", "net.bin");
  try {
    project.solveH();
    project.openQ();
    project.initQ(epanet.InitHydOption.NoSave);
    const at = network.outlets.map((o) => project.getNodeIndex(`n${o.node}`));
    const rows: number[][] = [];
    for (let left = 1; left > 0;) {
      project.runQ();
      rows.push(at.map((i) => project.getNodeValue(i, epanet.NodeProperty.Quality) / 100));
      left = project.stepQ();
    }
    project.closeQ();
    return rows;
  } finally {
    project.close();
  }
};

/** One stirred vessel with a pipe before and after it; a litre in lets a litre out. */
export interface Rinsed {
  readonly beforeM3: number;
  readonly vesselM3: number;
  readonly afterM3: number;
  /** Let through in all, and between two looks, m3. */
  readonly throughM3: number;
  readonly stepM3: number;
}

// EPANET counts whole seconds: volumes are taken so many times, and one step of volume lasts so long.
const RINSE_SCALE = 100;
const RINSE_STEP_S = 20;
const RINSE_BORE_M = 0.1;

/**
 * Clean water let through all of it, filled with a tracer before: EPANET's tank of complete mixing (users manual of 2.2, "MIXED").
 * @returns share of the tracer left in what comes, at the end of each step of volume
 */
export const rinsedInEpanet = async (asked: Rinsed): Promise<number[]> => {
  await ready;
  const scaled = (m3: number): number => m3 * RINSE_SCALE;
  const lps = (scaled(asked.stepM3) * 1000) / RINSE_STEP_S;
  const pipe = (m3: number): string =>
    `${(scaled(m3) / ((Math.PI / 4) * RINSE_BORE_M ** 2)).toFixed(6)} ${RINSE_BORE_M * 1000} 0.01 0 OPEN`;
  const steps = Math.ceil(asked.throughM3 / asked.stepM3);
  const metres = Math.sqrt((4 * scaled(asked.vesselM3)) / Math.PI);
  workspace.writeFile(
    "rinse.inp",
    `[JUNCTIONS]
in 0 ${-lps}
out 0 ${lps}
[TANKS]
vessel 0 1 0 2 ${metres.toFixed(8)} 0
[MIXING]
vessel MIXED
[PIPES]
p1 in vessel ${pipe(asked.beforeM3)}
p2 vessel out ${pipe(asked.afterM3)}
[OPTIONS]
UNITS LPS
HEADLOSS D-W
QUALITY Chemical mg/L
DIFFUSIVITY 0
TOLERANCE 0.0001
[QUALITY]
vessel 100
out 100
[TIMES]
DURATION ${clock((steps + 1) * RINSE_STEP_S)}
HYDRAULIC TIMESTEP ${clock(RINSE_STEP_S)}
QUALITY TIMESTEP 0:00:01
REPORT TIMESTEP ${clock(RINSE_STEP_S)}
[END]
`,
  );
  const project = new epanet.Project(workspace);
  project.open("rinse.inp", "rinse.rpt", "rinse.bin");
  try {
    project.solveH();
    project.openQ();
    project.initQ(epanet.InitHydOption.NoSave);
    const at = project.getNodeIndex("out");
    const shares: number[] = [];
    let now = 0;
    for (let left = 1; left > 0;) {
      now = project.runQ();
      const value = project.getNodeValue(at, epanet.NodeProperty.Quality) / 100;
      if (now > 0 && now % RINSE_STEP_S === 0) shares.push(value);
      left = project.stepQ();
    }
    project.closeQ();
    return shares.slice(0, steps);
  } finally {
    project.close();
  }
};

const timed = (work: () => void): number => {
  const before = performance.now();
  work();
  return performance.now() - before;
};

// First flows of its own: the engine's flag 10, users manual of its toolkit (EN_INITFLOW).
const FROM_FIRST_FLOWS = epanet.InitHydOption.InitFlow;

/** Times the engine on one network; reading the file and its warnings' way to the console are not counted. */
export const timesInEpanet = async (
  network: HydraulicNetwork,
  rounds: number,
): Promise<EpanetTimes> => {
  await ready;
  const { warn } = console;
  console.warn = () => undefined;
  workspace.writeFile("net.inp", inpOf(network));
  const project = new epanet.Project(workspace);
  project.open("net.inp", "net.rpt", "net.bin");
  const run = (how: epanet.InitHydOption): void => {
    project.initH(how);
    project.runH();
  };
  try {
    const coldMs = Array.from({ length: rounds }, () => {
      const ms = timed(() => (project.openH(), run(FROM_FIRST_FLOWS)));
      project.closeH();
      return ms;
    });
    project.openH();
    const solveMs = Array.from({ length: rounds }, () => timed(() => run(FROM_FIRST_FLOWS)));
    const resolveMs = Array.from({ length: rounds }, () =>
      timed(() => run(epanet.InitHydOption.NoSave)),
    );
    project.closeH();
    return { coldMs, solveMs, resolveMs };
  } finally {
    project.close();
    console.warn = warn;
  }
};

/** Solves in EPANET; throws what that engine says where it cannot. Outlets stand at the height of their node, one to a node. */
export const inEpanet = async (network: HydraulicNetwork): Promise<Reference> => {
  await ready;
  workspace.writeFile("net.inp", inpOf(network));
  const project = new epanet.Project(workspace);
  project.open("net.inp", "net.rpt", "net.bin");
  try {
    project.openH();
    project.initH(epanet.InitHydOption.NoSave);
    project.runH();
    const link = (i: number): number =>
      project.getLinkValue(project.getLinkIndex(`e${i}`), epanet.LinkProperty.Flow) / 1000;
    const node = (i: number, what: epanet.NodeProperty): number =>
      project.getNodeValue(project.getNodeIndex(`n${i}`), what);
    return {
      flowsM3PerS: network.elements.map((_, i) => link(i)),
      pressuresPa: network.nodes.map(
        (n, i) => (node(i, epanet.NodeProperty.Head) - n.heightM) * paPerM(network),
      ),
      outM3PerS: network.outlets.map(
        (o) =>
          (node(o.node, epanet.NodeProperty.Demand) -
            (network.nodes[o.node]?.drawM3PerS ?? 0) * 1000) /
          1000,
      ),
    };
  } finally {
    project.close();
  }
};
