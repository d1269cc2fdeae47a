import type { Edge, Graph, Hole } from "./graph.ts";

/** A unit in the checker's hands: at most so much liquid in each node, at least so strong. */
export interface Unit {
  lineup: Record<string, string>;
  /** Undone ends, "run end"; and those with a jug's hose on the part's side. */
  readonly apart: Set<string>;
  readonly jugs: Set<string>;
  /** Most liquid that a node may hold, m3. */
  readonly wetM3: number[];
  /** Least strength of it. */
  readonly strength: number[];
  readonly facts: Set<string>;
  /** What stands open, and which edges let anything pass; made anew whenever something is turned or undone. */
  live: readonly Hole[];
  liveAt: ReadonlyMap<number, readonly Hole[]>;
  /** Something was turned since: to be made anew before it is looked at. */
  isStale: boolean;
  open: Uint8Array;
  /** How an unknown part is read: as if it were not there, as shut for good, or as stuck. */
  readonly reading: Reading;
}

export interface Reading {
  readonly through: ReadonlySet<string>;
  readonly blocked: ReadonlySet<string>;
  readonly stuck: Readonly<Record<string, string>>;
}

export const AS_DRAWN: Reading = { through: new Set(), blocked: new Set(), stuck: {} };

export const unitOf = (
  graph: Graph,
  lineup: Readonly<Record<string, string>>,
  reading: Reading = AS_DRAWN,
): Unit => {
  const unit: Unit = {
    lineup: { ...graph.inUse, ...lineup, ...reading.stuck },
    apart: new Set(),
    jugs: new Set(),
    wetM3: graph.nodes.map((n) => n.capM3 * n.inUse),
    strength: graph.nodes.map(() => 0),
    facts: new Set(),
    live: [],
    liveAt: new Map(),
    isStale: true,
    open: new Uint8Array(graph.edges.length),
    reading,
  };
  refresh(graph, unit);
  return unit;
};

const gateOf = (unit: Unit, gate: Edge["gate"]): boolean =>
  !gate || gate.in.includes(unit.lineup[gate.key] ?? "");

const NO_HOLES: readonly Hole[] = [];
export const holesAt = (unit: Unit, node: number): readonly Hole[] =>
  unit.liveAt.get(node) ?? NO_HOLES;

/** Whether an edge lets anything pass as the unit stands, by how the map is read. */
export const refresh = (graph: Graph, unit: Unit): void => {
  if (!unit.isStale) return;
  unit.isStale = false;
  unit.live = liveHoles(graph, unit);
  const liveAt = new Map<number, Hole[]>();
  for (const hole of unit.live) {
    const there = liveAt.get(hole.node);
    if (there) there.push(hole);
    else liveAt.set(hole.node, [hole]);
  }
  unit.liveAt = liveAt;
  graph.edges.forEach((e, i) => (unit.open[i] = isOpen(unit, e) ? 1 : 0));
};

const isOpen = (unit: Unit, e: Edge): boolean => {
  const { blocked, through } = unit.reading;
  if (e.end !== undefined && unit.apart.has(e.end)) return false;
  if (e.owner !== undefined && blocked.has(e.owner)) return false;
  if (e.joins !== undefined && blocked.has(e.joins)) return false;
  return (e.owner !== undefined && through.has(e.owner)) || gateOf(unit, e.gate);
};

/** Whether an edge holds back what comes against it. */
export const isOneWay = (unit: Unit, e: Edge): boolean =>
  e.oneWay && !(e.part !== undefined && unit.reading.through.has(e.part));

export const crackOf = (unit: Unit, e: Edge): number => (isOneWay(unit, e) ? e.crackM : 0);

const liveHoles = (graph: Graph, unit: Unit): Hole[] => {
  const standing = graph.holes.filter((h) => gateOf(unit, h.gate));
  if (unit.apart.size === 0) return standing;
  const undone = graph.edges.flatMap<Hole>((e) => {
    if (e.end === undefined || !unit.apart.has(e.end)) return [];
    const both = { heightM: e.heightM, pressed: false, airOnly: false, part: "" };
    const pipe: Hole = { ...both, id: `${e.end} pipe`, node: e.a, use: "bowl" };
    if (!gateOf(unit, e.gate)) return [pipe];
    return [
      pipe,
      { ...both, id: `${e.end} part`, node: e.b, use: unit.jugs.has(e.end) ? "pickup" : "bowl" },
    ];
  });
  return [...standing, ...undone];
};
