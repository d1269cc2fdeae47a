import {
  END_LOSS_K,
  HOLE_COEFFICIENT,
  type HydraulicElement,
  type HydraulicNode,
  type HydraulicOutlet,
  INSIDE,
  type Liquid,
  ROUGHNESS_M,
  solveHydraulics,
  TAP_COEFFICIENT,
} from "../hydraulics/index.ts";
import { PIPE_SYSTEMS } from "../watermap/pipes.ts";
import { liveOpenings, type LiveOpening, passableLinks, type Situation } from "../watermap/situation.ts";
import { flowOrder } from "./move.ts";

/** Where liquid is forced: a pump that moves it across a link, or a source pushed in at a cell. */
export type Drive = { readonly kind: "pump"; readonly switchKey: string } | { readonly kind: "push"; readonly cell: number };

export interface Flow {
  /** Share of the driven flow through each link, positive from a to b. */
  readonly link: readonly number[];
  /** Share leaving at each live opening; negative where something comes in. */
  readonly opening: readonly { readonly at: LiveOpening; readonly share: number }[];
  /** Cells in the order in which liquid meets them. */
  readonly order: readonly number[];
}

export type FlowResult =
  | { readonly ok: true; readonly flow: Flow }
  | { readonly ok: false; readonly reason: "no way out" | "no way in" | "no pump" };

// A share below this is rounding, not flow.
const SHARE_FLOOR = 1e-6;
// How parallel ways share a flow depends on it a little: split at what a pump commonly gives, 6 L/min of cold water.
const COMMON_M3PERS = 1e-4;
const WATER: Liquid = { densityKgM3: 1000, viscosityPaS: 1.14e-3 };

interface Edge {
  readonly link: number;
  readonly a: number;
  readonly b: number;
  readonly oneWay: boolean;
}

/** Marks everything that lies on no way between forced and open places: a cell with one way, nothing forced and nothing open. */
const prune = (edges: readonly Edge[], near: readonly (readonly number[])[], dead: Uint8Array, keep: (cell: number) => boolean): void => {
  const degree = near.map((list) => list.reduce((n, i) => n + (dead[i] ? 0 : 1), 0));
  const ends = degree.flatMap((n, cell) => (n === 1 && !keep(cell) ? [cell] : []));
  for (let cell = ends.pop(); cell !== undefined; cell = ends.pop())
    for (const i of near[cell] ?? []) {
      if (dead[i]) continue;
      dead[i] = 1;
      const e = edges[i] as Edge;
      for (const c of [e.a, e.b]) {
        degree[c] = (degree[c] as number) - 1;
        if (degree[c] === 1 && !keep(c)) ends.push(c);
      }
    }
};

/** Cells joined to a start; towards an opening checks are passed only their own way, from one against it. */
const joined = (
  edges: readonly Edge[],
  near: readonly (readonly number[])[],
  dead: Uint8Array,
  start: number,
  onward: boolean,
): Set<number> => {
  const seen = new Set([start]);
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const i of near[at] ?? []) {
      const e = edges[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (dead[i] || seen.has(next) || (e.oneWay && (onward ? e.a !== at : e.b !== at))) continue;
      seen.add(next);
      todo.push(next);
    }
  return seen;
};

/**
 * How a unit of forced flow spreads over the open ways out, and where its supply comes from. Gravity is left out: what falls by
 * itself is another matter. A single way is followed; where ways part, the hydraulics say how they share.
 */
export const findFlow = (situation: Situation, drive: Drive): FlowResult => {
  const passable = passableLinks(situation);
  const openings = liveOpenings(situation);
  // A planner asks the same again and again: what moves where hangs on nothing but what is open and what drives.
  const key = `${passable.map(Number).join("")} ${openings.map((o) => o.id).join(" ")} ${drive.kind === "pump" ? drive.switchKey : drive.cell}`;
  const known = remembered.get(situation.network) ?? new Map<string, FlowResult>();
  const before = known.get(key);
  if (before) return before;
  if (known.size >= MOST_REMEMBERED) known.clear();
  const found = flowOf(situation, drive, passable, openings);
  known.set(key, found);
  remembered.set(situation.network, known);
  return found;
};

const MOST_REMEMBERED = 400;
const remembered = new WeakMap<Situation["network"], Map<string, FlowResult>>();

const flowOf = (situation: Situation, drive: Drive, passable: readonly boolean[], openings: readonly LiveOpening[]): FlowResult => {
  const { network } = situation;
  const injected = new Map<number, number>();
  const driven = drive.kind === "pump" ? network.links.findIndex((l, i) => l.drivenBy === drive.switchKey && passable[i]) : -1;
  if (drive.kind === "pump") {
    const link = network.links[driven];
    if (!link) return { ok: false, reason: "no pump" };
    injected.set(link.a, -1);
    injected.set(link.b, 1);
  } else injected.set(drive.cell, 1);

  const ground = new Set(openings.map((o) => o.cell));
  const edges: Edge[] = [];
  const near: number[][] = Array.from({ length: network.cells.length }, () => []);
  network.links.forEach(({ a, b, oneWay }, link) => {
    // A pump that does not run holds liquid back only against its check; pushed from its inlet it lets liquid through.
    if (!passable[link] || link === driven) return;
    near[a]?.push(edges.length);
    near[b]?.push(edges.length);
    edges.push({ link, a, b, oneWay });
  });
  const dead = new Uint8Array(edges.length);
  for (const [cell, q] of injected) {
    const there = joined(edges, near, dead, cell, q > 0);
    if (![...ground].some((g) => there.has(g))) return { ok: false, reason: q > 0 ? "no way out" : "no way in" };
  }
  prune(edges, near, dead, (cell) => injected.has(cell) || ground.has(cell));

  const link = network.links.map(() => 0);
  const share = openings.map(() => 0);
  if (driven >= 0) link[driven] = 1;
  const single = [...injected].every(([cell, q]) => followed(edges, near, dead, cell, q, injected, openings, link, share));
  if (!single) {
    link.fill(0);
    share.fill(0);
    if (driven >= 0) link[driven] = 1;
    if (!shared(situation, edges, near, dead, injected, openings, link, share)) return { ok: false, reason: "no way out" };
  }
  const opening = openings.map((at, i) => ({ at, share: share[i] as number }));
  const forced = new Map(drive.kind === "push" ? [[drive.cell, 1]] : []);
  return { ok: true, flow: { link, opening, order: flowOrder(network, { link, holes: opening, forced }) } };
};

/** Follows the only way from a forced place to an opening, if there is but one. */
const followed = (
  edges: readonly Edge[],
  near: readonly (readonly number[])[],
  dead: Uint8Array,
  start: number,
  q: number,
  injected: ReadonlyMap<number, number>,
  openings: readonly LiveOpening[],
  link: number[],
  share: number[],
): boolean => {
  let [at, by] = [start, -1];
  for (let steps = 0; steps <= edges.length; steps++) {
    const open = openings.flatMap((o, i) => (o.cell === at ? [i] : []));
    const onward = (near[at] ?? []).filter((i) => !dead[i] && i !== by);
    if (open.length > 1 || (open.length === 1 && onward.length > 0) || (at !== start && injected.has(at))) return false;
    if (open.length === 1) {
      share[open[0] as number] = (share[open[0] as number] as number) + q;
      return true;
    }
    const [only, another] = onward;
    if (only === undefined || another !== undefined) return false;
    const e = edges[only] as Edge;
    const outward = e.a === at ? q : -q;
    if (e.oneWay && outward < 0) return false;
    link[e.link] = (link[e.link] as number) + outward;
    at = e.a === at ? e.b : e.a;
    by = only;
  }
  return false;
};

/** Shares a unit of flow over ways that part, by the hydraulics of the pipes between. */
const shared = (
  { network }: Situation,
  edges: readonly Edge[],
  near: readonly (readonly number[])[],
  dead: Uint8Array,
  injected: ReadonlyMap<number, number>,
  openings: readonly LiveOpening[],
  link: number[],
  share: number[],
): boolean => {
  const alive = edges.flatMap((e, i) => (dead[i] ? [] : [e]));
  const cells = [...new Set([...injected.keys(), ...openings.map((o) => o.cell), ...alive.flatMap((e) => [e.a, e.b])])];
  const at = new Map(cells.map((cell, i) => [cell, i]));
  // Where liquid is drawn away, openings let air in: they stand at the air's pressure. So does a tank by its vent.
  const suction = new Set<number>();
  for (const [cell, q] of injected)
    if (q < 0) for (const c of joined(edges, near, dead, cell, false)) suction.add(c);
  const [fixed, outlets]: [Set<number>, HydraulicOutlet[]] = [new Set(), []];
  const outletOf = openings.map((o) => {
    if (o.use === "vent" || suction.has(o.cell)) {
      fixed.add(o.cell);
      return -1;
    }
    return (
      outlets.push({
        id: o.id,
        node: at.get(o.cell) as number,
        heightM: 0,
        coefficient: o.use === "outlet" ? TAP_COEFFICIENT : HOLE_COEFFICIENT,
        densityKgM3: WATER.densityKgM3,
      }) - 1
    );
  });
  const nodes = cells.map<HydraulicNode>((cell) => ({
    id: String(cell),
    heightM: 0,
    ...(fixed.has(cell) ? { fixedPa: 0 } : injected.has(cell) ? { drawM3PerS: -(injected.get(cell) as number) * COMMON_M3PERS } : {}),
  }));
  const elements = alive.map<HydraulicElement>((e) => {
    const run = network.cells[e.a]?.run ?? network.cells[e.b]?.run;
    const system = run && PIPE_SYSTEMS.get(run.pipe);
    // From a pipe's middle to its end, or through a part.
    const size = run && system ? { lengthM: run.lengthM / 2, boreM: system.boreM, lossK: END_LOSS_K + INSIDE.lossK / 2 } : INSIDE;
    return {
      id: String(e.link),
      kind: "pipe",
      from: at.get(e.a) as number,
      to: at.get(e.b) as number,
      ...size,
      roughnessM: ROUGHNESS_M,
      liquid: WATER,
      ...(e.oneWay ? { oneWay: true } : {}),
    };
  });
  const solved = solveHydraulics({ nodes, elements, outlets });
  if (!solved.ok) return false;
  const carried = alive.flatMap((e, i) => {
    const q = (solved.flowsM3PerS[i] ?? 0) / COMMON_M3PERS;
    return Math.abs(q) < SHARE_FLOOR ? [] : [{ ...e, q }];
  });
  const net = new Map(injected);
  for (const e of balance(carried, injected, (cell) => openings.some((o) => o.cell === cell))) {
    link[e.link] = e.q;
    net.set(e.a, (net.get(e.a) ?? 0) - e.q);
    net.set(e.b, (net.get(e.b) ?? 0) + e.q);
  }
  // The first opening of a cell gives and takes what keeps its balance; two on one cell share by their holes.
  const told = new Set<number>();
  openings.forEach((o, i) => {
    const n = outletOf[i] as number;
    const all = net.get(o.cell) ?? 0;
    if (Math.abs(all) < SHARE_FLOOR) return;
    if (n < 0) {
      if (!told.has(o.cell)) share[i] = all;
      told.add(o.cell);
      return;
    }
    const here = openings.flatMap((other, k) => (other.cell === o.cell && (outletOf[k] as number) >= 0 ? [solved.outM3PerS[outletOf[k] as number] ?? 0] : []));
    const sum = here.reduce((s, q) => s + q, 0);
    share[i] = fixed.has(o.cell) || sum <= 0 ? 0 : (all * (solved.outM3PerS[n] ?? 0)) / sum;
  });
  return true;
};

/**
 * Takes the last crumbs of an iteration out of flows: along a tree from the open cells what comes in is what goes on, exactly;
 * only ways that close a circle keep the flow that was found.
 */
const balance = (
  flows: readonly (Edge & { readonly q: number })[],
  injected: ReadonlyMap<number, number>,
  isOpen: (cell: number) => boolean,
): (Edge & { readonly q: number })[] => {
  const near = new Map<number, number[]>();
  flows.forEach((e, i) => {
    for (const c of [e.a, e.b]) near.set(c, [...(near.get(c) ?? []), i]);
  });
  const open = [...near.keys()].filter(isOpen);
  const parent = new Map<number, number>(open.map((c) => [c, -1]));
  const order = [...open];
  for (const at of order)
    for (const i of near.get(at) ?? []) {
      const e = flows[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (parent.has(next)) continue;
      parent.set(next, i);
      order.push(next);
    }
  const inTree = new Set(parent.values());
  const q = flows.map((e, i) => (inTree.has(i) ? 0 : e.q));
  const surplus = new Map(injected);
  flows.forEach((e, i) => {
    surplus.set(e.a, (surplus.get(e.a) ?? 0) - (q[i] as number));
    surplus.set(e.b, (surplus.get(e.b) ?? 0) + (q[i] as number));
  });
  for (const cell of order.toReversed()) {
    const i = parent.get(cell) ?? -1;
    const e = flows[i];
    if (!e) continue;
    const on = surplus.get(cell) ?? 0;
    q[i] = e.a === cell ? on : -on;
    const next = e.a === cell ? e.b : e.a;
    surplus.set(next, (surplus.get(next) ?? 0) + on);
  }
  return flows.map((e, i) => ({ ...e, q: q[i] as number }));
};
