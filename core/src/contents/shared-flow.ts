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
import type { LiveOpening, Situation } from "../watermap/situation.ts";
import { type Edge, joined, mayGo, numbered, type Ways } from "./flow-ways.ts";

/** How ways that part share a flow, by the hydraulics of the pipes between. */

// A share below this is what a shut check lets by in the reckoning, or rounding; not flow.
const SHARE_FLOOR = 5e-5;
// How parallel ways share a flow depends on it a little: split at what a pump commonly gives, 6 L/min of cold water.
const COMMON_M3PERS = 1e-4;
const WATER: Liquid = { densityKgM3: 1000, viscosityPaS: 1.14e-3 };

export interface Shares {
  readonly link: Float64Array;
  readonly opening: Float64Array;
}

/** What is forced in where no way leads goes nowhere. A draw is given, whatever it takes. */
const injectedDry = (unmet: readonly string[], injected: ReadonlyMap<number, number>): boolean =>
  [...injected].some(([cell, q]) => q > 0 && unmet.includes(String(cell)));

interface Alive extends Edge {
  readonly link: number;
  /** −1 where it is gone against the link's own direction. */
  readonly sign: 1 | -1;
  readonly oneWay: boolean;
  readonly crackPa: number;
}

/** Links that may be gone, each in the direction in which it may be, where there is but one. */
const aliveOf = (ways: Ways): Alive[] => {
  const alive: Alive[] = [];
  ways.network.links.forEach((l, i) => {
    if (ways.dead[i]) return;
    const [onward, back] = [mayGo(ways, i, l.a), mayGo(ways, i, l.b)];
    if (!onward && !back) return;
    const [a, b] = onward ? [l.a, l.b] : [l.b, l.a];
    alive.push({
      link: i,
      a,
      b,
      sign: onward ? 1 : -1,
      oneWay: !(onward && back),
      crackPa: l.oneWay ? l.crackPa : 0,
    });
  });
  return alive;
};

/** From a pipe's middle to its end, or through a part. */
const sizeOf = (
  network: Situation["network"],
  e: Edge,
): Pick<Extract<HydraulicElement, { kind: "pipe" }>, "lengthM" | "boreM" | "lossK"> => {
  const run = network.cells[e.a]?.run ?? network.cells[e.b]?.run;
  const system = run && PIPE_SYSTEMS.get(run.pipe);
  return run && system
    ? { lengthM: run.lengthM / 2, boreM: system.boreM, lossK: END_LOSS_K + INSIDE.lossK / 2 }
    : INSIDE;
};

/** Shares a unit of flow over ways that part, by the hydraulics of the pipes between. */
export const shared = (
  ways: Ways,
  injected: ReadonlyMap<number, number>,
  openings: readonly LiveOpening[],
  { link, opening: share }: Shares,
): boolean => {
  const { network } = ways;
  const alive = aliveOf(ways);
  const ends = [alive.map((e) => e.a), alive.map((e) => e.b)];
  const { cells, at } = numbered(network, [injected.keys(), openings.map((o) => o.cell), ...ends]);
  // Where liquid is drawn away, openings let air in: they stand at the air's pressure. So does a tank by its vent.
  const drawn = [...injected].flatMap(([cell, q]) => (q < 0 ? [joined(ways, cell, false)] : []));
  const isDrawn = (cell: number): boolean => drawn.some((there) => there[cell] === 1);
  const [fixed, outlets]: [Set<number>, HydraulicOutlet[]] = [new Set(), []];
  const outletOf = openings.map((o) => {
    if (o.use === "vent" || isDrawn(o.cell)) {
      fixed.add(o.cell);
      return -1;
    }
    const coefficient = o.use === "outlet" ? TAP_COEFFICIENT : HOLE_COEFFICIENT;
    return (
      outlets.push({
        id: o.id,
        node: at[o.cell] as number,
        heightM: 0,
        coefficient,
        densityKgM3: WATER.densityKgM3,
      }) - 1
    );
  });
  const nodes = cells.map<HydraulicNode>((cell) => {
    const q = injected.get(cell);
    return fixed.has(cell)
      ? { id: String(cell), heightM: 0, fixedPa: 0 }
      : q === undefined
        ? { id: String(cell), heightM: 0 }
        : { id: String(cell), heightM: 0, drawM3PerS: -q * COMMON_M3PERS };
  });
  const elements = alive.map<HydraulicElement>((e) => {
    const { lengthM, boreM, lossK } = sizeOf(network, e);
    const [from, to] = [at[e.a] as number, at[e.b] as number];
    const pipe = {
      id: String(e.link),
      kind: "pipe",
      from,
      to,
      lengthM,
      boreM,
      lossK,
      roughnessM: ROUGHNESS_M,
      liquid: WATER,
    } as const;
    return e.oneWay ? { ...pipe, oneWay: true, crackPa: e.crackPa } : pipe;
  });
  const solved = solveHydraulics({ nodes, elements, outlets });
  if (!solved.ok || injectedDry(solved.unmet, injected)) return false;
  const carried: (Alive & { q: number })[] = [];
  alive.forEach((e, i) => {
    const q = (solved.flowsM3PerS[i] ?? 0) / COMMON_M3PERS;
    if (Math.abs(q) >= SHARE_FLOOR) carried.push({ ...e, q });
  });
  const net = new Map(injected);
  const isOpening = new Set(openings.map((o) => o.cell));
  for (const e of balance(network, carried, injected, isOpening)) {
    link[e.link] = e.sign * e.q;
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
    const here = openings.flatMap((other, k) =>
      other.cell === o.cell && (outletOf[k] as number) >= 0
        ? [solved.outM3PerS[outletOf[k] as number] ?? 0]
        : [],
    );
    const sum = here.reduce((s, q) => s + q, 0);
    share[i] = fixed.has(o.cell) || sum <= 0 ? 0 : (all * (solved.outM3PerS[n] ?? 0)) / sum;
  });
  return true;
};

/**
 * Takes the last crumbs of an iteration out of flows: along a tree from the open cells what comes in is what goes on, exactly;
 * only ways that close a circle keep the flow that was found.
 */
const balance = <E extends Edge & { readonly q: number }>(
  network: Situation["network"],
  flows: readonly E[],
  injected: ReadonlyMap<number, number>,
  isOpen: ReadonlySet<number>,
): E[] => {
  const { cells, at } = numbered(
    network,
    flows.map((e) => [e.a, e.b]),
  );
  const near: number[][] = cells.map(() => []);
  flows.forEach((e, i) => {
    near[at[e.a] as number]?.push(i);
    near[at[e.b] as number]?.push(i);
  });
  // By which flow each cell hangs on the open ones: -1 for those themselves, -2 where it does not.
  const parent = new Int32Array(cells.length).fill(-2);
  const order: number[] = [];
  cells.forEach((cell, k) => {
    if (!isOpen.has(cell)) return;
    parent[k] = -1;
    order.push(k);
  });
  const inTree = new Uint8Array(flows.length);
  for (const k of order)
    for (const i of near[k] ?? []) {
      const e = flows[i] as E;
      const next = at[e.a === cells[k] ? e.b : e.a] as number;
      if ((parent[next] as number) >= -1) continue;
      parent[next] = i;
      inTree[i] = 1;
      order.push(next);
    }
  const q = flows.map((e, i) => (inTree[i] ? 0 : e.q));
  const surplus = Float64Array.from(cells, (cell) => injected.get(cell) ?? 0);
  flows.forEach((e, i) => {
    const [a, b] = [at[e.a] as number, at[e.b] as number];
    surplus[a] = (surplus[a] as number) - (q[i] as number);
    surplus[b] = (surplus[b] as number) + (q[i] as number);
  });
  for (const k of order.toReversed()) {
    const i = parent[k] as number;
    const e = flows[i];
    if (!e) continue;
    const on = surplus[k] as number;
    q[i] = e.a === cells[k] ? on : -on;
    const next = at[e.a === cells[k] ? e.b : e.a] as number;
    surplus[next] = (surplus[next] as number) + on;
  }
  // A piece without an open cell or a forced one has nowhere to come from and to go: its flow is a crumb too.
  const hangs = (cell: number): boolean => (parent[at[cell] as number] as number) >= -1;
  return flows.flatMap((e, i) => (hangs(e.a) && hangs(e.b) ? [{ ...e, q: q[i] as number }] : []));
};
