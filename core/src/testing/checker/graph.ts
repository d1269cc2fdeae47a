import {
  PART_KINDS,
  PIPE_SYSTEMS,
  type Part,
  type PipeRun,
  type WaterMap,
  paramsOf,
} from "../../watermap/index.ts";

/**
 * The checker's own view of a map, made from the map and the kinds as data and from nothing that the engine uses: nodes that hold
 * liquid, edges between them, openings. It is slow and simple on purpose.
 */

export interface Node {
  readonly id: string;
  readonly owner: string;
  readonly capM3: number;
  readonly bottomM: number;
  readonly topM: number;
  readonly drained: number;
  /** What clings to it when it is tipped out, where that is more than a film. */
  readonly tipped?: number;
  readonly swept: number;
  readonly sagM3: number;
  readonly sagBottomM: number;
  readonly allowed: number;
  readonly noIce: boolean;
  readonly isVessel: boolean;
  readonly isTrap: boolean;
  /** A waste pipe without a dip, or a joint in one: keeps a film. */
  readonly falls: boolean;
  readonly isRun: boolean;
  readonly vessel?: "fresh" | "heater" | "waste";
  readonly heats: boolean;
  readonly service?: string;
  readonly ashore: boolean;
  /** Air behind a bladder presses its water out. */
  readonly cushion: boolean;
  inUse: number;
  readonly resistance: number;
  readonly filler: boolean;
}

export interface Edge {
  readonly a: number;
  readonly b: number;
  readonly heightM: number;
  /** Control and the positions in which it is open. */
  readonly gate?: { readonly key: string; readonly in: readonly string[] };
  /** Passes only from a to b. */
  readonly oneWay: boolean;
  readonly crackM: number;
  /** Switch of the pump in it, which drives from a to b. */
  readonly pump?: string;
  /** The run's end that can be undone here: "run end". */
  readonly end?: string;
  readonly part?: string;
  /** Of a pipe's end: the part that it joins. */
  readonly joins?: string;
  /** The part that it belongs to, or whose handle shuts it. */
  readonly owner: string | undefined;
}

export interface Hole {
  readonly id: string;
  readonly node: number;
  readonly heightM: number;
  readonly use: string;
  readonly part: string;
  readonly gate?: { readonly key: string; readonly in: readonly string[] };
  readonly pressed: boolean;
  readonly airOnly: boolean;
}

export interface Graph {
  readonly map: WaterMap;
  readonly nodes: readonly Node[];
  readonly edges: readonly Edge[];
  readonly holes: readonly Hole[];
  readonly at: ReadonlyMap<string, number>;
  readonly near: readonly (readonly number[])[];
  readonly inUse: Readonly<Record<string, string>>;
  /** Parts by id, for what is said of them. */
  readonly parts: ReadonlyMap<string, Part>;
}

const PA_PER_M = 9806.65;
const key = (part: string, control: string): string =>
  control === "main" ? part : `${part}:${control}`;

interface Port {
  readonly node: number;
  readonly heightM: number;
  readonly gate?: Edge["gate"];
}

/** A map's graph while it is made. */
interface Making {
  readonly nodes: Node[];
  readonly edges: Omit<Edge, "owner">[];
  readonly holes: Hole[];
  readonly inUse: Record<string, string>;
  readonly ports: Map<string, Port>;
}

/** Joints that only waste pipes meet in. */
const wasteJoints = (map: WaterMap): ReadonlySet<string> =>
  new Set(
    map.parts.flatMap((p) => {
      const runs = map.runs.filter((r) => r.from.part === p.id || r.to.part === p.id);
      return runs.length > 0 &&
        runs.every((r) => r.service === "waste") &&
        PART_KINDS.get(p.kind)?.role.joint
        ? [p.id]
        : [];
    }),
  );

const addPart = (making: Making, part: Part, falls: boolean): void => {
  const { nodes, edges, holes, inUse, ports } = making;
  const kind = PART_KINDS.get(part.kind);
  if (!kind) throw new Error(part.kind);
  const anatomy = kind.anatomy(paramsOf(part));
  for (const c of kind.controls) inUse[key(part.id, c.name)] = c.inUse;
  const gateOf = (g?: { control: string; in: readonly string[] }): { gate?: Edge["gate"] } =>
    g ? { gate: { key: key(part.id, g.control), in: g.in } } : {};
  const blank = {
    owner: part.id,
    sagM3: 0,
    sagBottomM: 0,
    isRun: false,
    heats: kind.role.energies !== undefined,
    ashore: kind.role.ashore === true,
    cushion: kind.role.cushion === true,
    resistance: 0.5 / 0.012 ** 4,
    filler: false,
    ...(kind.role.vessel ? { vessel: kind.role.vessel } : {}),
  };
  const own = new Map<string, number>();
  for (const c of anatomy.cells) {
    const node = nodes.push({
      ...blank,
      id: `${part.id}:${c.name}`,
      capM3: c.volumeM3,
      bottomM: part.heightM + c.bottomM,
      topM: part.heightM + c.topM,
      drained: c.drainRemainder,
      ...(c.tippedRemainder === undefined ? {} : { tipped: c.tippedRemainder }),
      swept: c.sweepRemainder,
      allowed: c.allowedRemainder ?? (c.form === "trap" ? 0 : 1 / 1.1),
      noIce: c.frostBasis === "no-ice",
      isVessel: c.form === "vessel",
      isTrap: c.form === "trap",
      falls,
      inUse: falls ? 0 : c.inUseFraction,
    });
    own.set(c.name, node - 1);
  }
  for (const p of anatomy.ports) {
    const heightM = part.heightM + p.heightM;
    let node = own.get(p.cell) ?? -1;
    if (p.check || p.drives || p.regulatesPa !== undefined) {
      const inner = node;
      node = nodes.push({ ...blank, ...neckAt(heightM), id: `${part.id}:${p.name}-neck` }) - 1;
      const [a, b] = p.check === "out" ? [inner, node] : [node, inner];
      edges.push({
        a,
        b,
        heightM,
        oneWay: p.check !== undefined,
        crackM: (p.crackPa ?? 0) / PA_PER_M,
        part: part.id,
        ...(p.drives ? { pump: key(part.id, p.drives.control) } : {}),
      });
    }
    ports.set(`${part.id}.${p.name}`, { node, heightM, ...gateOf(p.gate) });
  }
  for (const l of anatomy.links)
    edges.push({
      a: own.get(l.from) ?? -1,
      b: own.get(l.to) ?? -1,
      heightM: part.heightM + l.heightM,
      oneWay: l.check === true,
      crackM: (l.crackPa ?? 0) / PA_PER_M,
      part: part.id,
      ...gateOf(l.gate),
    });
  for (const o of anatomy.openings)
    holes.push({
      id: `${part.id}:${o.name}`,
      node: own.get(o.cell) ?? -1,
      heightM: part.heightM + o.heightM,
      use: o.use,
      part: part.id,
      pressed: o.pressed === true,
      airOnly: o.airOnly === true,
      ...gateOf(o.gate),
    });
};

/** A way without room of its own, where a check, a pump or a regulator sits in a port. */
const neckAt = (heightM: number) => ({
  capM3: 0,
  bottomM: heightM,
  topM: heightM,
  drained: 0,
  swept: 0,
  allowed: 1,
  noIce: false,
  isVessel: false,
  isTrap: false,
  falls: false,
  inUse: 0,
});

const addRun = (
  { nodes, edges, ports }: Making,
  run: PipeRun,
  fillers: ReadonlySet<string>,
): void => {
  const bore = PIPE_SYSTEMS.get(run.pipe)?.boreM ?? 0.012;
  const area = (Math.PI / 4) * bore * bore;
  const [from, to] = [
    ports.get(`${run.from.part}.${run.from.port}`),
    ports.get(`${run.to.part}.${run.to.port}`),
  ];
  if (!from || !to) throw new Error(run.id);
  const sag = run.sag ? Math.min(run.sag.lengthM, run.lengthM) * area : 0;
  const low = Math.min(from.heightM, to.heightM);
  const waste = run.service === "waste";
  const me =
    nodes.push({
      id: `run ${run.id}`,
      owner: run.id,
      capM3: area * run.lengthM,
      bottomM: low,
      topM: Math.max(from.heightM, to.heightM),
      drained: 0.03,
      swept: 0.02,
      sagM3: sag,
      sagBottomM: low - (run.sag?.depthM ?? 0),
      allowed: 1 / 1.1,
      noIce: false,
      isVessel: false,
      isTrap: false,
      falls: waste && sag === 0,
      isRun: true,
      heats: false,
      service: run.service,
      ashore: false,
      cushion: false,
      inUse: waste ? sag / (area * run.lengthM) : 1,
      resistance: run.lengthM / bore ** 4,
      filler: fillers.has(run.from.part) || fillers.has(run.to.part),
    }) - 1;
  for (const [port, end] of [
    [from, "from"],
    [to, "to"],
  ] as const)
    edges.push({
      a: me,
      b: port.node,
      heightM: port.heightM,
      oneWay: false,
      crackM: 0,
      end: `${run.id} ${end}`,
      joins: (end === "from" ? run.from : run.to).part,
      ...(port.gate ? { gate: port.gate } : {}),
    });
};

export const graphOf = (map: WaterMap): Graph => {
  const making: Making = { nodes: [], edges: [], holes: [], inUse: {}, ports: new Map() };
  const { nodes, edges, holes, inUse } = making;
  const falling = wasteJoints(map);
  for (const part of map.parts) addPart(making, part, falling.has(part.id));
  const fillers = new Set(holes.filter((h) => h.use === "fill").map((h) => h.part));
  for (const run of map.runs) addRun(making, run, fillers);
  const near: number[][] = nodes.map(() => []);
  edges.forEach((e, i) => {
    near[e.a]?.push(i);
    near[e.b]?.push(i);
  });
  const graph: Graph = {
    map,
    nodes,
    edges: edges.map((e) => ({ ...e, owner: e.part ?? e.gate?.key.split(":")[0] })),
    holes,
    at: new Map(nodes.map((n, i) => [n.id, i])),
    near,
    inUse: { ...inUse, ...map.lineup },
    parts: new Map(map.parts.map((p) => [p.id, p])),
  };
  dryFills(graph);
  return graph;
};

/** A fill line that no supply and no pump ever presses runs down by itself, and so does a filler's own hose. */
const dryFills = ({ nodes, edges, holes, near }: Graph): void => {
  const seen = new Set<number>();
  const todo = [
    ...holes.filter((h) => h.use === "supply").map((h) => h.node),
    ...edges.filter((e) => e.pump).map((e) => e.b),
  ];
  for (let at = todo.pop(); at !== undefined; at = todo.pop()) {
    if (seen.has(at)) continue;
    seen.add(at);
    if (nodes[at]?.isVessel) continue;
    for (const i of near[at] ?? []) {
      const e = edges[i] as Edge;
      if (!e.pump) todo.push(e.a === at ? e.b : e.a);
    }
  }
  nodes.forEach((n, i) => {
    if (n.service === "fill" && (!seen.has(i) || n.filler)) n.inUse = 0;
  });
};
